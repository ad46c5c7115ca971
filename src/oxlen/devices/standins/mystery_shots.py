"""What a mystery phone writes for measuring its dial, the size of its frames, its own filter."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace

import cv2
import numpy as np

from oxlen.core.colour.temperature import kelvin, mired
from oxlen.core.colour.white_point import dial_linear_srgb
from oxlen.core.light.tone import linear_to_srgb
from oxlen.core.simulate.develop import Balance, dialled_balance
from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.devices.standins.mystery_phone import MysteryPhone, cropped
from oxlen.devices.standins.mystery_pictures import (
    Codes,
    PictureFile,
    details_of,
    even_frame,
    jpeg_of,
)

TRAIL_SIZE, TRAIL_EDGE_PX, WALL_SIZE = (1600, 1200), 1.5, (480, 360)
SPREAD_OF_SIZES, UNEVEN_SHARE = 0.15, 0.01


def lamplit_card(
    phone: MysteryPhone, lamp_k: float, dials_k: Sequence[float]
) -> Iterator[PictureFile]:
    """A grey card under a lamp, processed at these settings of the phone's own dial."""
    for place, dial_k in enumerate(dials_k):
        settings = CaptureSettings(phone.mode.sensor.base_iso * 2, 1 / 60, white_k=dial_k)
        true_k = float(kelvin(float(mired(dial_k)) - phone.hidden.dial_mired))
        frame = even_frame(phone, settings, level=0.9, seed=place, colour=dial_linear_srgb(lamp_k))
        details = details_of(phone, settings, second=place)
        yield PictureFile(
            f"card-{place}.jpg", jpeg_of(frame.developed(dialled_balance(true_k)), details)
        )


def sized_files(phone: MysteryPhone, count: int) -> Iterator[PictureFile]:
    """Everyday files of the sizes that the phone writes: their content is not looked at."""
    draw = np.random.default_rng([phone.seed, 35])
    settings = CaptureSettings(phone.mode.sensor.base_iso, 1 / 100)
    grey = np.full((96, 128, 3), 118, dtype=np.uint8)
    for place in range(count):
        busy = math.exp(SPREAD_OF_SIZES * float(draw.standard_normal()))
        size = round(1e6 * phone.hidden.processed_mb * busy)
        code = jpeg_of(grey, details_of(phone, settings, second=place))
        yield PictureFile(f"size-{place}.jpg", code + bytes(max(0, size - len(code))))


def own_filter_run(phone: MysteryPhone, took_s: float) -> Iterator[PictureFile]:
    """The phone's own filter: a lamp moved across the dark, then a wall in it and without it."""
    hidden, small, wall = phone.hidden, cropped(phone, TRAIL_SIZE), cropped(phone, WALL_SIZE)
    settings = CaptureSettings(phone.mode.sensor.base_iso * 4, took_s)
    trail = _dashed_trail(hidden.computed_frames, hidden.computed_gap_s, took_s, seed=phone.seed)
    details = details_of(small, settings, second=0)
    yield PictureFile("filter-trail.jpg", jpeg_of(trail, details))
    for name, count in (("filter-wall", hidden.computed_frames), ("plain-wall", 1)):
        frames = [even_frame(wall, settings, level=1.0, seed=40 + k) for k in range(count)]
        frame, mosaics = frames[0], [capture.raw.mosaic for capture in frames]
        merged = np.asarray(np.round(np.mean(mosaics, axis=0)), dtype=np.uint16)
        made = replace(frame, raw=replace(frame.raw, mosaic=merged))
        yield PictureFile(f"{name}.jpg", jpeg_of(made.developed(Balance()), details))


def _dashed_trail(frames: int, gap_s: float, took_s: float, *, seed: int) -> Codes:
    """A lamp that moves evenly across a dark frame: a dash for each frame, dark in the gaps."""
    width, height = TRAIL_SIZE
    open_s = (took_s - (frames - 1) * gap_s) / frames
    draw = np.random.default_rng([seed, 36])
    along_share = np.linspace(-0.05, 1.05, width * 8)
    turns, begins = draw.uniform(1, 3), draw.uniform(0, 2 * math.pi)
    # No hand moves a lamp quite evenly.
    wander = UNEVEN_SHARE * np.sin(2 * math.pi * turns * along_share + begins)
    at_s = (along_share + wander - wander.mean()) * took_s
    is_open = (at_s >= 0) & (at_s <= took_s) & (at_s % (open_s + gap_s) <= open_s)
    along = is_open.reshape(width, 8).mean(axis=1)
    band = np.zeros((height, width), dtype=np.float32)
    band[height // 2 - 4 : height // 2 + 4] = along
    band = np.asarray(cv2.GaussianBlur(band, (0, 0), TRAIL_EDGE_PX), dtype=np.float32)
    noise = draw.normal(0, 0.002, band.shape)
    codes = np.asarray(linear_to_srgb(np.clip(0.004 + 0.8 * band + noise, 0, 1)) * 255 + 0.5)
    return np.repeat(codes.astype(np.uint8)[..., None], 3, axis=2)
