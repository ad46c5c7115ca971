"""White balance: kelvin, and tint where the phone has it, or auto with the reason."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

from oxlen.core.colour.temperature import kelvin, mired
from oxlen.core.decisions.colour.ask import LIGHT_COLOUR
from oxlen.core.decisions.colour.known_light import KnownLight, known_light
from oxlen.core.decisions.colour.words import colour_notes, kept_words, mood_words
from oxlen.core.decisions.exposure.ask import FORMAT
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.decision import Decision
from oxlen.core.decisions.framework.dial import Dial, SeriesPart
from oxlen.core.decisions.framework.setting import Setting
from oxlen.core.decisions.upstream import Upstream
from oxlen.core.kit.phone import Phone
from oxlen.core.kit.white_dial import DialledWhite
from oxlen.core.labels import signed

WHITE = "white"


@dataclass(frozen=True)
class WhiteChoice:
    """The white balance decided: what is dialled, None for auto; the light, None where unknown.

    `target_k` is the dial that was wanted, mood counted.
    """

    dialled: DialledWhite | None
    light: KnownLight | None
    target_k: float | None
    because: str
    reason: str


def white_choice(brief: Brief) -> WhiteChoice:
    """What to dial for a brief's light, by its strategy."""
    asked, light = brief[LIGHT_COLOUR], known_light(brief)
    if brief.phone.white is None:
        reason = "Automatic on this phone. Correct it afterwards"
        return WhiteChoice(None, light, None, because="phone", reason=reason)
    if asked.strategy == "leave" and not asked.mood_mired:
        return WhiteChoice(None, light, None, because="leave", reason=_left(brief))
    if light is None:
        return WhiteChoice(None, None, None, because="unknown", reason=_unknown(brief))
    if asked.strategy == "patch" and light.because != "patch":
        light = replace(light, needs_patch=True)
    return _dialled(brief, light)


def _dialled(brief: Brief, light: KnownLight) -> WhiteChoice:
    """The dial for a known light: in mired, less the mood, since the dial works against it."""
    dial, mood = brief.phone.white, brief[LIGHT_COLOUR].mood_mired
    assert dial is not None
    lowest, highest = mired(dial.high_k), mired(dial.low_k)
    kept = light.kept_mired if brief[LIGHT_COLOUR].strategy == "advise" and not mood else 0.0
    wanted = float(mired(light.temperature.cct_k)) - mood - kept
    target_k = float(kelvin(max(1.0, wanted)))
    reached = float(kelvin(min(max(wanted, float(lowest)), float(highest))))
    found = dial.nearest(reached, light.temperature.duv)
    # A larger kelvin on the dial is a smaller mired: warmer than wanted where the dial ended.
    residual = wanted - float(mired(found.dial_k)) + dial.offset_mired
    dialled = DialledWhite(found.dial_k, found.tint, residual)
    reason = light.words + mood_words(brief) + kept_words(kept)
    because = "mood" if mood else light.because
    return WhiteChoice(dialled, light, target_k, because=because, reason=reason)


def _left(brief: Brief) -> str:
    if brief[FORMAT] == "processed":
        return "Your choice. Processed files keep the phone's choice"
    return "RAW: choose white balance in development"


def _unknown(brief: Brief) -> str:
    if brief[FORMAT] == "processed":
        return "Light unknown: choose it or measure a patch"
    return "Light unknown: RAW keeps it open"


def decide(_: Brief, upstream: Upstream) -> tuple[Setting, ...]:
    """The line of white balance."""
    brief = upstream.solution.search.brief
    choice = white_choice(brief)
    line = Setting(
        WHITE,
        "White balance",
        "auto",
        label="Auto",
        unit="",
        reason=choice.reason,
        because=choice.because,
        notes=colour_notes(brief, choice.light, choice.dialled),
    )
    if choice.dialled is None or choice.light is None:
        return (line,)
    mood_mired = brief[LIGHT_COLOUR].mood_mired
    made = _dialled_line(line, choice.light, choice.dialled, mood_mired=mood_mired)
    return (_with_dial_doubt(made, brief.phone),)


def _with_dial_doubt(line: Setting, phone: Phone) -> Setting:
    """The line with the doubt about the dial itself beside that about the light."""
    light_mired = line.plus_minus or 0.0
    dial_mired = 0.0 if phone.white is None else phone.white.plus_minus_mired
    if dial_mired <= light_mired:
        why = line.why_plus_minus
    else:
        why = "mostly how accurate the phone's dial is"
    return replace(line, plus_minus=math.hypot(light_mired, dial_mired), why_plus_minus=why)


def _dialled_line(
    line: Setting, light: KnownLight, dialled: DialledWhite, *, mood_mired: float
) -> Setting:
    light_k = light.temperature.cct_k
    return replace(
        line,
        value=dialled.dial_k,
        label=white_label(dialled),
        unit="K",
        plus_minus=light.plus_minus_mired,
        plus_minus_unit="mired",
        why_plus_minus="how sure the light's colour is",
        formula="picture_warmth",
        inputs={"K_light": light_k, "K_dial": dialled.dial_k},
        figures={
            "light_k": light_k,
            "light_duv": light.temperature.duv,
            "tint": dialled.tint,
            "residual_mired": dialled.residual_mired,
            "mood_mired": mood_mired,
            "spread_mired": light.spread_mired,
        },
    )


def white_label(dialled: DialledWhite) -> str:
    """What is dialled, in words: "5600 K, tint +4"."""
    tint = "" if not dialled.tint else f", tint {signed(dialled.tint, 0)}"
    return f"{dialled.dial_k:g} K{tint}"


def values(lines: Mapping[str, Setting]) -> Mapping[str, float | str | None]:
    """What is dialled in kelvin, and the tint; nothing where it is left to the phone."""
    white = lines.get(WHITE)
    if white is None or white.unit != "K":
        return {}
    return {"white_k": white.value, "tint": white.figures.get("tint")}


DECISION = Decision(
    "colour",
    (LIGHT_COLOUR,),
    decide,
    instrument="white",
    dials=(Dial(WHITE, "White balance"),),
    values=values,
    series_part=SeriesPart("white", "White balance"),
    locked=(LIGHT_COLOUR,),
)
