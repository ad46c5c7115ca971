"""The colour of the light, measured from a white or grey patch of a picture."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Literal

import numpy as np

from oxlen.core.colour.camera_neutral import camera_neutral_light
from oxlen.core.colour.patch import PICTURE_WHITE, PatchLight, patch_light
from oxlen.core.colour.temperature import kelvin, mired, temperature_of
from oxlen.core.errors import BadInput, OutOfRange
from oxlen.core.kit.white_dial import WhiteDial
from oxlen.core.light.meter import Spot
from oxlen.core.light.patch import Patch
from oxlen.pictures.opening import Picture, open_picture

CLIPPED = 0.01
RAW_DOUBT_MIRED, PROCESSED_DOUBT_MIRED = 5.0, 12.0
CAST_DOUBT = 0.15
"""A processed picture's own tones bend a cast: the doubt grows with it."""
NO_WHITE_DUV = 0.02
"""Further from black bodies than this, a patch was no white or grey."""
DARKEST = 0.004


@dataclass(frozen=True)
class WhiteReading:
    """The light on a patch. `taken_at_k` is the dial a processed picture was taken at.

    `light` None where the file does not say that dial; `cast_mired` is then all there is to say.
    """

    light: PatchLight | None
    plus_minus_mired: float
    source: Literal["raw", "processed"]
    taken_at_k: float | None
    cast_mired: float | None
    warning: str | None


@dataclass(frozen=True)
class OwnDial:
    """The kelvin dial of a phone by maker and model: how much warmer it renders than it says."""

    make: str
    model: str
    offset_mired: float

    def true_k(self, dial_k: float) -> float:
        """What a number on the dial means."""
        return float(kelvin(max(float(mired(dial_k)) - self.offset_mired, 20.0)))


def read_white(
    path: Path,
    name: str,
    spot: Spot,
    *,
    dial_k: float | None = None,
    own_dial: OwnDial | None = None,
) -> WhiteReading:
    """Measure the light on a neutral patch; `dial_k` is what the picture was taken at.

    `own_dial` counts for pictures of the phone that it belongs to.

    From RAW the patch's own camera colours; from a processed picture its residual cast. BadInput
    where the patch is lost to white or black, or no neutral under any light.
    """
    with open_picture(path, name) as picture:
        return white_on(picture, spot, dial_k=dial_k, own_dial=own_dial)


def white_on(
    picture: Picture,
    spot: Spot,
    *,
    dial_k: float | None = None,
    own_dial: OwnDial | None = None,
) -> WhiteReading:
    """The same of an open picture."""
    patch = picture.patch(spot)
    if patch.clipped_share > CLIPPED:
        raise BadInput("The patch is clipped. Choose a grey one.", "spot")
    if not np.all(patch.colour > 0):
        raise BadInput("The patch is black. Choose a brighter one.", "spot")
    if picture.facts.kind == "raw":
        return _from_raw(picture, patch)
    settings = picture.exposure
    if own_dial is not None and (settings.make, settings.model) != (own_dial.make, own_dial.model):
        own_dial = None
    return _from_processed(patch, dial_k or settings.white_k, own_dial)


def _from_raw(picture: Picture, patch: Patch) -> WhiteReading:
    light = camera_neutral_light(patch.colour, picture.source.matrices)
    return WhiteReading(
        light, RAW_DOUBT_MIRED, "raw", taken_at_k=None, cast_mired=None, warning=_warning(light)
    )


def _from_processed(
    patch: Patch, taken_at_k: float | None, own_dial: OwnDial | None
) -> WhiteReading:
    true_k = own_dial.true_k(taken_at_k) if own_dial and taken_at_k else taken_at_k
    try:
        as_daylight = patch_light(patch.colour, true_k or 6504.0)
    except OutOfRange:
        raise BadInput(
            "That patch is not neutral. Choose something white or grey.", "spot"
        ) from None
    neutral = mired(temperature_of(*PICTURE_WHITE).cct_k)
    base = float(mired(true_k)) if true_k else float(neutral)
    cast = float(mired(as_daylight.temperature.cct_k)) - base
    doubt = PROCESSED_DOUBT_MIRED + CAST_DOUBT * abs(cast)
    if taken_at_k is None:
        words = (
            "The file does not contain its kelvin, so only its cast is known. Give it with "
            "--dial, or shoot one with fixed white balance."
        )
        return WhiteReading(
            None, doubt, "processed", taken_at_k=None, cast_mired=cast, warning=words
        )
    warning = _warning(as_daylight) or _dark_warning(patch)
    return WhiteReading(
        as_daylight,
        doubt,
        "processed",
        taken_at_k=taken_at_k,
        cast_mired=cast,
        warning=warning,
    )


def _warning(light: PatchLight) -> str | None:
    if abs(light.temperature.duv) <= NO_WHITE_DUV:
        return None
    side = "green" if light.temperature.duv > 0 else "pink"
    return (
        f"That patch looks {side}. It is not white or grey, or lamps of different colours mix on "
        "it."
    )


def _dark_warning(patch: Patch) -> str | None:
    if patch.luminance.mean() >= DARKEST:
        return None
    return "The patch is too dark to measure colour in a processed picture."


def to_dial_k(light: PatchLight, dial: WhiteDial | None = None) -> float:
    """The kelvin to dial for a light: on the phone's own steps, or in steps of 50 K."""
    if dial is not None:
        return dial.nearest(light.temperature.cct_k, light.temperature.duv).dial_k
    return 50.0 * round(light.temperature.cct_k / 50)
