"""What is known of the light's colour: by a patch, by its lamps, or by what usually lights it."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.colour.mixing import ONE_SETTING_MIRED, Lit, mixture
from oxlen.core.colour.temperature import Temperature, chromaticity_of, mired
from oxlen.core.colour.usual_light import UsualLight, usual_light
from oxlen.core.decisions.colour.ask import LIGHT_COLOUR, LightColour, LitBy, MeasuredPatch
from oxlen.core.decisions.exposure.ask import SKY
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.kit.lamp import GOOD_CRI
from oxlen.core.kit.white_dial import dial_duv
from oxlen.core.labels import listed, sentence_case

SURE_MIRED = 20.0
"""Known better than this, the light's colour counts as known."""
NIGHT_SKY = "night-sky"


@dataclass(frozen=True)
class KnownLight:
    """The light to balance for: its colour, how sure it is in mired, what is known it by.

    `spread_mired` is how far apart the lamps are that light different zones; `poor_cri` names
    lamps whose colours are off whatever is dialled. `kept_mired` is how much of its warmth
    (positive) or blue is better left in the picture. `needs_patch`: only a measured patch was to
    decide, and there is none.
    """

    temperature: Temperature
    plus_minus_mired: float
    because: str
    words: str
    spread_mired: float = 0.0
    poor_cri: tuple[str, ...] = ()
    kept_mired: float = 0.0
    needs_patch: bool = False

    @property
    def is_sure(self) -> bool:
        """Known well enough to be dialled without a second thought."""
        return self.plus_minus_mired <= SURE_MIRED


def known_light(brief: Brief) -> KnownLight | None:
    """The light by the best that is known of it; None where nothing is."""
    asked = brief[LIGHT_COLOUR]
    if asked.patch is not None and asked.strategy != "dial":
        return _of_patch(asked.patch, asked)
    if asked.lamps:
        return _of_lamps(asked)
    if asked.patch is not None:
        return _of_patch(asked.patch, asked)
    if asked.usual is not None:
        return _usual(asked.usual)
    return _usual(NIGHT_SKY) if brief[SKY] is not None else None


def _of_patch(patch: MeasuredPatch, asked: LightColour) -> KnownLight:
    return KnownLight(
        Temperature(patch.cct_k, patch.duv),
        patch.plus_minus_mired,
        "patch",
        words=f"The patch was lit at {patch.cct_k:.0f} K",
        spread_mired=_spread(asked.lamps),
        poor_cri=_poor(asked.lamps),
    )


def _of_lamps(asked: LightColour) -> KnownLight:
    """The favoured lamp where zones differ too much for one setting, else all of them mixed."""
    lamps, spread = asked.lamps, _spread(asked.lamps)
    if len(lamps) > 1 and spread > ONE_SETTING_MIRED:
        lamps = (favoured(asked.lamps),)
    if len(lamps) == 1:
        lit_by = lamps[0]
        found = _temperature(lit_by)
        words = f"{sentence_case(lit_by.name)} is {lit_by.cct_k:.0f} K"
    else:
        found = mixture([_lit(lamp) for lamp in lamps]).temperature
        names = sentence_case(listed([lamp.name for lamp in lamps]))
        words = f"{names} mix to {found.cct_k:.0f} K"
    doubt = max(lamp.plus_minus_mired for lamp in lamps)
    return KnownLight(
        found, doubt, "lamps", words=words, spread_mired=spread, poor_cri=_poor(asked.lamps)
    )


def favoured(lamps: tuple[LitBy, ...]) -> LitBy:
    """The lamp whose zone shall be right: the one marked, else the strongest."""
    marked = [lamp for lamp in lamps if lamp.favoured]
    return marked[0] if marked else max(lamps, key=lambda lamp: lamp.share)


def _lit(lamp: LitBy) -> Lit:
    x, y = chromaticity_of(_temperature(lamp))
    return Lit(x, y, lamp.share)


def _temperature(lamp: LitBy) -> Temperature:
    """Its colour; where its Duv is not known, that of the dial's own white, so no tint follows."""
    return Temperature(lamp.cct_k, dial_duv(lamp.cct_k) if lamp.duv is None else lamp.duv)


def _spread(lamps: tuple[LitBy, ...]) -> float:
    warmths = [float(mired(lamp.cct_k)) for lamp in lamps]
    return max(warmths) - min(warmths) if warmths else 0.0


def _poor(lamps: tuple[LitBy, ...]) -> tuple[str, ...]:
    return tuple(lamp.name for lamp in lamps if lamp.cri is not None and lamp.cri < GOOD_CRI)


def _usual(light_id: str) -> KnownLight:
    light = usual_light(light_id)
    poor = (light.spoken,) if light.cri is not None and light.cri < GOOD_CRI else ()
    return KnownLight(
        Temperature(light.cct_k, light.duv),
        light.plus_minus_mired,
        "usual",
        words=f"{sentence_case(light.spoken)}: usually {light.cct_k:.0f} K",
        poor_cri=poor,
        kept_mired=_kept(light),
    )


def _kept(light: UsualLight) -> float:
    """Most of what is between a light and the white it is seen against."""
    if light.towards_k is None:
        return 0.0
    return light.kept_share * float(mired(light.cct_k) - mired(light.towards_k))
