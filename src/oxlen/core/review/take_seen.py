"""What is compared with each other: the spots of a plan, what a take shows, what is to change."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from oxlen.core.review.blur_cause import BlurCause

TakeState = Literal["keep", "change", "not judged"]
LightVerdict = Literal["as_planned", "light_changed", "read_wrongly", "unknown"]


@dataclass(frozen=True)
class PlannedSpot:
    """A spot of the plan: where it was wanted and where it was to land, in stops from mid.

    `plus_minus_stops` is how far its reading may be off. `may_be_lost` marks a spot whose detail
    the plan gave up.
    """

    name: str
    role: str
    wanted_stops: float
    lands_stops: float
    plus_minus_stops: float = 0.0
    may_be_lost: bool = False


@dataclass(frozen=True)
class SeenSpot:
    """The same spot in the take: its tone in stops from mid, and the share of it that is lost.

    `is_reckoned` marks a lost spot whose tone follows from what the rest of the frame gained,
    `is_alone` one that is lost although the rest of the frame gained too little for it.
    """

    name: str
    stops: float
    clipped_share: float = 0.0
    blocked_share: float = 0.0
    is_reckoned: bool = False
    is_alone: bool = False


@dataclass(frozen=True)
class TakeSettings:
    """What was dialled, or a file records; None where it does not."""

    iso: float | None
    shutter_s: float | None
    white_k: float | None = None


@dataclass(frozen=True)
class SeenTake:
    """All that was measured in a take.

    `cut_off` names spots that the frame's edge cuts, `bands_share` is how deep lamps' bands are,
    `cleaner_stops` how much cleaner it is than predicted. With `is_total` its time is of many
    frames and says nothing of the light. `is_firm` says that nobody held the phone. `unjudged` says
    what could not be judged, and why.
    """

    settings: TakeSettings
    spots: tuple[SeenSpot, ...]
    is_raw: bool
    blur: BlurCause | None = None
    lean_deg: float | None = None
    cast_mired: float | None = None
    clipped_share: float = 0.0
    cut_off: tuple[str, ...] = ()
    bands_share: float = 0.0
    cleaner_stops: float | None = None
    is_total: bool = False
    is_firm: bool = False
    unjudged: tuple[str, ...] = ()


@dataclass(frozen=True)
class SettingsOff:
    """How far it was dialled from the slip: stops brighter, kelvin higher; None where unknown."""

    iso_stops: float | None
    shutter_stops: float | None
    kelvin: float | None

    @property
    def stops(self) -> float:
        """Exposure dialled brighter than the slip, as far as it is known."""
        return (self.iso_stops or 0.0) + (self.shutter_stops or 0.0)


@dataclass(frozen=True)
class CheckedSpot:
    """A spot in the take: `off_stops` brighter than wanted, `unexplained_stops` brighter than
    the settings and the plan's light account for.

    `is_known` is False where it is lost and nothing else tells its tone.
    """

    name: str
    role: str
    wanted_stops: float
    planned_stops: float
    seen_stops: float
    off_stops: float
    unexplained_stops: float
    is_lost: bool
    is_known: bool = True
    plus_minus_stops: float = 0.0
    may_be_lost: bool = False
    is_clipped: bool = False
    lost_share: float = 0.0
    is_alone: bool = False


@dataclass(frozen=True)
class Change:
    """The one thing to change first, and why; `light_stops` is how much stronger the light is than
    the plan took it for, and `white_k` the value the dial should have."""

    what: Literal[
        "nothing",
        "dial",
        "light",
        "raw",
        "steady",
        "freeze",
        "focus",
        "bands",
        "white",
        "frame",
        "level",
    ]
    words: str
    why: str
    light_stops: float = 0.0
    white_k: float | None = None
