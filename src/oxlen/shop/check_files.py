"""Every file of a shop series compared with the reference, one open at a time."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import OxlenError
from oxlen.core.light.meter import Spot
from oxlen.core.series.comparing import SeriesDifference, series_difference
from oxlen.core.series.look import LOOK_PX, SeriesLook, series_look
from oxlen.core.series.matching import Recipe, recipe
from oxlen.pictures.opening import open_picture

OTHER_SHAPE = "It has another shape than the reference: turn or crop it first."
NOT_COMPARED = "Its thing or light cannot be compared."


@dataclass(frozen=True)
class CheckedSeriesFile:
    """A file, how it differs, and what makes it match; without them the sentence says why."""

    name: str
    difference: SeriesDifference | None
    recipe: Recipe | None = None
    why: str = ""


def check_files(
    files: Sequence[Path],
    reference: Path,
    *,
    grey: Spot | None = None,
    progress: Callable[[int], None] = lambda _: None,
) -> list[CheckedSeriesFile]:
    """Compare files (any picture) with the reference; one that cannot be read is named.

    `progress` hears how many are done, and may raise to stop. PictureError for a reference that
    cannot be read.
    """
    wanted = look_at(reference, grey)
    found = []
    for path in files:
        found.append(checked_file(path, path.name, wanted, grey=grey))
        progress(len(found))
    return found


def shown(path: Path) -> NDArray[np.uint8]:
    """A file's upright sRGB codes at the size it is measured at. PictureError for a damaged one."""
    with open_picture(path, path.name) as picture:
        return np.asarray(picture.quick_preview(LOOK_PX))


def look_at(path: Path, grey: Spot | None) -> SeriesLook:
    """Measure one file. PictureError where it cannot be read."""
    return series_look(shown(path), grey)


def checked_file(
    path: Path, name: str, wanted: SeriesLook, *, grey: Spot | None
) -> CheckedSeriesFile:
    """One file compared with the reference; a damaged one says why."""
    try:
        look = look_at(path, grey)
    except OxlenError as error:
        return CheckedSeriesFile(name, None, why=error.message)
    if look.lost.shape != wanted.lost.shape:
        return CheckedSeriesFile(name, None, why=OTHER_SHAPE)
    found = series_difference(look, wanted)
    how = recipe(found, look, wanted)
    return CheckedSeriesFile(name, found, how, why="" if how else NOT_COMPARED)
