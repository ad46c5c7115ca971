"""Checking and handing over a shop series of 12 megapixels against decoding and encoding alone.

`python -m bench.shop_work`.
"""

from __future__ import annotations

import io
import sys
import tempfile
from pathlib import Path

import cv2
import numpy as np
from PIL import Image
from tests.shop.held_codes import held

from bench.harness.measure import Figure, Figures, in_turns
from oxlen.core.series.matching import with_common_crop
from oxlen.devices.standins.bench_series import Bench, Mistake, series_jpeg
from oxlen.shop.check_files import checked_file, look_at
from oxlen.shop.codes import thing_of_code
from oxlen.shop.export import HandOver, SeriesPicture, hand_over
from oxlen.shop.uses import BEST, FULL

PICTURES, ROUNDS = 6, 5
SIDES_PX = (4000, 3000)
CODES = 200


def figures() -> Figures:
    """What is measured: ratios, and codes that are not read of 200 frames."""
    with tempfile.TemporaryDirectory() as name:
        files = _files(Path(name))
        wanted = look_at(files[0], None)

        def check() -> None:
            for path in files:
                checked_file(path, path.name, wanted, grey=None)

        yield in_turns(check, lambda: _decoded(files), ROUNDS).figure("shop-work/check-by-decode")
        found = [checked_file(path, path.name, wanted, grey=None).recipe for path in files]
        recipes = with_common_crop(filter(None, found), wanted.lost.shape)
        pictures = [
            SeriesPicture(path, path.name, number, recipe=how)
            for number, (path, how) in enumerate(zip(files, recipes, strict=True), start=1)
        ]

        def export() -> None:
            hand_over(pictures, HandOver("{number}", (FULL,)), lambda _name, _contents: None)

        yield in_turns(export, lambda: _recoded(files), ROUNDS).figure("shop-work/export-by-recode")
    for kind in ("qr", "data matrix"):
        draw = np.random.default_rng(99)
        frames = (held(kind, draw=draw) for _ in range(CODES))
        unread = sum(thing_of_code(frame) != uid for frame, uid in frames)
        yield Figure(f"shop-work/{kind.replace(' ', '-')}-unread-%", 100 * unread / CODES)


def _files(folder: Path) -> list[Path]:
    """Pictures of a series with a phone's noise; every third has a mistake to mend."""
    bench, files = Bench(5), []
    for number in range(PICTURES):
        wrong = Mistake(stops=-0.3, tilt_deg=1.5) if number % 3 == 1 else None
        large = cv2.resize(bench.take(number, wrong), SIDES_PX, interpolation=cv2.INTER_CUBIC)
        noisy = large + np.random.default_rng(number).normal(0, 3, large.shape)
        path = folder / f"{number}.jpg"
        codes = np.clip(noisy, 0, 255).astype(np.uint8)
        path.write_bytes(series_jpeg(codes, "2026-10-03T10:00:00"))
        files.append(path)
    return files


def _decoded(files: list[Path]) -> None:
    for path in files:
        with Image.open(path) as image:
            np.asarray(image.convert("RGB"))


def _recoded(files: list[Path]) -> None:
    for path in files:
        with Image.open(path) as image:
            image.convert("RGB").save(io.BytesIO(), "JPEG", quality=BEST)


if __name__ == "__main__":
    for figure in figures():
        print(f"{figure.id} {figure.measured:.2f} {figure.note}", file=sys.stdout)
