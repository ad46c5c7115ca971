"""Code values as light: the decoded pixels of a processed picture, in rows, discs and patches."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from oxlen.core.constants import BLOCKED_CODE, CLIPPED_CODE
from oxlen.core.light.meter import Spot, Tones, channel_stops, disc_box, disc_mask, sample_rows
from oxlen.core.light.patch import Patch
from oxlen.core.light.tone import highest_channel, linear_table, luminance_share

SAMPLE_PIXELS = 400_000
"""Pixels a frame's figures rest on: all of a small picture, whole rows spread over a large one."""
SPOT_PIXELS = 1_000_000
"""Most pixels a spot's figures rest on: rows spread over it where it is larger."""
BAND_PIXELS = 2_000_000
"""Pixels made small at a time for a preview."""
Box = tuple[int, int, int, int]
"""A pixel box: left, top, right, bottom."""
Rows = Callable[[Box], NDArray[Any]]


class ProcessedPixels:
    """The decoded pixels of a processed file, as stored (not yet turned upright).

    `box` hands out code values of a pixel box, shape (h, w, 3) or (h, w), 8 or 16 bits; `grey`,
    where there is one, the luma of the whole picture, faster; `linear`
    the light of every code where it is not sRGB's.
    """

    def __init__(
        self,
        width: int,
        height: int,
        top_code: int,
        *,
        box: Rows,
        grey: Callable[[], NDArray[Any]] | None = None,
        linear: NDArray[np.float32] | None = None,
    ) -> None:
        self._curve = linear
        self.width, self.height = width, height
        self._grey = grey
        self._top_code = top_code
        self._box = box

    def codes(self) -> NDArray[Any]:
        """Code values of the whole picture, shape (h, w, 3) or (h, w)."""
        return self._box((0, 0, self.width, self.height))

    def sample(self, *, strongest: bool = False) -> Tones:
        """Tones of the frame: every pixel, or an even sample of whole rows."""
        rows = sample_rows(self.height, max(1, SAMPLE_PIXELS // self.width))
        if rows.size == self.height:
            codes = self._box((0, 0, self.width, self.height))
        else:
            codes = np.concatenate([self._box((0, int(y), self.width, int(y) + 1)) for y in rows])
        tones = replace(self._tones(codes), row_length=self.width)
        if not strongest or not self._is_colour(codes):
            return tones
        return replace(tones, strongest=np.take(self._linear, highest_channel(codes)).ravel())

    def disc(self, spot: Spot) -> Tones:
        """Tones under a spot given on the stored pixels: of every pixel, or rows spread over it."""
        left, top, right, bottom = disc_box(spot, self.width, self.height)
        mask = disc_mask(spot, self.width, self.height)
        rows = sample_rows(bottom - top, max(1, SPOT_PIXELS // (right - left)))
        if rows.size == bottom - top:
            codes = self._box((left, top, right, bottom))[mask]
        else:
            lines = [self._box((left, top + int(y), right, top + int(y) + 1))[0] for y in rows]
            codes = np.stack(lines)[mask[rows]]
        tones = self._tones(codes)
        return replace(tones, channel_stops=self._channel_stops(codes, tones))

    def patch(self, spot: Spot) -> Patch:
        """A spot's box as a patch: its mean linear colour, its luminance pixel by pixel."""
        codes = self._box(disc_box(spot, self.width, self.height))
        linear = np.take(self._linear, codes)
        highest = highest_channel(codes) if self._is_colour(codes) else codes
        if not self._is_colour(codes):
            linear = np.repeat(linear[..., None], 3, axis=-1)
        return Patch(
            np.asarray(linear.reshape(-1, 3).mean(axis=0, dtype=float)),
            np.asarray(luminance_share(linear), dtype=np.float32),
            float(np.mean(highest >= CLIPPED_CODE / 255 * self._top_code)),
        )

    def luminance(self) -> NDArray[np.float32]:
        """Linear luminance of the whole picture, shape (h, w), by its luma: for sharpness."""
        import cv2  # only where sharpness is judged: metering does without it

        whole = (0, 0, self.width, self.height)
        codes = self._box(whole) if self._grey is None else self._grey()
        if self._is_colour(codes):
            codes = np.asarray(cv2.cvtColor(codes, cv2.COLOR_RGB2GRAY))
        if codes.dtype == np.uint8:
            return np.asarray(cv2.LUT(codes, self._linear), dtype=np.float32)
        return np.asarray(np.take(self._linear, codes), dtype=np.float32)

    def preview(self, side: int) -> Image.Image:
        """A small RGB picture with its longest side at most `side`, made band by band."""
        step = max(1, max(self.width, self.height) // side)
        band = max(1, BAND_PIXELS // (self.width * step)) * step
        small = [
            np.asarray(
                _image_of(self._box((0, y, self.width, min(y + band, self.height)))).reduce(step)
            )
            for y in range(0, self.height, band)
        ]
        image = Image.fromarray(np.concatenate(small))
        image.thumbnail((side, side), Image.Resampling.BOX)
        return image.convert("RGB")

    def _tones(self, codes: NDArray[Any]) -> Tones:
        luminance = self._luminance(codes)
        highest = highest_channel(codes) if self._is_colour(codes) else codes
        return Tones(
            luminance.ravel(),
            float(np.mean(highest >= CLIPPED_CODE / 255 * self._top_code)),
            float(np.mean(highest <= BLOCKED_CODE / 255 * self._top_code)),
        )

    def _channel_stops(self, codes: NDArray[Any], tones: Tones) -> float:
        if not self._is_colour(codes):
            return 0.0
        means = np.take(self._linear, codes).reshape(-1, 3).mean(axis=0, dtype=float)
        return channel_stops(means, float(tones.luminance.mean(dtype=float)))

    def _luminance(self, codes: NDArray[Any]) -> NDArray[np.floating]:
        linear = np.take(self._linear, codes)
        return luminance_share(linear) if self._is_colour(codes) else linear

    @staticmethod
    def _is_colour(codes: NDArray[Any]) -> bool:
        return codes.shape[-1] == 3 and codes.ndim >= 2

    @cached_property
    def _linear(self) -> NDArray[np.float32]:
        return linear_table(self._top_code) if self._curve is None else self._curve


def _image_of(codes: NDArray[Any]) -> Image.Image:
    """8-bit picture of code values of 8 or 16 bits."""
    eight = (codes >> 8).astype(np.uint8) if codes.dtype == np.uint16 else codes
    return Image.fromarray(np.ascontiguousarray(eight))
