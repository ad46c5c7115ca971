"""A focus ladder: pictures at stepped slider values, and where the chosen patch is sharpest."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path

from oxlen.core.errors import BadInput
from oxlen.core.focus.ladder import LadderResult, Rung, best_focus
from oxlen.core.focus.sharpness import PatchSharpness, patch_sharpness
from oxlen.core.labels import counted
from oxlen.core.light.meter import Spot
from oxlen.pictures.opening import open_picture

NOISE_MOST = 0.6
"""Of the softest picture's detail at most this share is taken for noise."""


@dataclass(frozen=True)
class Ladder:
    """The samples of a ladder by slider value, ascending, and where the top is."""

    rungs: tuple[Rung, ...]
    result: LadderResult


def focus_ladder(
    files: Sequence[Path],
    values: Sequence[float],
    spot: Spot,
    *,
    progress: Callable[[int], None] = lambda _: None,
) -> Ladder:
    """Measure a ladder; `progress` hears how many pictures are done, and may raise to stop.

    BadInput for fewer than three pictures, or values that do not go with them.
    """
    if len(files) != len(values):
        pictures, dialled = counted(len(files), "picture"), counted(len(values), "value")
        raise BadInput(f"{pictures} and {dialled} do not match.", "values")
    if len(files) < 3:
        raise BadInput("A focus ladder needs at least three pictures.", "values")
    if len(set(values)) < len(values):
        raise BadInput("Two pictures of a ladder have the same slider value.", "values")
    measured: list[tuple[float, tuple[PatchSharpness, ...]]] = []
    for value, path in sorted(zip(values, files, strict=True), key=lambda pair: pair[0]):
        with open_picture(path, path.name) as picture:
            measured.append((value, patch_sharpness(picture.patch(spot).luminance)))
        progress(len(measured))
    return surest(measured)


def surest(measured: Sequence[tuple[float, tuple[PatchSharpness, ...]]]) -> Ladder:
    """The ladder at the scale of detail that leaves the least doubt about its top."""
    count = min(len(sharpness) for _, sharpness in measured)
    scales = [
        _at_scale([(value, patches[place]) for value, patches in measured])
        for place in range(count)
    ]
    ladders = [Ladder(rungs, best_focus(rungs)) for rungs in scales]
    return min(ladders, key=lambda ladder: ladder.result.plus_minus or math.inf)


def _at_scale(measured: Sequence[tuple[float, PatchSharpness]]) -> tuple[Rung, ...]:
    softest = min(patch.energy for _, patch in measured)
    noise = min(min(patch.noise for _, patch in measured), NOISE_MOST * softest)
    return tuple(
        Rung(value, max(patch.energy - noise, 1e-12), patch.sigma) for value, patch in measured
    )
