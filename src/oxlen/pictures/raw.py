"""Raw pictures: the linear mosaic through LibRaw, metered before any balancing."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from functools import cached_property
from pathlib import Path
from typing import Any

import numpy as np
import rawpy
from numpy.typing import NDArray
from PIL import Image
from PIL.ExifTags import Base

from oxlen.core.colour.camera_neutral import ColourMatrix
from oxlen.core.constants import MID_LINEAR
from oxlen.core.errors import PixelsUnreadable
from oxlen.core.light.linear_picture import LinearPicture
from oxlen.core.light.meter import Spot, Tones, channel_stops, disc_box, disc_mask, sample_rows
from oxlen.core.light.patch import Patch
from oxlen.core.light.tone import LUMA
from oxlen.core.sensor.raw_level import (
    RAW_CLIPPED_SHARE,
    luminance_weights,
    raw_linear,
)
from oxlen.pictures.area_means import area_means
from oxlen.pictures.exposure_tags import number, numbers
from oxlen.pictures.memory import check_bytes
from oxlen.pictures.processed_pixels import SAMPLE_PIXELS, SPOT_PIXELS
from oxlen.pictures.raw_colour import D65_K, RawColour, matrices_of

CHANNELS = "RGB"
MOST_BASELINE_STOPS = 12.0
SRGB_GAMMA = (2.4, 12.92)  # power and toe of IEC 61966-2-1, as the decoder takes them
LOST_SITES_SHARE = 0.12
"""A pixel with more of its photosites clipped is lost: half of its tiles in one channel."""
MOSAIC_BYTES, WHOLE_BYTES = 8, 16
"""Bytes a pixel takes while it is unpacked and developed: of a mosaic, of RGB (measured)."""
DAMAGED_RAW = "its raw pixels are damaged and were not metered."
UNKNOWN_KIND = "its raw pixels are of a kind Oxlen cannot open yet."


class RawPicture:
    """A raw file's mosaic, unpacked when asked for, as stored (not yet turned upright).

    Call only after the container's extents were checked: the decoder fills what is missing with
    whatever memory held.
    """

    def __init__(
        self, path: Path, name: str, tags: Mapping[int, Any], *, is_mosaic: bool = True
    ) -> None:
        self.name, self._tags, self._is_mosaic = name, tags, is_mosaic
        self._raw = rawpy.RawPy()
        try:
            self._raw.open_file(str(path))
        except rawpy.LibRawError as error:
            raise PixelsUnreadable(
                name, "its raw pixels are packed in a way Oxlen cannot open yet."
            ) from error

    def close(self) -> None:
        """Release the file and its pixels."""
        self._raw.close()

    @property
    def size(self) -> tuple[int, int]:
        """Width and height as stored, without the masked border."""
        return int(self._raw.sizes.width), int(self._raw.sizes.height)

    @property
    def decoder_tags(self) -> dict[int, Any]:
        """Exposure as the decoder reads it, by EXIF tag number: for containers other than TIFF."""
        try:
            other, lens = self._raw.other, self._raw.lens
        except rawpy.LibRawError as error:
            raise PixelsUnreadable(self.name, DAMAGED_RAW) from error
        pairs = {
            Base.ISOSpeedRatings: other.iso_speed,
            Base.ExposureTime: other.shutter_speed,
            Base.FNumber: other.aperture,
            Base.FocalLength: other.focal_length,
        }
        found: dict[int, Any] = {tag: value for tag, value in pairs.items() if value}
        if lens.model:
            found[Base.LensModel] = lens.model
        flip = {3: 3, 5: 8, 6: 6}.get(int(self._raw.sizes.flip), 1)
        return {**found, Base.Orientation: flip}

    @property
    def pixel_bytes(self) -> int:
        """Memory its pixels take while they are unpacked and developed, from its header alone."""
        sizes = self._raw.sizes
        pixels = max(int(sizes.raw_width) * int(sizes.raw_height), self.size[0] * self.size[1])
        return pixels * (MOSAIC_BYTES if self._is_mosaic else WHOLE_BYTES)

    @cached_property
    def mosaic(self) -> NDArray[np.uint16]:
        """Raw values: (h, w), or (h, w, 3) when the file was already made whole."""
        check_bytes(self.pixel_bytes, self.name)
        try:
            self._raw.unpack()
            visible = self._raw.raw_image_visible
        except rawpy.LibRawError as error:
            raise PixelsUnreadable(self.name, DAMAGED_RAW) from error
        if visible is None:
            raise PixelsUnreadable(self.name, UNKNOWN_KIND)
        return np.asarray(visible)

    @cached_property
    def colour(self) -> RawColour:
        """Luminance weights and place of mid, from the file's colour matrix and neutral."""
        baseline = number(self._tags.get(Base.BaselineExposure)) or 0.0
        if abs(baseline) > MOST_BASELINE_STOPS:
            raise PixelsUnreadable(self.name, f"its mid offset of {baseline:g} stops is not valid.")
        neutral = numbers(self._tags.get(Base.AsShotNeutral))
        if neutral.size != 3 or np.any(neutral <= 0):
            balance = np.asarray(self._raw.camera_whitebalance[:3], dtype=float)
            usable = balance.size == 3 and bool(np.all(balance > 0))
            neutral = 1 / balance if usable else np.ones(3)
        return RawColour(luminance_weights(self.matrices[-1].xyz_to_camera, neutral), baseline)

    @cached_property
    def matrices(self) -> tuple[ColourMatrix, ...]:
        """XYZ to camera colours, as the file or the decoder has them; the daylight one last."""
        own = np.asarray(self._raw.rgb_xyz_matrix[:3], dtype=float)
        return matrices_of(self._tags) or (ColourMatrix(own, D65_K),)

    @cached_property
    def pattern(self) -> NDArray[np.intp]:
        """Channel (0 R, 1 G, 2 B) of each site of the repeating tile, from the visible corner."""
        if self.mosaic.ndim == 3:
            return np.zeros((1, 1), dtype=np.intp)
        tile = self._raw.raw_pattern
        period = 2 if tile is None else tile.shape[0]
        top, left = self._raw.sizes.top_margin, self._raw.sizes.left_margin
        names = self._raw.color_desc.decode()
        sites = [
            [int(self._raw.raw_color(top + y, left + x)) for x in range(period)]
            for y in range(period)
        ]
        if max(map(max, sites)) >= len(names):
            raise PixelsUnreadable(self.name, UNKNOWN_KIND)
        channel = [[CHANNELS.find(names[site]) for site in row] for row in sites]
        return np.asarray(np.maximum(np.asarray(channel), 0), dtype=np.intp)

    @cached_property
    def levels(self) -> tuple[NDArray[np.float64], float]:
        """Black level of each of R, G, B, and white level, in DN."""
        names = self._raw.color_desc.decode()
        # The second green comes last and is 0 in files that have none: the first one counts.
        blacks: dict[str, float] = {}
        for channel, level in zip(names, self._raw.black_level_per_channel, strict=False):
            blacks.setdefault(channel, level)
        black = np.array([blacks.get(name, 0) for name in CHANNELS], dtype=float)
        white = float(self._raw.white_level)
        if white <= black.max():
            raise PixelsUnreadable(self.name, "its white level is not above its black level.")
        return black, white

    def sample(self, *, strongest: bool = False) -> Tones:
        """Tones of the frame: every tile of the mosaic, or an even sample of whole tile rows."""
        period = self.pattern.shape[0]
        width, height = self.size
        tile_rows = sample_rows(height // period, max(1, SAMPLE_PIXELS // (width * period)))
        rows = (tile_rows[:, None] * period + np.arange(period)).ravel()
        tones = replace(self._tones(self.mosaic[rows]), row_length=width // period)
        return replace(tones, strongest=self._strongest(rows)) if strongest else tones

    def _strongest(self, rows: NDArray[np.intp]) -> NDArray[np.floating]:
        """The strongest site of each tile of some rows, on the scale of luminance."""
        cells = self._cells(self.mosaic[rows])
        black, white = self.levels
        flat = cells.reshape(-1, cells.shape[-1])
        linear = np.asarray(raw_linear(flat, black[self._site_channels], white))
        return np.asarray(linear.max(axis=-1) * 2.0**self.colour.baseline_exposure_stops)

    def disc(self, spot: Spot) -> Tones:
        """Tones under a spot given on the stored pixels: of every tile, or rows spread over it."""
        period = self.pattern.shape[0]
        width, height = self.size[0] // period, self.size[1] // period
        left, top, right, bottom = disc_box(spot, width, height)
        rows = sample_rows(bottom - top, max(1, SPOT_PIXELS // (right - left)))
        lines = ((top + rows)[:, None] * period + np.arange(period)).ravel()
        block = self.mosaic[lines, left * period : right * period]
        return self._tones(block, disc_mask(spot, width, height)[rows])

    def patch(self, spot: Spot) -> Patch:
        """A spot's box as a patch: its mean camera colours, the luminance of each tile."""
        period = self.pattern.shape[0]
        width, height = self.size[0] // period, self.size[1] // period
        left, top, right, bottom = (side * period for side in disc_box(spot, width, height))
        cells = self._cells(self.mosaic[top:bottom, left:right])
        black, white = self.levels
        channel = self._site_channels
        linear = np.asarray(raw_linear(cells, black[channel], white))
        means = linear.reshape(-1, cells.shape[-1]).mean(axis=0)
        colour = np.array([means[channel == colour_index].mean() for colour_index in range(3)])
        weights = self.colour.weights[channel] / np.bincount(channel, minlength=3)[channel]
        clipped = float(np.mean(linear >= RAW_CLIPPED_SHARE))
        return Patch(colour, np.asarray(linear @ weights, dtype=np.float32), clipped)

    def luminance(self) -> NDArray[np.float32]:
        """Linear light of the whole picture, the mean of each tile: for sharpness."""
        cells, black = self._cells(self.mosaic), self.levels[0][self._site_channels].mean()
        return np.asarray(cells.mean(axis=-1, dtype=np.float32) - np.float32(black), np.float32)

    def _tones(self, block: NDArray[np.uint16], mask: NDArray[np.bool_] | None = None) -> Tones:
        cells = self._cells(block)  # (rows, columns, sites)
        cells = cells.reshape(-1, cells.shape[-1]) if mask is None else cells[mask]
        black, white = self.levels
        channel = self._site_channels
        linear = np.asarray(raw_linear(cells, black[channel], white))
        weights = self.colour.weights[channel] / np.bincount(channel, minlength=3)[channel]
        level = linear @ weights
        luminance = level * 2.0**self.colour.baseline_exposure_stops
        clipped = float(np.mean(linear >= RAW_CLIPPED_SHARE))
        blocked = float(np.mean(luminance <= 0))
        # Before the file's own lift: a white of full level has its strongest channel at 1 too.
        sooner = 0.0 if mask is None else channel_stops(linear.mean(axis=0), float(level.mean()))
        return Tones(luminance, clipped, blocked, channel_stops=sooner)

    @property
    def _site_channels(self) -> NDArray[np.intp]:
        return np.arange(3) if self.mosaic.ndim == 3 else self.pattern.ravel()

    def _cells(self, block: NDArray[np.uint16]) -> NDArray[np.uint16]:
        """Photosites grouped by tile: (tile rows, tile columns, sites of a tile)."""
        if block.ndim == 3:
            return block[..., :3]
        period = self.pattern.shape[0]
        rows, columns = block.shape[0] // period, block.shape[1] // period
        tiles = block[: rows * period, : columns * period].reshape(rows, period, columns, period)
        return tiles.swapaxes(1, 2).reshape(rows, columns, period * period)

    def preview_image(self, side: int) -> Image.Image:
        """A small neutral development with its longest side at most `side`, as stored."""
        developed = self.decoder.postprocess(
            half_size=True,
            use_camera_wb=True,
            no_auto_bright=True,
            output_bps=8,
            gamma=SRGB_GAMMA,
            user_flip=0,
            bright=2.0**self.colour.baseline_exposure_stops,
        )
        image = Image.fromarray(developed if developed.shape[-1] == 3 else developed[..., 0])
        image.thumbnail((side, side), Image.Resampling.BOX)
        return image

    def light(self, side: int) -> LinearPicture:
        """Its linear light at daylight balance, the longest side at most `side`, as stored."""
        # Metered first: developing changes what the decoder tells of its mosaic.
        metered = float(np.mean(self.sample().luminance)) / MID_LINEAR
        developed = self._developed(half_size=max(self.size) // 2 >= side)
        scale = min(1.0, side / max(developed.shape[:2]))
        size = (
            max(1, round(developed.shape[1] * scale)),
            max(1, round(developed.shape[0] * scale)),
        )
        small = area_means(developed, size)
        lost = self._clipped_sites(size) > LOST_SITES_SHARE
        # As light on the whole as it is metered: decoders put white where they see fit.
        as_decoded = max(float((small @ LUMA.astype(np.float32)).mean()), 1e-9)
        return LinearPicture(small * np.float32(metered / as_decoded), lost, is_balanced=False)

    @property
    def decoder(self) -> rawpy.RawPy:
        """The decoder, its pixels unpacked."""
        self.mosaic  # noqa: B018  unpack first, with its own words on failure
        return self._raw

    def _developed(self, *, half_size: bool) -> NDArray[np.uint16]:
        """Linear sRGB (h, w, 3) by the decoder's own scale, nothing cut off above white."""
        developed = self.decoder.postprocess(
            half_size=half_size,
            use_camera_wb=False,
            no_auto_bright=True,
            output_bps=16,
            gamma=(1, 1),
            user_flip=0,
            highlight_mode=rawpy.HighlightMode.Ignore,
        )
        if developed.shape[-1] != 3:
            developed = np.repeat(developed[..., :1], 3, axis=2)
        return np.asarray(developed)

    def _clipped_sites(self, size: tuple[int, int]) -> NDArray[np.float32]:
        """Share of clipped photosites under each pixel of a size (w, h)."""
        black, white = self.levels
        full = black.max() + RAW_CLIPPED_SHARE * (white - black.max())
        clipped = np.multiply(self.mosaic >= full, 255, dtype=np.uint8)
        if clipped.ndim == 3:
            clipped = clipped.max(axis=-1)
        return area_means(clipped, size) / np.float32(255)
