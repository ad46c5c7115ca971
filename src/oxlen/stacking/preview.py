"""A small look at what has come together so far."""

from __future__ import annotations

import io
from pathlib import Path

import numpy as np
from PIL import Image

from oxlen.stacking.gathering import Gathered
from oxlen.stacking.kept import replace_file
from oxlen.stacking.writing import coded

PREVIEW, SIDE_PX, QUALITY = "preview.jpg", 900, 85


def write_preview(folder: Path, sums: Gathered) -> None:
    """Keep a small picture of what is gathered, every so-and-so-many pixels of it."""
    step = max(1, max(sums.shape[:2]) // SIDE_PX)
    rows = np.concatenate([sums.result(y, y + 1)[:, ::step] for y in range(0, sums.shape[0], step)])
    codes = np.asarray(coded(rows, float(sums.top)) >> 8, dtype=np.uint8)
    drawn = io.BytesIO()
    Image.fromarray(codes).save(drawn, "JPEG", quality=QUALITY)
    replace_file(folder / PREVIEW, drawn.getvalue())
