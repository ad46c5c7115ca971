"""Reading and metering against a bare decode of the same file by the same library."""

from __future__ import annotations

import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import rawpy
from PIL import Image
from tests.pictures.making import dng, exif, jpeg

from bench.measure import best_ms, peak_mb, process_ms
from oxlen.core.light.meter import Spot
from oxlen.pictures.reading import read_picture

SPOTS = [Spot("a", 0.3, 0.4), Spot("b", 0.6, 0.7)]
BARE_JPEG = "import sys, numpy; from PIL import Image; Image.open(sys.argv[1]).load()"
BARE_RAW = (
    "import sys, numpy, PIL.Image, tifffile, rawpy; r = rawpy.RawPy(); "
    "r.open_file(sys.argv[1]); r.unpack()"
)
OURS = (
    "import sys; from pathlib import Path; from oxlen.pictures.reading import read_picture; "
    "read_picture(Path(sys.argv[1]))"
)


def figures() -> Iterator[tuple[str, float, float]]:
    """(name, ratio measured, ratio wanted at most)."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        picture, raw, small = _files(folder)
        bare, ours = best_ms(
            lambda: Image.open(picture).load(), lambda: read_picture(picture, spots=SPOTS)
        )
        yield f"12 MP JPEG read and metered / bare decode ({bare:.0f} ms)", ours / bare, 1.3
        bare, ours = best_ms(lambda: _unpack(raw), lambda: read_picture(raw, spots=SPOTS), rounds=5)
        yield f"50 MP DNG read and metered / bare unpack ({bare:.0f} ms)", ours / bare, 1.3
        for label, path, code in (("JPEG", picture, BARE_JPEG), ("DNG", raw, BARE_RAW)):
            bare_mb = peak_mb(code, str(path))
            ratio = peak_mb(OURS, str(path)) / bare_mb
            yield f"{label} peak memory / bare decode ({bare_mb:.0f} MB)", ratio, 1.5
        imports = process_ms(sys.executable, "-c", "import numpy, PIL.Image")
        whole = process_ms(sys.executable, "-m", "oxlen", "meter", str(small))
        yield f"oxlen meter, whole process / imports ({imports:.0f} ms)", whole / imports, 3.0


def _files(folder: Path) -> tuple[Path, Path, Path]:
    generator = np.random.default_rng(3)
    waves = np.sin(np.arange(4000) / 60)[None, :] * np.sin(np.arange(3000) / 45)[:, None]
    plane = 120 + 80 * waves[..., None] + generator.normal(0, 5, (3000, 4000, 3))
    picture, raw, small = (folder / name for name in ("a.jpg", "a.dng", "small.jpg"))
    Image.fromarray(np.clip(plane, 0, 255).astype(np.uint8)).save(
        picture, quality=92, exif=exif().tobytes()
    )
    raw.write_bytes(dng(generator.integers(100, 3000, (6120, 8160)).astype(np.uint16)))
    small.write_bytes(jpeg(np.full((300, 400, 3), 118)))
    return picture, raw, small


def _unpack(path: Path) -> None:
    with rawpy.RawPy() as raw:
        raw.open_file(str(path))
        raw.unpack()
