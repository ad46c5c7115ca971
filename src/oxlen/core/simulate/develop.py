"""From mosaic to picture: demosaicing, white balance, tone, noise reduction, sharpening, sRGB."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.colour.white_point import dial_linear_srgb
from oxlen.core.constants import MID_LINEAR
from oxlen.core.light.tone import linear_to_srgb
from oxlen.core.simulate.readout import CHANNEL_GAIN, RawFrame
from oxlen.core.simulate.scene import Floats, in_colour

LUMA = np.array([[0.2126, 0.7152, 0.0722]], dtype=np.float32)
CODE_STEPS = 8192
TABLE_SIZE = 65_536
"""Tables are looked up by 16-bit numbers."""
SHOULDER_FROM = 0.60
"""Linear tones above this are bent so that the headroom fits under white."""
LIFT_STOPS = 0.25
"""How far processed pictures lift tones well under mid: a phone's own look, kept mild."""
NEIGHBOURHOODS = 60
"""How many the frame is wide when light about a pixel is judged, five of them taken together."""
COARSE_SIDE_PX = 6.0
SHARPEN = 0.45


@dataclass(frozen=True)
class Balance:
    """White balance as gains on linear sRGB, green at 1."""

    red: float = 1.0
    green: float = 1.0
    blue: float = 1.0

    def as_array(self) -> Floats:
        """The gains, shape (3,)."""
        return np.array([self.red, self.green, self.blue], dtype=np.float32)


def demosaiced(frame: RawFrame, balance: Balance | None = None, mid: float = 1.0) -> Floats:
    """Linear colours (h, w, 3), camera response undone: multiples of mid, times `mid`.

    With a balance its gains are worked in the same pass.
    """
    colour = cv2.cvtColor(frame.mosaic, cv2.COLOR_BayerRGGB2RGB_EA)
    scale = mid / ((frame.white_dn - frame.black_dn) * frame.mid_share * CHANNEL_GAIN)
    if balance is not None:
        scale = scale * balance.as_array()
    # By table: one pass for what would be a conversion and a product.
    over_black = np.arange(TABLE_SIZE, dtype=np.float32) - np.float32(frame.black_dn)
    table = over_black[None, :, None] * scale.astype(np.float32)
    return np.asarray(cv2.LUT(colour, table), dtype=np.float32)


def balance_for(neutral: NDArray[np.floating]) -> Balance:
    """Gains that make a linear colour neutral."""
    r, g, b = (max(float(v), 1e-9) for v in neutral)
    return Balance(g / r, 1.0, g / b)


def dialled_balance(white_k: float, tint_duv: float = 0.0) -> Balance:
    """Gains that make the white of a dial neutral, its tint shifting it by so much Duv."""
    return balance_for(dial_linear_srgb(white_k, tint_duv))


def thumbnail(frame: RawFrame, step: int = 4) -> Floats:
    """Linear colours in multiples of mid of one tile in `step`, for judging a frame quickly."""
    tiles = frame.mosaic[: frame.mosaic.shape[0] // 2 * 2].astype(np.float32)
    scale = 1 / ((frame.white_dn - frame.black_dn) * frame.mid_share * CHANNEL_GAIN)
    red, blue = tiles[:: 2 * step, :: 2 * step], tiles[1 :: 2 * step, 1 :: 2 * step]
    green = (tiles[:: 2 * step, 1 :: 2 * step] + tiles[1 :: 2 * step, :: 2 * step]) / 2
    size = tuple(min(sizes) for sizes in zip(red.shape, green.shape, blue.shape, strict=True))
    planes = [plane[: size[0], : size[1]] for plane in (red, green, blue)]
    whole: Floats = np.stack(planes, -1).astype(np.float32)
    return np.asarray((whole - frame.black_dn) * scale, dtype=np.float32)


def auto_balance(colour: Floats, strength: float = 0.75) -> Balance:
    """What an automatic balance picks: it takes the frame's mean for three quarters grey.

    Coloured background therefore drags it, and a warm evening is cooled but not wholly. Bright and
    black pixels are left out.
    """
    small = colour.reshape(-1, 3)
    level = small @ LUMA[0]
    used = small[(level > 0.02) & (level < 5.0)]
    if not used.size:
        return Balance()
    mean = used.mean(axis=0)
    neutral = np.power(np.maximum(mean / mean[1], 0.02), strength)
    gains = balance_for(neutral)
    return Balance(float(np.clip(gains.red, 0.35, 2.6)), 1.0, float(np.clip(gains.blue, 0.35, 4.5)))


def processed(linear: Floats, *, clean: float, headroom: float) -> NDArray[np.uint8]:
    """An sRGB picture (h, w, 3) of balanced linear colours, mid at 0.18.

    `clean` from 0 to 1 is how strongly noise is smoothed; `headroom` the stops over mid that must
    fit under white. Mid stays mid.
    """
    quiet = _smoothed(linear, clean) if clean > 0.02 else linear
    return _finished(coded(toned(quiet, headroom)))


def toned(linear: Floats, headroom_stops: float) -> Floats:
    """A phone's tone: dim neighbourhoods lifted a little, highlights bent under white.

    The lift is local: it uses the light about a pixel, so that detail keeps its contrast; an
    even patch of mid stays mid. One gain a pixel, so that colours keep their ratios until white.
    """
    level = _level(linear)
    lift = _local_lift(level)
    level *= lift
    np.sqrt(level, out=level)
    index = _indexed(level, _TONE_STEPS / _TONE_TOP)
    lift *= cv2.LUT(index, _shoulder_table(headroom_stops))
    gain = in_colour(lift)
    return np.multiply(linear, gain, out=gain)


def _local_lift(level: Floats) -> Floats:
    """Gain (h, w) from the light of each pixel's neighbourhood, some tenth of the frame wide."""
    height, width = level.shape
    across = (NEIGHBOURHOODS, max(2, round(NEIGHBOURHOODS * height / width)))
    about = cv2.blur(cv2.resize(level, across, interpolation=cv2.INTER_AREA), (5, 5))
    stops = np.log2(about / np.float32(MID_LINEAR))
    bump = LIFT_STOPS * np.exp(-(((stops + 3.2) / 1.9) ** 2)) * np.clip(-stops, 0, 1)
    gain = np.exp2(bump).astype(np.float32)
    return np.asarray(cv2.resize(gain, (width, height), interpolation=cv2.INTER_LINEAR))


def _indexed(values: Floats, steps: float) -> NDArray[np.uint16]:
    """Values as places in a table of 65 536, what is outside held at its ends."""
    return np.asarray(cv2.addWeighted(values, steps, values, 0, 0, dtype=cv2.CV_16U))


def _level(linear: Floats) -> Floats:
    """Luminance of linear colours, a little above 0, shape (h, w)."""
    level: Floats = np.asarray(cv2.transform(linear, LUMA).reshape(linear.shape[:2]))
    return np.maximum(level, np.float32(1e-6), out=level)


_TONE_STEPS, _TONE_TOP = 4096, 2.4
"""The table uses the square root of luminance, up to five stops over mid."""


@lru_cache(maxsize=16)
def _shoulder_table(headroom_stops: float) -> Floats:
    """Gain by tone that puts `headroom_stops` over mid at white; 1 under the shoulder."""
    places = np.clip(np.arange(TABLE_SIZE), 0.5, _TONE_STEPS - 1)
    level = (places / _TONE_STEPS * _TONE_TOP) ** 2
    top = MID_LINEAR * 2.0**headroom_stops
    if top <= 1.0:
        return np.ones(TABLE_SIZE, dtype=np.float32)
    span, reach = 1 - SHOULDER_FROM, top - SHOULDER_FROM
    over = np.maximum(level - SHOULDER_FROM, 0)
    # Starts with slope 1 and ends at white: over·(1 + over/r²·s)/(1 + over/s).
    bent = over * (1 + over * span / reach**2) / (1 + over / span)
    return np.asarray((np.minimum(level, SHOULDER_FROM) + bent) / level, dtype=np.float32)


def _smoothed(linear: Floats, clean: float) -> Floats:
    """Noise smoothed: colour strongly, brightness only where it does not change."""
    side = 2 * round(COARSE_SIDE_PX * clean / 2) + 3
    soft = cv2.blur(linear, (side, side))
    level, soft_level = _level(linear), _level(np.asarray(soft))
    change = np.abs(level - soft_level) / (soft_level + np.float32(0.01))
    keep = np.clip(change / np.float32(0.10 + 0.35 * clean), 0, 1)
    target = soft_level + (level - soft_level) * np.maximum(keep, np.float32(1 - clean))
    # Under the noise floor a ratio means nothing: the soft colour is kept there.
    ratio = np.clip(target / np.maximum(soft_level, np.float32(1e-4)), 0, 4)
    return np.asarray(np.maximum(soft, 0) * in_colour(ratio))


def _finished(codes: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """Brightness sharpened; colour freed of the fringes that a mosaic leaves along fine edges."""
    bright, red, blue = cv2.split(cv2.cvtColor(codes, cv2.COLOR_RGB2YCrCb))
    soft = cv2.blur(bright, (3, 3))
    sharp = cv2.addWeighted(bright, 1 + SHARPEN, soft, -SHARPEN, 0)
    even = (_without_fringes(np.asarray(plane, np.uint8)) for plane in (red, blue))
    return np.asarray(cv2.cvtColor(cv2.merge([sharp, *even]), cv2.COLOR_YCrCb2RGB), dtype=np.uint8)


def _without_fringes(colour: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """A plane of colour through the median of its halved self: no finer than a JPEG keeps it."""
    height, width = colour.shape
    half = cv2.resize(colour, (width // 2, height // 2), interpolation=cv2.INTER_AREA)
    even = cv2.medianBlur(half, 3)
    return np.asarray(cv2.resize(even, (width, height), interpolation=cv2.INTER_LINEAR), np.uint8)


def coded(linear: Floats) -> NDArray[np.uint8]:
    """8-bit sRGB codes of linear colours, white at 1, by table."""
    return np.asarray(cv2.LUT(_indexed(linear, CODE_STEPS), _CODES), dtype=np.uint8)


# Even steps are coarse in the dark: rounding to the nearest keeps black black and mid to one code.
_CODES = np.rint(
    255 * np.asarray(linear_to_srgb(np.clip(np.arange(TABLE_SIZE) / CODE_STEPS, 0, 1)))
).astype(np.uint8)
