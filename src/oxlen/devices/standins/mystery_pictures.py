"""What a mystery phone writes: everyday files, and the pictures each measurement asks for."""

from __future__ import annotations

import io
import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from oxlen.core.hold.hand import Support, hand_limit_s, steadied_stops
from oxlen.core.light.exposure import ev100
from oxlen.core.light.tone import linear_to_srgb
from oxlen.core.simulate.blur import path_kernel
from oxlen.core.simulate.capture import Capture
from oxlen.core.simulate.develop import Balance
from oxlen.core.simulate.exposing import Camera, CaptureSettings
from oxlen.core.simulate.randomness import SeededRandom
from oxlen.core.simulate.readout import (
    BLACK_DN,
    WHITE_DN,
    RawFrame,
    mid_share_at,
    read_out,
)
from oxlen.devices.standins.mystery_phone import MysteryPhone
from oxlen.devices.standins.picture_file import FileDetails, dng_bytes, exif_of

Floats = NDArray[np.float32]
Codes = NDArray[np.uint8]
SHOT_ON = "2026:09:12 10:{minute:02d}:{second:02d}"
JPEG_QUALITY = 94
KEPT = 2.197
LUCK: dict[Support, tuple[int, ...]] = {"handheld": (), "braced": (1,), "tripod": (2,)}
"""What sets the luck of one series of shots apart from another's."""
STILL_STOPS = 14.0
"""Over the bare rule: a tripod that holds still through every time that is tried."""
WALL_PX = 900


@dataclass(frozen=True)
class PictureFile:
    """A file as it is on the phone."""

    name: str
    content: bytes


def everyday(phone: MysteryPhone, *, raw: bool = True) -> Iterator[PictureFile]:
    """A few pictures as anyone has them: each lens once as JPEG, and the main one as RAW too."""
    core = phone.profile.to_phone()
    for place, lens in enumerate(core.lenses):
        mode = lens.modes[0]
        settings = CaptureSettings(mode.sensor.base_iso * 2, 1 / 60)
        details = details_of(phone, settings, second=place, lens_at=place)
        grey = np.full((mode.height_px, mode.width_px), 118, dtype=np.uint8)
        yield PictureFile(f"everyday-{lens.id}.jpg", jpeg_of(grey, details))
        if raw and place == 0:
            yield PictureFile(
                f"everyday-{lens.id}.dng", dng_bytes(_plain(phone, settings), details)
            )


def flats(phone: MysteryPhone, isos: Sequence[float]) -> Iterator[PictureFile]:
    """At each ISO a covered pair, and pairs of an even wall at two levels, as RAW."""
    for iso in isos:
        frames = [(0.0, 0), (0.0, 1)]
        most = min(phone.mode.sensor.headroom_raw_stops - 1.0, 2.0)
        frames += [(2.0**stops, k) for stops in (most - 1.5, most) for k in (0, 1)]
        for place, (level, again) in enumerate(frames):
            settings = CaptureSettings(iso, 1 / 50 * 2.0 ** (place // 2))
            details = details_of(phone, settings, second=place)
            frame = even_frame(phone, settings, level=level, seed=17 * place + again)
            yield PictureFile(f"flat-iso{iso:g}-{place}.dng", dng_bytes(frame, details))


def wall_bracket(phone: MysteryPhone, stops: Sequence[float]) -> Iterator[PictureFile]:
    """An even wall exposed in steps, JPEG and RAW of each: mid at 0 stops."""
    iso = phone.mode.sensor.base_iso * 2
    for place, step in enumerate(stops):
        settings = CaptureSettings(iso, 2.0**step / 100)
        details = details_of(phone, settings, second=place)
        frame = even_frame(phone, settings, level=2.0**step, seed=place)
        yield PictureFile(f"wall-{place:02d}.jpg", jpeg_of(frame.developed(Balance()), details))
        yield PictureFile(f"wall-{place:02d}.dng", dng_bytes(frame, details))


def grey_card(phone: MysteryPhone, card_ev100: float, count: int = 3) -> Iterator[PictureFile]:
    """A grey card in known light, exposed a little to either side of mid."""
    lens, iso = phone.lens, phone.mode.sensor.base_iso * 4
    # A phone whose offset is positive writes less light than there was.
    seen = card_ev100 - phone.profile.meter_offset_stops
    for place in range(count):
        off = 0.3 * (place - 1)
        shutter_s = lens.f_number**2 / 2.0**seen * 100 / iso * 2.0**off
        settings = CaptureSettings(iso, float(shutter_s))
        level = 2.0 ** (seen - float(ev100(lens.f_number, settings.shutter_s, iso)))
        frame = even_frame(phone, settings, level=level, seed=place)
        details = details_of(phone, settings, second=place)
        yield PictureFile(f"card-{place}.dng", dng_bytes(frame, details))


def hand_shots(
    phone: MysteryPhone, shutters_s: Sequence[float], support: Support = "handheld"
) -> Iterator[PictureFile]:
    """Shots of a patterned wall at stepped times, each blurred as that hand would."""
    draw = np.random.default_rng([phone.seed, 31, *LUCK[support]])
    for place, shutter_s in enumerate(shutters_s):
        settings = CaptureSettings(phone.mode.sensor.base_iso * 4, shutter_s, support=support)
        length = blur_of_hand(phone, shutter_s, support=support, draw=draw)
        picture = patterned_wall(phone, length, draw)
        details = details_of(phone, settings, second=place)
        yield PictureFile(f"hand-{place:02d}.jpg", jpeg_of(picture, details))


def blur_of_hand(
    phone: MysteryPhone, shutter_s: float, *, support: Support, draw: np.random.Generator
) -> float:
    """Length (px) of a shot's smear: a circle of confusion at the limit in nine shots of ten."""
    hidden, mode = phone.hidden, phone.mode
    stops = steadied_stops(hidden.hand_stops, support, hidden.braced_stops)
    if support == "tripod":
        stops = STILL_STOPS if hidden.tripod_stops is None else hidden.tripod_stops
    limit_s = float(hand_limit_s(phone.lens.focal35_mm, stops))
    sharp_px = math.hypot(mode.width_px, mode.height_px) / 1500
    past = math.log2(shutter_s / limit_s)
    luck = float(draw.logistic())
    return float(sharp_px * 2.0 ** (past + hidden.hand_width_stops * (luck - KEPT)))


def patterned_wall(phone: MysteryPhone, smear_px: float, draw: np.random.Generator) -> Codes:
    """The processed picture of a wall whose middle has detail of every fineness, smeared.

    Around the middle the wall is plain: that is all a measurement looks at.
    """
    mode = phone.mode
    size = (min(mode.width_px, WALL_PX), min(mode.height_px, WALL_PX))
    texture = _texture(*size, phone.seed)
    angle = float(draw.uniform(0, math.pi))
    # Splitting each place among four pixels spreads it by itself, which is taken off beforehand.
    drawn_px = math.sqrt(max(smear_px**2 - 2.0, 0.0))
    if drawn_px > 0:
        ends = np.linspace(-0.5, 0.5, 64)[:, None] * drawn_px
        kernel = path_kernel(ends * np.array([[math.cos(angle), math.sin(angle)]]))
        texture = np.asarray(
            cv2.filter2D(texture, -1, kernel, borderType=cv2.BORDER_REFLECT), np.float32
        )
    shift = draw.integers(-12, 13, 2)
    moved = np.roll(texture, (int(shift[0]), int(shift[1])), axis=(0, 1))
    noisy = moved + draw.normal(0, 0.003, texture.shape).astype(np.float32)
    codes = np.asarray(linear_to_srgb(np.clip(noisy, 0, 1)) * 255 + 0.5).astype(np.uint8)
    grey = np.full((mode.height_px, mode.width_px), 128, dtype=np.uint8)
    top, left = (mode.height_px - size[1]) // 2, (mode.width_px - size[0]) // 2
    grey[top : top + size[1], left : left + size[0]] = codes
    return grey


def lamp_bands(phone: MysteryPhone, pulse_hz: float, count: int = 4) -> Iterator[PictureFile]:
    """A wall lit by a lamp that pulses, at a shutter shorter than a pulse."""
    mode, draw = phone.mode, np.random.default_rng([phone.seed, 32])
    readout_s = mode.readout_s or 0.0
    for place in range(count):
        settings = CaptureSettings(mode.sensor.base_iso * 8, 1 / 1000)
        at = draw.random() / pulse_hz + np.arange(mode.height_px) / mode.height_px * readout_s
        wave = 1 + 0.5 * np.sinc(pulse_hz / 1000) * np.sin(2 * np.pi * pulse_hz * at)
        falloff = 1 - 0.15 * np.linspace(-1, 1, mode.height_px) ** 2
        level = 0.2 * wave * falloff
        rows = np.repeat(level[:, None], mode.width_px, axis=1)
        noisy = np.clip(rows + draw.normal(0, 0.01, rows.shape), 0, 1)
        grey = np.asarray(linear_to_srgb(noisy) * 255 + 0.5).astype(np.uint8)
        picture = np.repeat(grey[..., None], 3, axis=2)
        yield PictureFile(
            f"bands-{place}.jpg", jpeg_of(picture, details_of(phone, settings, second=place))
        )


def shot_in_a_row(phone: MysteryPhone, shutter_s: float, count: int) -> Iterator[PictureFile]:
    """Frames as fast as the phone goes, their time stamps to the millisecond."""
    draw = np.random.default_rng([phone.seed, 33])
    at = 36_000.0
    grey = np.full((96, 128, 3), 118, dtype=np.uint8)
    for place in range(count):
        settings = CaptureSettings(phone.mode.sensor.base_iso, shutter_s)
        whole = int(at)
        details = replace(
            details_of(phone, settings, second=0),
            taken_at=f"2026:09:12 {whole // 3600:02d}:{whole // 60 % 60:02d}:{whole % 60:02d}",
            subsecond=f"{round((at - whole) * 1000) % 1000:03d}",
        )
        yield PictureFile(f"row-{place:02d}.jpg", jpeg_of(grey, details))
        at += shutter_s + phone.hidden.frame_gap_s * float(draw.normal(1, 0.02))


def details_of(
    phone: MysteryPhone, settings: CaptureSettings, *, second: int, lens_at: int = 0
) -> FileDetails:
    """What a file of those settings says of how it was taken."""
    lens = phone.profile.to_phone().lenses[lens_at]
    mode, noise = lens.modes[0], None
    if phone.hidden.declares_noise:
        white_e = mode.sensor.full_well_e * mode.sensor.base_iso / settings.iso
        read = float(mode.read_noise_at(float(settings.iso)))
        noise = (1 / white_e, (read / white_e) ** 2)
    return FileDetails(
        phone.profile,
        lens,
        settings,
        brightness=0.0,
        taken_at=SHOT_ON.format(minute=second // 60, second=second % 60),
        noise=noise,
        tells_pitch=phone.hidden.tells_pitch,
    )


def _plain(phone: MysteryPhone, settings: CaptureSettings) -> Capture:
    """A whole frame of one number: for what a file tells, none of its pixels are looked at."""
    mode = phone.mode
    share = mid_share_at(mode, settings.iso)
    level = round(BLACK_DN + share * (WHITE_DN - BLACK_DN))
    mosaic = np.full((mode.height_px // 2 * 2, mode.width_px // 2 * 2), level, dtype=np.uint16)
    raw = RawFrame(mosaic, BLACK_DN, WHITE_DN, mid_share=share)
    return Capture(raw, Camera(phone.lens, mode), replace(settings, white_k=5000.0))


def even_frame(
    phone: MysteryPhone,
    settings: CaptureSettings,
    *,
    level: float,
    seed: int,
    colour: Sequence[float] | NDArray[np.floating] = (1.0, 1.0, 1.0),
) -> Capture:
    """A frame of an even surface, `level` times mid in light of that colour (linear sRGB)."""
    mode = phone.mode
    shape = (mode.height_px // 2 * 2, mode.width_px // 2 * 2)
    raw: RawFrame = read_out(
        np.broadcast_to(np.asarray(colour, dtype=np.float32) * np.float32(level), (*shape, 3)),
        mode,
        settings.iso,
        falloff=np.ones(shape, dtype=np.float32),
        random=SeededRandom(phone.seed * 1000 + seed + round(settings.iso)),
    )
    return Capture(raw, Camera(phone.lens, mode), settings)


@lru_cache(maxsize=2)
def _texture(width: int, height: int, seed: int) -> Floats:
    """Blotches of all sizes, linear, about mid: the same wall for a phone each time."""
    draw = np.random.default_rng([seed, 34])
    total = np.zeros((height, width), dtype=np.float32)
    for size in (1, 2, 4, 8, 16):
        small = draw.standard_normal((-(-height // size), -(-width // size))).astype(np.float32)
        grown = np.kron(small, np.ones((size, size), dtype=np.float32))
        total += grown[:height, :width]
    soft = cv2.GaussianBlur(total, (0, 0), 0.7)  # no lens is sharper than this
    return np.asarray(np.clip(0.22 + 0.035 * soft, 0.01, 1), dtype=np.float32)


def jpeg_of(picture: NDArray[np.uint8], details: FileDetails) -> bytes:
    """The picture as a JPEG, as the phone compresses it."""
    buffer = io.BytesIO()
    Image.fromarray(picture).save(buffer, "JPEG", quality=JPEG_QUALITY, exif=exif_of(details))
    return buffer.getvalue()
