"""A shop series handed over: every picture made to match, named by a pattern, with a list."""

from __future__ import annotations

import csv
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from PIL import Image

from oxlen.core.errors import BadInput, OxlenError
from oxlen.core.light.meter import Spot
from oxlen.core.series.comparing import SeriesDifference, series_difference
from oxlen.core.series.look import SeriesLook
from oxlen.core.series.matching import Recipe, matched, recipe, with_common_inset
from oxlen.pictures.opening import open_picture
from oxlen.pictures.srgb_profile import srgb_profile
from oxlen.shop.check_files import OTHER_SHAPE, look_at

QUALITY = 92
PATTERN_FIELDS = "{number}, {name}"
LIST = "series.csv"
COLUMNS = ("number", "file", "from", "verdict", "reasons", "held_stops")
LARGEST_PX = 20_000


@dataclass(frozen=True)
class Exported:
    """A picture as handed over; `file` is "" and `why` says so where it was left out."""

    source: str
    file: str
    reasons: tuple[str, ...] = ()
    held_stops: float = 0.0
    why: str = ""


@dataclass(frozen=True)
class HandOver:
    """Where pictures go, how they are named and how large they are (px; None as they are)."""

    folder: Path
    pattern: str = "{number:02d}"
    side_px: int | None = None

    def name(self, number: int, source: Path) -> str:
        """The file name of a picture. BadInput for a pattern that cannot be filled."""
        try:
            name = self.pattern.format(number=number, name=source.stem)
        except (KeyError, IndexError, ValueError) as error:
            words = f"The pattern {self.pattern} may only use {PATTERN_FIELDS}."
            raise BadInput(words, "name") from error
        if not name or "/" in name or "\0" in name or name.startswith("."):
            raise BadInput(f"{name} is no file name.", "name")
        return f"{name}.jpg"


def export_files(
    files: Sequence[Path],
    reference: Path,
    to: HandOver,
    *,
    grey: Spot | None = None,
    progress: Callable[[int], None] = lambda _: None,
) -> list[Exported]:
    """Write every picture that can be made to match as an sRGB JPEG without metadata, and a list.

    Pictures are read twice, one at a time: to find the crop all of them share, and to be written.
    BadInput where two names are the same, or a file is there already.
    """
    names = [to.name(number, path) for number, path in enumerate(files, start=1)]
    if len(set(names)) < len(names):
        raise BadInput(f"The pattern {to.pattern} gives two pictures the same name.", "name")
    there = [name for name in (*names, LIST) if (to.folder / name).exists()]
    if there:
        raise BadInput(f"{there[0]} is in the folder already. Choose an empty one.", "out")
    to.folder.mkdir(parents=True, exist_ok=True)
    wanted = look_at(reference, grey)
    asked = [_asked(path, wanted, grey) for path in files]
    found = iter(with_common_inset(filter(None, (how for _, how, _ in asked)), wanted.lost.shape))
    done = []
    for path, name, (difference, how, why) in zip(files, names, asked, strict=True):
        if how is None:
            done.append(Exported(path.name, "", why=why))
        else:
            common = next(found)
            _write(path, common, to.folder / name, side_px=to.side_px)
            reasons = () if difference is None else difference.reasons
            done.append(Exported(path.name, name, reasons, held_stops=common.held_stops))
        progress(len(done))
    _list(done, to.folder / LIST)
    return done


Asked = tuple[SeriesDifference | None, Recipe | None, str]


def _asked(path: Path, wanted: SeriesLook, grey: Spot | None) -> Asked:
    """How a file differs, what makes it match, or why nothing does."""
    try:
        look = look_at(path, grey)
    except OxlenError as error:
        return None, None, error.message
    if look.lost.shape != wanted.lost.shape:
        return None, None, OTHER_SHAPE
    difference = series_difference(look, wanted)
    how = recipe(difference, look, wanted)
    return difference, how, "" if how else "Its thing or light cannot be compared."


def _write(path: Path, how: Recipe, target: Path, *, side_px: int | None) -> None:
    with open_picture(path, path.name) as picture:
        codes = np.asarray(picture.preview(LARGEST_PX))
    image = Image.fromarray(matched(codes, how))
    if side_px is not None:
        image.thumbnail((side_px, side_px), Image.Resampling.LANCZOS)
    image.save(target, "JPEG", quality=QUALITY, icc_profile=srgb_profile())


def _list(done: Sequence[Exported], target: Path) -> None:
    with target.open("w", encoding="utf-8", newline="") as file:
        rows = csv.writer(file)
        rows.writerow(COLUMNS)
        for number, each in enumerate(done, start=1):
            verdict = "left out" if each.why else "matched"
            reasons = each.why or " ".join(each.reasons)
            held = f"{each.held_stops:.2f}"
            rows.writerow((number, each.file, each.source, verdict, reasons, held))
