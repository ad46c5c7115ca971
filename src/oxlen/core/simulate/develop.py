"""From mosaic to picture: demosaicing, white balance, tone, noise reduction, sharpening, sRGB."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import MID_LINEAR
from oxlen.core.light.tone import linear_to_srgb
from oxlen.core.simulate.readout import CHANNEL_GAIN, RawFrame
from oxlen.core.simulate.scene import Floats

LUMA = np.array([[0.2126, 0.7152, 0.0722]], dtype=np.float32)
CODE_STEPS = 4096
SHOULDER_FROM = 0.60
"""Linear tones above this are bent so that the headroom fits under white."""
LIFT_STOPS = 0.25
"""How far processed pictures lift tones well under mid: a phone's own look, kept mild."""
FINE_SIGMA_PX, COARSE_SIGMA_PX = 0.9, 2.2
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


def demosaiced(frame: RawFrame) -> Floats:
    """Linear colours in multiples of mid, shape (h, w, 3), camera response undone, unbalanced."""
    colour = cv2.cvtColor(frame.mosaic, cv2.COLOR_BayerRGGB2RGB_EA).astype(np.float32)
    scale = 1 / ((frame.white_dn - frame.black_dn) * frame.mid_share * CHANNEL_GAIN)
    return np.asarray((colour - np.float32(frame.black_dn)) * scale.astype(np.float32))


def balance_for(neutral: NDArray[np.floating]) -> Balance:
    """Gains that make a linear colour neutral."""
    r, g, b = (max(float(v), 1e-9) for v in neutral)
    return Balance(g / r, 1.0, g / b)


def auto_balance(colour: Floats, strength: float = 0.75) -> Balance:
    """What an automatic balance picks: it takes the frame's mean for three quarters grey.

    Coloured ground therefore drags it, and a warm evening is cooled but not wholly. Bright and
    black pixels are left out.
    """
    small = colour[::8, ::8].reshape(-1, 3)
    level = small @ LUMA[0]
    used = small[(level > 0.02) & (level < 5.0)]
    if not used.size:
        return Balance()
    mean = used.mean(axis=0)
    neutral = np.power(np.maximum(mean / mean[1], 0.02), strength)
    gains = balance_for(neutral)
    return Balance(float(np.clip(gains.red, 0.35, 2.6)), 1.0, float(np.clip(gains.blue, 0.35, 4.5)))


def processed(
    colour: Floats, balance: Balance, *, clean: float, headroom: float
) -> NDArray[np.uint8]:
    """An sRGB picture (h, w, 3) of linear colours in multiples of mid.

    `clean` from 0 to 1 is how strongly noise is smoothed; `headroom` the stops over mid that must
    fit under white. Mid stays mid.
    """
    linear = colour * (balance.as_array() * np.float32(MID_LINEAR))
    quiet = _smoothed(linear, clean) if clean > 0.02 else linear
    return _coded(_sharpened(toned(quiet, headroom)))


def neutral_view(colour: Floats, balance: Balance) -> NDArray[np.uint8]:
    """A plain development: white balance and the sRGB curve, nothing else."""
    return _coded(colour * (balance.as_array() * np.float32(MID_LINEAR)))


def toned(linear: Floats, headroom_stops: float) -> Floats:
    """A phone's tone: shadows lifted a little, highlights bent under white, mid untouched.

    One gain a pixel from its luminance, so that colours keep their ratios until white.
    """
    level = _level(linear)
    gain = np.take(_tone_gains(headroom_stops), _tone_index(level))
    return np.asarray(linear * gain[..., None])


def _level(linear: Floats) -> Floats:
    """Luminance of linear colours, a little above 0, shape (h, w)."""
    level = cv2.transform(linear, LUMA).reshape(linear.shape[:2])
    return np.asarray(np.maximum(level, np.float32(1e-6)), dtype=np.float32)


_LOW_STOPS, _HIGH_STOPS, _TONE_STEPS = -9.0, 5.0, 1400


def _tone_index(level: Floats) -> NDArray[np.intp]:
    stops = np.log2(level / np.float32(MID_LINEAR))
    place = (stops - np.float32(_LOW_STOPS)) * np.float32(_TONE_STEPS / (_HIGH_STOPS - _LOW_STOPS))
    return np.asarray(np.clip(place, 0, _TONE_STEPS - 1), dtype=np.intp)


def _tone_gains(headroom_stops: float) -> Floats:
    """Gain by tone: a bump under mid, and a shoulder that puts `headroom_stops` at white."""
    stops = np.linspace(_LOW_STOPS, _HIGH_STOPS, _TONE_STEPS)
    lift = LIFT_STOPS * np.exp(-(((stops + 3.2) / 1.9) ** 2)) * (stops < 0)
    level = MID_LINEAR * np.exp2(stops + lift * np.clip(-stops, 0, 1))
    top = MID_LINEAR * 2.0**headroom_stops
    if top > 1.0:
        span = 1 - SHOULDER_FROM
        over = np.maximum(level - SHOULDER_FROM, 0)
        reach = top - SHOULDER_FROM
        # Starts with slope 1 and ends at white: over·(1 + over/r²·s)/(1 + over/s).
        bent = over * (1 + over * span / reach**2) / (1 + over / span)
        level = np.where(level > SHOULDER_FROM, SHOULDER_FROM + bent, level)
    return np.asarray(level / (MID_LINEAR * np.exp2(stops)), dtype=np.float32)


def _smoothed(linear: Floats, clean: float) -> Floats:
    """Noise smoothed: colour strongly, brightness only where it does not change."""
    sigma = COARSE_SIGMA_PX * clean
    soft = cv2.GaussianBlur(linear, (0, 0), max(sigma, 0.5))
    level, soft_level = _level(linear), _level(np.asarray(soft))
    change = np.abs(level - soft_level) / (soft_level + np.float32(0.01))
    keep = np.clip(change / np.float32(0.10 + 0.35 * clean), 0, 1)
    target = soft_level + (level - soft_level) * np.maximum(keep, np.float32(1 - clean))
    # Under the noise floor a ratio means nothing: there the soft colour stands.
    ratio = np.clip(target / np.maximum(soft_level, np.float32(1e-4)), 0, 4)
    return np.asarray(np.maximum(soft, 0) * ratio[..., None])


def _sharpened(linear: Floats) -> Floats:
    soft = cv2.blur(linear, (3, 3))
    return np.asarray(cv2.addWeighted(linear, 1 + SHARPEN, soft, -SHARPEN, 0))


def _coded(linear: Floats) -> NDArray[np.uint8]:
    """8-bit sRGB codes by table."""
    index = np.clip(linear * np.float32(CODE_STEPS), 0, CODE_STEPS).astype(np.uint16)
    return np.asarray(np.take(_CODES, index), dtype=np.uint8)


# Even steps are coarse in the dark: the half step keeps black black and mid exact to one code.
_CODES = np.rint(
    255 * np.asarray(linear_to_srgb(np.clip((np.arange(CODE_STEPS + 1)) / CODE_STEPS, 0, 1)))
).astype(np.uint8)
