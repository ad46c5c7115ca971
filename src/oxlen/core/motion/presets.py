"""Usual movers, as a start for one's own numbers: speeds paced out and timed, rounded."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.errors import NotFound


@dataclass(frozen=True)
class MoverPreset:
    """A usual mover: speed (m/s), distance (m), direction (90° crosses, 0° comes straight on).

    `width_m` is its own length along its way, for things that should vanish from a long frame.
    `spoken` is what it is called within a sentence. `passes` marks what passes by, so that a phone
    can follow it; `waits` who can be asked to hold still; `ripples` open water.
    """

    id: str
    name: str
    speed_m_s: float
    distance_m: float
    direction_deg: float = 90.0
    width_m: float = 1.0
    spoken: str = "it"
    passes: bool = False
    waits: bool = False
    ripples: bool = False


MOVERS: tuple[MoverPreset, ...] = (
    MoverPreset(
        "walker",
        "Someone walking",
        1.4,
        distance_m=5.0,
        width_m=0.5,
        spoken="the walker",
        passes=True,
        waits=True,
    ),
    MoverPreset(
        "runner",
        "Someone running",
        4.0,
        distance_m=6.0,
        width_m=0.6,
        spoken="the runner",
        passes=True,
    ),
    MoverPreset(
        "runner-towards",
        "Someone running at you",
        4.0,
        distance_m=8.0,
        direction_deg=0.0,
        width_m=0.5,
        spoken="the runner",
    ),
    MoverPreset(
        "cyclist",
        "Cyclist on the wall path",
        6.0,
        distance_m=8.0,
        width_m=1.7,
        spoken="the cyclist",
        passes=True,
    ),
    MoverPreset(
        "dinghy",
        "Dinghy under sail",
        2.5,
        distance_m=15.0,
        width_m=3.5,
        spoken="the dinghy",
        passes=True,
    ),
    MoverPreset("oars", "Oar blades", 4.5, distance_m=10.0, width_m=0.5, spoken="the oars"),
    MoverPreset(
        "hands", "Working hands", 0.8, distance_m=1.2, width_m=0.2, spoken="the hands", waits=True
    ),
    MoverPreset(
        "leaves", "Leaves and reeds in wind", 1.0, distance_m=4.0, width_m=0.1, spoken="the leaves"
    ),
    MoverPreset(
        "swell",
        "Swell on the creek",
        1.2,
        distance_m=12.0,
        width_m=2.0,
        spoken="the swell",
        ripples=True,
    ),
    MoverPreset(
        "sluice", "Water through the sluice", 2.0, distance_m=6.0, width_m=0.5, spoken="the water"
    ),
    MoverPreset("river", "Water of a river", 1.5, distance_m=5.0, width_m=0.5, spoken="the river"),
    MoverPreset("fall", "Falling water", 4.0, distance_m=8.0, width_m=0.5, spoken="the fall"),
    MoverPreset(
        "surf",
        "Waves on a shore",
        2.0,
        distance_m=8.0,
        width_m=2.0,
        spoken="the waves",
        ripples=True,
    ),
    MoverPreset("cloud", "Low cloud", 10.0, distance_m=1500.0, width_m=300.0, spoken="the cloud"),
    MoverPreset(
        "boat",
        "Boat passing under engine",
        3.0,
        distance_m=40.0,
        width_m=7.0,
        spoken="the boat",
        passes=True,
    ),
    MoverPreset(
        "traffic",
        "Lamps of traffic on the bridge",
        11.0,
        distance_m=60.0,
        width_m=0.2,
        spoken="the traffic's lamps",
        passes=True,
    ),
    MoverPreset(
        "lantern",
        "Lantern swung at arm's length",
        2.0,
        distance_m=4.0,
        width_m=0.15,
        spoken="the lantern",
    ),
)
"""Rule of thumb, each for its kind: speeds off by up to a factor of 1.5, and meant to be
changed."""


def mover_preset(preset_id: str) -> MoverPreset:
    """The preset of that id; NotFound says which there are."""
    for preset in MOVERS:
        if preset.id == preset_id:
            return preset
    known = ", ".join(preset.id for preset in MOVERS)
    raise NotFound(f"Unknown mover {preset_id}. Use one of {known}.", mover=preset_id)
