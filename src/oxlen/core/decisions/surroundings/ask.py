"""What may be asked of the surroundings: what is there, what lights it, the footing."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Literal

from oxlen.core.ask import Ask, Checked, Choices, Quantity, Several

Hazard = Literal[
    "sun",
    "welding",
    "storm",
    "railway",
    "wildlife",
    "cliff",
    "drone",
    "crowd",
    "strobe",
    "fireworks",
    "water",
    "ice",
    "traffic",
]
HAZARD_WORDS: Mapping[str, str] = {
    "sun": "Sun in the frame",
    "welding": "Welding",
    "storm": "A thunderstorm",
    "railway": "Railway tracks",
    "wildlife": "Wild animals",
    "cliff": "A cliff or steep edge",
    "drone": "Drones",
    "crowd": "A crowd",
    "strobe": "Strobe lights",
    "fireworks": "Fireworks",
    "water": "Water",
    "ice": "Ice or snow",
    "traffic": "A road",
}
SceneLight = Literal["day", "lamps", "stage", "night"]
SCENE_LIGHT_WORDS: Mapping[str, str] = {
    "day": "Daylight",
    "lamps": "Your own lamps",
    "stage": "Lamps of others: a stage, a hall, a street",
    "night": "Night sky, fire or fireworks",
}
Stand = Literal["ground", "boat", "bridge", "vehicle"]
STAND_WORDS: Mapping[str, str] = {
    "ground": "Firm ground",
    "boat": "A boat or pontoon",
    "bridge": "A bridge or platform that shakes",
    "vehicle": "A vehicle",
}
STAND_DEG_S: Mapping[Stand, float] = {"boat": 2.0, "bridge": 0.3, "vehicle": 4.0}
"""How fast each usually turns the phone: our own figures, to be replaced by measured ones."""


@dataclass(frozen=True)
class Surroundings(Checked):
    """The surroundings of a picture; what is left open follows from the names of its spots.

    `has` lists what calls for care. `lit_by` is whose light it is. `stand` is the footing,
    and `stand_deg_s` how fast that turns the phone, None for the usual rate.
    """

    has: Annotated[tuple[Hazard, ...], Several(13), Choices(HAZARD_WORDS, "Hazards")] = ()
    lit_by: Annotated[SceneLight, Choices(SCENE_LIGHT_WORDS, "Light")] | None = None
    stand: Annotated[Stand, Choices(STAND_WORDS, "Standing on")] = "ground"
    stand_deg_s: (
        Annotated[float, Quantity(0.01, 90, "°/s", label="Platform turns", usual=2.0)] | None
    ) = None

    @property
    def turns_deg_s(self) -> float | None:
        """How fast the ground turns the phone (°/s); None on firm ground."""
        if self.stand == "ground":
            return None
        return STAND_DEG_S[self.stand] if self.stand_deg_s is None else self.stand_deg_s


SURROUNDINGS: Ask[Surroundings] = Ask(
    "surroundings", Surroundings, Surroundings(), label="Surroundings"
)
