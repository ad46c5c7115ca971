"""A whole picture as integer levels of linear light, for putting frames together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import PixelsUnreadable
from oxlen.core.light.tone import linear_table
from oxlen.pictures.container import container_of
from oxlen.pictures.opening import open_picture
from oxlen.pictures.raw import RawPicture

TOP_8, TOP_16 = 32767, 65534
"""Level of white of 8-bit and 16-bit codes: sums of 512 frames of 8 bits stay exact in float32."""


@dataclass(frozen=True)
class WholeFrame:
    """Pixels as stored, not turned upright, shape (h, w) or (h, w, 3), 8 or 16 bits.

    `table` gives the level of linear light of each code, None where values are levels already;
    white is at `top`. A mosaic has its black level (tile, in DN) and is (h, w).
    """

    values: NDArray[Any]
    table: NDArray[np.uint16] | None
    top: int
    black: NDArray[np.float64] | None = None

    def levels(self, first: int, last: int) -> NDArray[np.uint16]:
        """Levels of the rows from `first` to before `last`."""
        rows = self.values[first:last]
        if self.table is None:
            return np.asarray(rows)
        if rows.dtype == np.uint8:
            import cv2  # many times faster than the same by numpy

            return np.asarray(cv2.LUT(rows, self.table))
        return np.asarray(np.take(self.table, rows))


@lru_cache(maxsize=2)
def level_table(top_code: int) -> NDArray[np.uint16]:
    """Levels of the codes of sRGB, 255 or 65535 at most."""
    top = TOP_8 if top_code == 255 else TOP_16
    return np.asarray(np.rint(linear_table(top_code).astype(np.float64) * top), dtype=np.uint16)


def whole_frame(
    path: Path, name: str, *, mosaic: bool = True, balance: Sequence[float] | None = None
) -> WholeFrame:
    """All pixels of a file. PixelsUnreadable when they are cut or damaged, PictureError before.

    A raw file as its mosaic, or with `mosaic` false developed to linear sRGB at a white balance
    (gains of R, G, B and G; its own where none is given).
    """
    if container_of(path, name) == "JPEG":
        found = _fast_jpeg(path)
        if found is not None:
            return WholeFrame(found, level_table(255), TOP_8)
    with open_picture(path, name) as picture:
        if picture.facts.kind != "raw":
            codes = np.asarray(picture.source.pixels.codes())
            top_code = 65535 if codes.dtype == np.uint16 else 255
            return WholeFrame(codes, level_table(top_code), TOP_16 if top_code > 255 else TOP_8)
        picture.pixels.sample()  # whether they can be read at all, in words
        raw: Any = picture.source
        if not mosaic or raw.mosaic.ndim == 3:
            return WholeFrame(_developed(raw, balance), None, TOP_16)
        black, white = raw.levels
        return WholeFrame(raw.mosaic.copy(), None, round(white), black=black[raw.pattern])


def _developed(raw: RawPicture, balance: Sequence[float] | None) -> NDArray[np.uint16]:
    """Linear sRGB (h, w, 3) as stored, mid at 0.18 of white: balanced by gains, or by its own."""
    lift = 2.0**raw.colour.baseline_exposure_stops
    developed = raw.decoder.postprocess(
        user_wb=list(balance or _gains(raw)),
        no_auto_bright=True,
        output_bps=16,
        gamma=(1, 1),
        user_flip=0,
        bright=lift,
    )
    if developed.shape[-1] != 3:
        developed = np.repeat(developed[..., :1], 3, axis=2)
    return np.asarray(np.minimum(developed, TOP_16), dtype=np.uint16)


def _gains(raw: RawPicture) -> tuple[float, ...]:
    """Gains of R, G, B and the second green that the phone balanced by."""
    gains = [float(gain) for gain in raw.decoder.camera_whitebalance]
    if len(gains) == 4 and gains[3] <= 0:
        gains[3] = gains[1]
    return tuple(gains)


def _fast_jpeg(path: Path) -> NDArray[Any] | None:
    """A JPEG in colour, decoded without a detour; None where it is of another kind or damaged."""
    import imagecodecs  # large, and seldom needed

    try:
        codes = np.asarray(imagecodecs.jpeg8_decode(path.read_bytes()))
    except Exception:  # the slower way says in words what is wrong
        return None
    return codes if codes.ndim == 3 and codes.shape[2] == 3 else None


def own_balance(path: Path, name: str) -> tuple[float, ...] | None:
    """Gains of R, G, B and G that a raw file was balanced by; None for any other."""
    with open_picture(path, name) as picture:
        if picture.facts.kind != "raw":
            return None
        gains = _gains(picture.source)
    if len(gains) != 4 or min(gains[:3]) <= 0:
        raise PixelsUnreadable(name, "it has no white balance data.")
    return gains
