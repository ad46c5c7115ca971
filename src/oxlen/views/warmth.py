"""The warmth ribbon as data: lights and dial in mired, and what each setting does to a picture."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from oxlen.core.colour.adaptation import xyz_of
from oxlen.core.colour.temperature import Temperature, chromaticity_of, mired
from oxlen.core.colour.tone_colour import ToneColour
from oxlen.core.colour.usual_light import USUAL_LIGHTS
from oxlen.core.colour.white_point import XYZ_TO_SRGB, dial_linear_srgb
from oxlen.core.decisions.colour.ask import LIGHT_COLOUR
from oxlen.core.decisions.colour.decision import white_choice
from oxlen.core.decisions.colour.words import BOTH_FACTS
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.kit.white_dial import DialledWhite, WhiteDial
from oxlen.core.light.tone import linear_to_srgb

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class ShownTone:
    """A tone whose colour the ribbon shows, by name."""

    name: str
    colour: ToneColour


NEUTRAL = np.array([0.45, 0.45, 0.45])
OAK = ShownTone("oiled oak", ToneColour((0.40, 0.23, 0.11), None))
MOST_STEPS = 120
MarkKind = Literal["lamp", "usual", "patch", "light"]
SHOWN_USUAL = ("candle", "bulb", "led-warm", "moon", "sun", "overcast", "shade", "blue-hour")


class WarmthMark(BaseModel):
    """A light on the ribbon: what it is, its place in mired, and how sure that is."""

    name: str
    cct_k: float
    mired: float
    plus_minus_mired: float
    kind: MarkKind


class WarmthStep(BaseModel):
    """A setting of the dial: how warm it makes the picture, what a neutral and each tone become."""

    dial_k: float
    mired: float
    warmth_mired: float | None
    words: str
    neutral: str
    tones: list[str]


class WarmthRibbon(BaseModel):
    """Everything the ribbon draws; `dial_k` null while white balance is left to the phone.

    `tone_names` are the spots of the picture whose colours the steps show, and one of our own.
    """

    low_mired: float
    high_mired: float
    marks: list[WarmthMark]
    steps: list[WarmthStep]
    dial_k: float | None
    light_mired: float | None
    tone_names: list[str]
    both_facts: str


def warmth_ribbon(brief: Brief, tones: Sequence[ShownTone] = ()) -> WarmthRibbon | None:
    """The ribbon of a brief, with tones of its picture; None for a phone without a dial."""
    dial = brief.phone.white
    if dial is None:
        return None
    choice = white_choice(brief)
    light = None if choice.light is None else choice.light.temperature
    marks = list(_marks(brief))
    if choice.light is not None and light is not None:
        doubt = choice.light.plus_minus_mired
        marks.append(_mark("this light", light.cct_k, doubt, kind="light"))
    shown = (*tones, OAK)
    ends = [float(mired(dial.low_k)), float(mired(dial.high_k)), *(mark.mired for mark in marks)]
    return WarmthRibbon(
        low_mired=min(ends),
        high_mired=min(max(ends), 560.0),
        marks=[mark for mark in marks if mark.mired <= 560.0],
        steps=_steps(dial, light, shown, tint_duv=_tint_duv(dial, choice.dialled)),
        dial_k=None if choice.dialled is None else choice.dialled.dial_k,
        light_mired=None if light is None else float(mired(light.cct_k)),
        tone_names=[tone.name for tone in shown],
        both_facts=BOTH_FACTS,
    )


def _marks(brief: Brief) -> list[WarmthMark]:
    asked = brief[LIGHT_COLOUR]
    lamps = [
        _mark(lamp.name, lamp.cct_k, lamp.plus_minus_mired, kind="lamp") for lamp in asked.lamps
    ]
    if asked.patch is not None:
        lamps.append(_mark("patch", asked.patch.cct_k, asked.patch.plus_minus_mired, kind="patch"))
    usual = [light for light in USUAL_LIGHTS if light.id in SHOWN_USUAL]
    return lamps + [
        _mark(usual_light.name, usual_light.cct_k, usual_light.plus_minus_mired, kind="usual")
        for usual_light in usual
    ]


def _mark(name: str, cct_k: float, plus_minus: float, *, kind: MarkKind) -> WarmthMark:
    place = float(mired(cct_k))
    return WarmthMark(name=name, cct_k=cct_k, mired=place, plus_minus_mired=plus_minus, kind=kind)


def _steps_k(dial: WhiteDial) -> list[float]:
    """The dial's own steps; of a very fine one every so many."""
    every = -(-len(dial.steps_k) // MOST_STEPS)
    return list(dial.steps_k[::every])


def _tint_duv(dial: WhiteDial, dialled: DialledWhite | None) -> float:
    """How far the tint that is dialled shifts the white."""
    return 0.0 if dialled is None or dialled.tint is None else dialled.tint * dial.tint_duv


def _steps(
    dial: WhiteDial, light: Temperature | None, tones: Sequence[ShownTone], *, tint_duv: float
) -> list[WarmthStep]:
    dials = _steps_k(dial)
    whites = np.array([dial_white(dial_k, tint_duv) for dial_k in dials])
    seen = None if light is None else _white(light)
    neutral = _hexes(NEUTRAL * _cast(whites, seen))
    shown = [_hexes(np.array(tone.colour.linear_srgb) * _of(tone, whites, seen)) for tone in tones]
    return [
        _step(dial_k, light, neutral=neutral[place], tones=[tones[place] for tones in shown])
        for place, dial_k in enumerate(dials)
    ]


def _of(tone: ShownTone, whites: Floats, seen: Floats | None) -> Floats:
    """What each setting makes of a tone: from the white it was taken at, else from the light's."""
    taken = tone.colour.taken_at_k
    return _cast(whites, seen if taken is None else dial_white(taken, 0.0))


def _cast(whites: Floats, light: Floats | None) -> Floats:
    """How a white, shape (3,), looks at each setting, (n, 3), green at 1."""
    if light is None:
        return np.ones_like(whites)
    cast = light / whites
    return np.asarray(cast / cast[:, 1:2])


def _step(
    dial_k: float, light: Temperature | None, *, neutral: str, tones: list[str]
) -> WarmthStep:
    warmth = None if light is None else float(mired(light.cct_k) - mired(dial_k))
    return WarmthStep(
        dial_k=dial_k,
        mired=float(mired(dial_k)),
        warmth_mired=warmth,
        words=_words(warmth),
        neutral=neutral,
        tones=tones,
    )


@lru_cache(maxsize=1024)
def dial_white(dial_k: float, tint_duv: float) -> Floats:
    """The white of a dial's setting as linear sRGB, worked once: ribbons are drawn often."""
    return dial_linear_srgb(dial_k, tint_duv)


def _words(warmth: float | None) -> str:
    if warmth is None:
        return "light unknown"
    if abs(warmth) < 5:
        return "neutral"
    much = "slightly " if abs(warmth) < 20 else "" if abs(warmth) < 60 else "very "
    return f"{much}{'warm' if warmth > 0 else 'cool'}, {abs(warmth):.0f} mired"


def _white(light: Temperature) -> Floats:
    colour = XYZ_TO_SRGB @ xyz_of(*chromaticity_of(light))
    return np.asarray(np.maximum(colour, 1e-3) / colour[1])


def _hexes(linear: Floats) -> list[str]:
    """Linear colours (n, 3) as they are written in a style sheet."""
    codes = np.rint(255 * np.asarray(linear_to_srgb(np.clip(linear, 0, 1)))).astype(int)
    return ["#" + "".join(f"{code:02x}" for code in row) for row in codes]
