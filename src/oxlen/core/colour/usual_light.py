"""Usual lights: what colour they commonly have, and how far one of a kind may be off."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.errors import NotFound


@dataclass(frozen=True)
class UsualLight:
    """A common light: colour temperature (K), Duv, how far it may be off in mired, CRI if poor.

    `spoken` names it within a sentence. `towards_k` marks light whose colour is what the picture is
    of: people want it warm or blue, so the dial goes only part of the way from that white.
    `kept_share` is how much of the way it stays away from being balanced.
    """

    id: str
    name: str
    spoken: str
    cct_k: float
    duv: float = 0.003
    plus_minus_mired: float = 20.0
    cri: float | None = None
    towards_k: float | None = None
    kept_share: float = 2 / 3


# Daylight by CIE 015 and common tables of natural light; lamps by their trade's usual bins.
USUAL_LIGHTS: tuple[UsualLight, ...] = (
    UsualLight("sun", "Sun high in a clear sky", "the high sun", cct_k=5500, plus_minus_mired=10),
    UsualLight("hazy", "Hazy sun", "hazy sun", cct_k=5900, plus_minus_mired=12),
    UsualLight("overcast", "Overcast sky", "an overcast sky", cct_k=6500, plus_minus_mired=12),
    UsualLight("shade", "Open shade under a blue sky", "open shade", cct_k=7800),
    UsualLight("window", "Window without sun", "a window without sun", cct_k=6800),
    UsualLight(
        "low-sun",
        "Low sun, an hour before it sets",
        "the low sun",
        towards_k=5500,
        cct_k=3900,
        plus_minus_mired=35,
    ),
    UsualLight(
        "sunset",
        "Sun at the horizon",
        "the setting sun",
        kept_share=0.85,
        towards_k=5500,
        cct_k=2800,
        duv=0.0,
        plus_minus_mired=50,
    ),
    UsualLight(
        "blue-hour", "Blue hour", "the blue hour", towards_k=5500, cct_k=9500, plus_minus_mired=25
    ),
    UsualLight("moon", "Moonlight", "moonlight", cct_k=4100, plus_minus_mired=15),
    UsualLight(
        "night-sky", "Night sky away from lamps", "the night sky", cct_k=4000, plus_minus_mired=40
    ),
    UsualLight(
        "candle",
        "Candle",
        "a candle",
        kept_share=0.85,
        towards_k=3200,
        cct_k=1900,
        duv=0.0,
        plus_minus_mired=25,
    ),
    UsualLight(
        "lantern",
        "Oil lantern",
        "an oil lantern",
        kept_share=0.85,
        towards_k=3200,
        cct_k=2000,
        duv=0.0,
        plus_minus_mired=30,
    ),
    UsualLight(
        "bulb", "Filament bulb", "a filament bulb", cct_k=2750, duv=0.0, plus_minus_mired=12
    ),
    UsualLight(
        "halogen", "Halogen lamp", "a halogen lamp", cct_k=3000, duv=0.0, plus_minus_mired=12
    ),
    UsualLight("led-warm", "Warm white LED", "a warm white LED", cct_k=2900, duv=0.0, cri=80),
    UsualLight("led-cool", "Cool white LED", "a cool white LED", cct_k=5000, duv=0.002, cri=80),
    UsualLight(
        "tube",
        "Fluorescent tube",
        "a fluorescent tube",
        cct_k=4000,
        duv=0.004,
        cri=80,
        plus_minus_mired=25,
    ),
    UsualLight(
        "street-led",
        "Street lamp, LED",
        "an LED street lamp",
        cct_k=3500,
        duv=0.0,
        cri=70,
        plus_minus_mired=45,
    ),
    UsualLight(
        "street-orange",
        "Street lamp, orange",
        "an orange street lamp",
        cct_k=2000,
        duv=0.0,
        cri=25,
        plus_minus_mired=30,
    ),
    UsualLight("flash", "Flash", "flash", cct_k=5600, duv=0.0, plus_minus_mired=8),
)
"""Rule of thumb, each with its ±: off by up to that. [CIE015]"""


def usual_light(light_id: str) -> UsualLight:
    """The usual light of that id; NotFound says which there are."""
    for light in USUAL_LIGHTS:
        if light.id == light_id:
            return light
    known = ", ".join(light.id for light in USUAL_LIGHTS)
    raise NotFound(f"There is no usual light named {light_id}; there are {known}.", light=light_id)
