"""What else must be known of a white balance: warnings, and what would do better."""

from __future__ import annotations

from collections.abc import Iterator

from oxlen.core.colour.mixing import ONE_SETTING_MIRED
from oxlen.core.colour.temperature import kelvin, mired
from oxlen.core.decisions.colour.ask import LIGHT_COLOUR, LitBy
from oxlen.core.decisions.colour.known_light import KnownLight, favoured
from oxlen.core.decisions.exposure.ask import FORMAT
from oxlen.core.decisions.framework.brief import NEUTRAL, Brief
from oxlen.core.decisions.sequence.ask import FRAMES
from oxlen.core.kit.white_dial import DialledWhite
from oxlen.core.labels import listed, sentence_case

BOTH_FACTS = "A higher kelvin setting makes the picture warmer."
SEEN_MIRED = 12.0
"""A cast of so much is seen when two pictures are side by side."""
STRONGEST_GEL_MIRED = 160.0
"""About the strongest gel there is to buy."""
STRIP_SHARE = 0.05
"""How much of the frame's width a white strip at its edge takes."""


def mood_words(brief: Brief) -> str:
    """The end of a reason where the picture is made warmer or cooler on purpose."""
    asked = brief[LIGHT_COLOUR]
    if not asked.mood_mired:
        return ""
    way = "warmer" if asked.mood_mired > 0 else "cooler"
    why = f": {asked.mood_reason}" if asked.mood_reason else ""
    return f", {abs(asked.mood_mired):.0f} mired {way}{why}"


def kept_words(kept_mired: float) -> str:
    """The end of a reason where a light keeps some of its own colour."""
    if not kept_mired:
        return ""
    return f", kept {'warm' if kept_mired > 0 else 'blue'}"


def colour_notes(
    brief: Brief, light: KnownLight | None, dialled: DialledWhite | None
) -> tuple[str, ...]:
    """Warnings of a white balance, the weightiest first."""
    return tuple(_notes(brief, light, dialled))


def _notes(brief: Brief, light: KnownLight | None, dialled: DialledWhite | None) -> Iterator[str]:
    if dialled is not None and abs(dialled.residual_mired) > SEEN_MIRED:
        way = "warmer" if dialled.residual_mired > 0 else "cooler"
        yield (
            "The dial ends before this light. The picture is "
            f"{abs(dialled.residual_mired):.0f} mired {way} than wanted."
        )
    if light is not None:
        if light.needs_patch:
            yield "Measure a white or grey patch to be sure of the light's colour."
        yield from _of_lamps(brief, light)
    yield from _of_ground(brief, dialled)
    final = brief[FORMAT] == "processed"
    if dialled is None and final and (brief[FRAMES].count > 1 or _is_set(brief)):
        yield "Auto white balance changes between frames. Set one value for the whole series."
    if light is not None and dialled is not None and final and not light.is_sure:
        yield _set_words(brief, light, dialled)


def _is_set(brief: Brief) -> bool:
    return brief[FRAMES].combine == "bracket"


def _of_lamps(brief: Brief, light: KnownLight) -> Iterator[str]:
    lamps = brief[LIGHT_COLOUR].lamps
    if light.spread_mired > ONE_SETTING_MIRED and len(lamps) > 1:
        yield _mixed_words(lamps, light)
    if light.poor_cri:
        yield f"Colours are inaccurate under {listed(light.poor_cri)}: CRI below 90."


def _mixed_words(lamps: tuple[LitBy, ...], light: KnownLight) -> str:
    """One setting cannot serve both; what would."""
    kept = favoured(lamps)
    other = max(lamps, key=lambda lamp: abs(1e6 / lamp.cct_k - 1e6 / kept.cct_k))
    gel = float(mired(kept.cct_k) - mired(other.cct_k))
    kind = "warming" if gel > 0 else "cooling"
    where = kept.zone or f"what {kept.name} lights"
    matched = f"put a {kind} gel of {abs(gel):.0f} mired on {other.name}, "
    if abs(gel) > STRONGEST_GEL_MIRED:
        matched = ""
    return (
        f"{sentence_case(kept.name)} and {other.name} are {light.spread_mired:.0f} mired apart. "
        f"One setting cannot suit both; this one suits {where}. For both, {matched}keep "
        f"{'its' if matched else other.name + '’s'} light off the picture or switch it off."
    )


def _of_ground(brief: Brief, dialled: DialledWhite | None) -> Iterator[str]:
    asked = brief[LIGHT_COLOUR]
    has_neutral = asked.neutral_in_frame or any(
        reading.role == NEUTRAL for reading in brief.readings
    )
    if asked.ground not in ("dark", "coloured") or has_neutral:
        return
    ground = "dark" if asked.ground == "dark" else "strongly coloured"
    kept_px = round(brief.mode.width_px * (1 - STRIP_SHARE))
    drags = (
        "auto white balance follows it"
        if dialled is None
        else ("nothing shows whether it is right")
    )
    yield (
        f"The background is {ground} and nothing in the frame is neutral: {drags}. Put a white "
        f"strip along one edge and crop to {kept_px} × {brief.mode.height_px} px afterwards."
    )


def _set_words(brief: Brief, light: KnownLight, dialled: DialledWhite) -> str:
    """A processed picture's colour is final: where it is unsure, a set about it."""
    dial = brief.phone.white
    assert dial is not None
    centre = float(mired(dialled.dial_k))
    sides = [
        dial.nearest(float(kelvin(max(20.0, centre + way * light.plus_minus_mired)))).dial_k
        for way in (1, -1)
    ]
    return (
        f"This light may be {light.plus_minus_mired:.0f} mired off and a processed file cannot "
        f"be corrected fully. Shoot at {sides[0]:g} and {sides[1]:g} K too, or save RAW."
    )
