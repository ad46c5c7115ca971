"""Sharpness maps and focus ladders against decoding the same pictures: `python -m bench sharpness`.

Each in turns with its own yardstick, so that a busy machine slows both.
"""

from __future__ import annotations

import tempfile
from pathlib import Path

import numpy as np
from PIL import Image

from bench.harness.measure import Figures, in_turns
from oxlen.core.focus.local_sharpness import sharpness_map
from oxlen.core.light.meter import Spot
from oxlen.metering.ladder import focus_ladder
from oxlen.pictures.opening import open_picture

SIZE = (4080, 3060)
RUNGS, TURNS = 9, 5


def picture(folder: Path, seed: int) -> Path:
    """A JPEG of 12 megapixels with texture and noise in it."""
    draw = np.random.default_rng(seed)
    coarse = draw.uniform(40, 210, (SIZE[1] // 6, SIZE[0] // 6, 3)).astype(np.uint8)
    image = Image.fromarray(coarse).resize(SIZE, Image.Resampling.BICUBIC)
    noisy = np.clip(
        np.asarray(image, np.int16) + draw.integers(-6, 7, (SIZE[1], SIZE[0], 1)), 0, 255
    )
    path = folder / f"rung-{seed}.jpg"
    Image.fromarray(noisy.astype(np.uint8)).save(path, quality=92)
    return path


def decoded(paths: list[Path]) -> None:
    """Decode pictures and nothing else."""
    for path in paths:
        with Image.open(path) as image:
            image.load()


def figures() -> Figures:
    """A sharpness map and a ladder of 12-megapixel pictures, as multiples of decoding them."""
    spot = Spot("patch", 0.5, 0.5, r=0.05)
    values = [0.1 * place for place in range(RUNGS)]
    with tempfile.TemporaryDirectory() as name:
        paths = [picture(Path(name), seed) for seed in range(RUNGS)]
        with open_picture(paths[0], "rung") as opened:
            opened.pixels  # noqa: B018  decoded before the clock starts

            def mapped() -> object:
                return sharpness_map(opened.luminance())

            ratio = in_turns(mapped, lambda: decoded(paths[:1]))
        yield ratio.figure("sharpness/map-by-decode")
        ratio = in_turns(
            lambda: focus_ladder(paths, values, spot), lambda: decoded(paths), rounds=TURNS
        )
        yield ratio.figure("sharpness/ladder-by-decode")
