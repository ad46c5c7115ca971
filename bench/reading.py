"""Reading and metering against a bare decode of the same file by the same library."""

from __future__ import annotations

import sys
import tempfile
from pathlib import Path

import numpy as np
import rawpy
from PIL import Image
from tests.pictures.making import dng, exif, jpeg

from bench.harness.measure import Figure, Figures, in_turns, peak_mb, process
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


def figures() -> Figures:
    """What is measured."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        picture, raw, small = _files(folder)
        jpeg_ratio = in_turns(
            lambda: read_picture(picture, spots=SPOTS), lambda: Image.open(picture).load()
        )
        yield jpeg_ratio.figure("reading/jpeg-by-decode")
        raw_ratio = in_turns(lambda: read_picture(raw, spots=SPOTS), lambda: _unpack(raw))
        yield raw_ratio.figure("reading/raw-by-unpack")
        for label, path, code in (("jpeg", picture, BARE_JPEG), ("raw", raw, BARE_RAW)):
            bare_mb = peak_mb(code, str(path))
            grown = peak_mb(OURS, str(path)) / bare_mb
            yield Figure(f"reading/{label}-memory-by-decode", grown, note=f"{bare_mb:.0f} MB")
        whole = process(sys.executable, "-m", "oxlen", "meter", str(small))
        imports = process(sys.executable, "-c", "import numpy, PIL.Image")
        yield in_turns(whole, imports).figure("reading/meter-by-imports")


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
