"""What may be asked of the light's colour: what lights it, a measured patch, strategy, mood."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from oxlen.core.ask import Ask, Checked, Choices, Formerly, Quantity, Several, Text
from oxlen.core.colour.usual_light import USUAL_LIGHTS, usual_light
from oxlen.core.decisions.exposure.motion_ask import known
from oxlen.core.kit.lamp import Cri, Duv, LampKelvin

WhiteStrategy = Literal["advise", "leave", "dial", "patch"]
WHITE_STRATEGIES = {
    "advise": "Recommended",
    "leave": "Leave for RAW",
    "dial": "Dial the lamp",
    "patch": "Measure a patch",
}
Ground = Literal["neutral", "dark", "coloured"]
GROUNDS = {"neutral": "grey or mixed", "dark": "dark", "coloured": "strongly coloured"}
PatchFrom = Literal["raw", "processed", "meter"]
PATCH_FROM = {"raw": "a RAW file", "processed": "a processed picture", "meter": "a colour meter"}
MiredDoubt = Annotated[float, Quantity(0, 200, "mired", label="Give or take")]


@dataclass(frozen=True)
class LitBy(Checked):
    """One lamp that lights the scene: its colour, its share of the light, the zone it lights.

    `duv` None where nobody measured it: then no tint is dialled for it. `favoured` marks the zone
    that shall be right where one setting cannot serve all.
    """

    name: Annotated[str, Text(60, "Name")]
    cct_k: LampKelvin
    duv: Duv | None = None
    cri: Cri | None = None
    share: Annotated[float, Quantity(0.001, 1000, "share", label="Share")] = 1.0
    zone: Annotated[str, Text(60, "Lights")] = ""
    favoured: bool = False
    plus_minus_mired: MiredDoubt = 5.0


@dataclass(frozen=True)
class MeasuredPatch(Checked):
    """A white or grey patch that was measured: the light on it, how sure, and in what."""

    cct_k: LampKelvin
    duv: Duv = 0.0
    plus_minus_mired: MiredDoubt = 10.0
    measured_in: Annotated[PatchFrom, Choices(PATCH_FROM, "Measured with")] = "processed"


@dataclass(frozen=True)
class LightColour(Checked):
    """The colour of the light, and what is wanted of it.

    `lamps` light the scene, or `usual`, a common light; a `patch` that was measured goes before
    both. `mood_mired` makes the picture warmer (positive) or cooler on purpose, for
    `mood_reason`. `ground` is what the frame is mostly of; `neutral_in_frame` whether something
    white or grey is in it.
    """

    strategy: Annotated[
        WhiteStrategy, Choices(WHITE_STRATEGIES, "White balance"), Formerly("school")
    ] = "advise"
    usual: (
        Annotated[
            str, Text(40), Choices({light.id: light.name for light in USUAL_LIGHTS}, "Light source")
        ]
        | None
    ) = None
    lamps: Annotated[tuple[LitBy, ...], Several(8)] = ()
    patch: MeasuredPatch | None = None
    mood_mired: Annotated[float, Quantity(-200, 200, "mired", label="Warmer by")] = 0.0
    mood_reason: Annotated[str, Text(120, "Why warmer or cooler")] = ""
    ground: Annotated[Ground, Choices(GROUNDS, "Main colour")] | None = None
    neutral_in_frame: bool | None = None

    def check(self) -> None:
        """A usual light that is known."""
        if self.usual is not None:
            known(usual_light, self.usual, "usual")


LIGHT_COLOUR: Ask[LightColour] = Ask(
    "light_colour", LightColour, LightColour(), label="Light's colour"
)
