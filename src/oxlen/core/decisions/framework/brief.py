"""The brief: one intended picture, as it is handed to the decisions."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, fields, replace
from functools import cached_property
from typing import Any, Literal, TypeVar

import numpy as np
from numpy.typing import NDArray

from oxlen.core.ask import Ask
from oxlen.core.decisions.framework.camera import ANY_LENS, LENS, MODE
from oxlen.core.decisions.framework.memo import Memo
from oxlen.core.kit.clip_on import ClipOn
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.kit.phone import Lens, Mode, Phone
from oxlen.core.units import require_between

T = TypeVar("T")
Role = Literal["subject", "keep-bright", "keep-dark", "neutral"]
SUBJECT: Role = "subject"
KEEP_BRIGHT: Role = "keep-bright"
KEEP_DARK: Role = "keep-dark"
NEUTRAL: Role = "neutral"
ROLE_NAMES: Mapping[Role, str] = {
    SUBJECT: "Subject",
    KEEP_BRIGHT: "Hold highlight",
    KEEP_DARK: "Hold shadow",
    NEUTRAL: "Grey/white patch",
}
ROLES: tuple[Role, ...] = tuple(ROLE_NAMES)
SpotRole = Literal["subject", "keep-bright", "keep-dark", "neutral", "tone"]
TONE_ONLY: Literal["tone"] = "tone"
"""A spot whose tone is shown, and which no setting depends on."""
SPOT_ROLE_NAMES: Mapping[SpotRole, str] = {
    TONE_ONLY: "Tone only",
    SUBJECT: ROLE_NAMES[SUBJECT],
    KEEP_BRIGHT: ROLE_NAMES[KEEP_BRIGHT],
    KEEP_DARK: ROLE_NAMES[KEEP_DARK],
    NEUTRAL: ROLE_NAMES[NEUTRAL],
}


@dataclass(frozen=True)
class PlacedReading:
    """Light at EV100 in a role, wanted `place_stops` from mid; None takes the role's default.

    `within_stops` is how far off still will do; None takes what is usual for the role.
    `channel_stops`: how much sooner its strongest colour channel clips than a neutral so light.
    `plus_minus_stops` and `why_plus_minus` say how far the reading itself may be off.
    """

    role: Role
    ev100: float
    place_stops: float | None = None
    name: str = ""
    channel_stops: float = 0.0
    within_stops: float | None = None
    # Doubt about a reading does not make it another reading.
    plus_minus_stops: float | None = field(default=None, compare=False)
    why_plus_minus: str = field(default="", compare=False)

    def __post_init__(self) -> None:
        require_between("ev100", self.ev100, low=-30, high=40, unit="EV100")
        if self.place_stops is not None:
            require_between("place", self.place_stops, low=-12, high=8, unit="stops from mid")
        if self.within_stops is not None:
            require_between("within", self.within_stops, low=0.05, high=12, unit="stops")
        require_between("channel_stops", self.channel_stops, low=0, high=12, unit="stops")

    @property
    def clips_as_ev100(self) -> float:
        """EV100 of the neutral that clips together with it."""
        return self.ev100 + self.channel_stops


@dataclass(frozen=True)
class SceneTones:
    """How a frame's tones are spread: bin edges in EV100 (n + 1) and the share in each bin (n).

    By the strongest channel of each pixel, in EV100 of the neutral that clips together with it.
    `lost_share` of it had clipped in the picture that was read: it is at least as bright as read.
    """

    edges_ev100: tuple[float, ...]
    shares: tuple[float, ...]
    lost_share: float = 0.0

    @cached_property
    def edges(self) -> NDArray[np.float64]:
        """The bin edges as an array."""
        return np.asarray(self.edges_ev100, dtype=float)

    def lit(self, stops: float) -> SceneTones:
        """The same frame by light so many stops stronger."""
        edges = self.edges + stops
        lit = replace(self, edges_ev100=tuple(edges.tolist()))
        # Worked out once for all the light a table of slips is for.
        lit.__dict__.update(edges=edges, brighter_shares=self.brighter_shares)
        return lit

    @cached_property
    def brighter_shares(self) -> NDArray[np.float64]:
        """Share of the frame brighter than each edge."""
        return np.concatenate([[0.0], np.cumsum(self.shares[::-1])])[::-1]


@dataclass(frozen=True)
class Brief:
    """One intended picture: the phone, the light as it was measured, and what is asked for.

    `asked` holds the answers by the ask's name; what is not in it has the ask's default:
    the subscript is the ask. `light_shift_stops` is how much stronger the light is expected
    to be than it was when it was measured. `about` is the picture's title and intent.
    `filters_at_hand` and `clip_ons_at_hand` are what the kit has.
    """

    phone: Phone
    readings_measured: tuple[PlacedReading, ...] = ()
    mean_measured_ev100: float | None = None
    tones_measured: SceneTones | None = None
    filters_at_hand: tuple[LensFilter, ...] = ()
    clip_ons_at_hand: tuple[ClipOn, ...] = ()
    light_shift_stops: float = 0.0
    about: str = ""
    asked: Mapping[str, Any] = field(default_factory=dict)

    def __getitem__(self, ask: Ask[T]) -> T:
        value: T = self.asked.get(ask.name, ask.default)
        return value

    def asking(self, ask: Ask[T], value: T) -> Brief:
        """The brief with another answer to one ask."""
        # As `dataclasses.replace` would, in a tenth of its time: ways out ask by the hundred.
        other = object.__new__(Brief)
        for name in _FIELDS:
            other.__dict__[name] = self.__dict__[name]
        other.__dict__["asked"] = {**self.asked, ask.name: value}
        return other

    def lit(self, stops: float) -> Brief:
        """The brief by light so many stops stronger."""
        return replace(self, light_shift_stops=self.light_shift_stops + stops)

    @cached_property
    def readings(self) -> tuple[PlacedReading, ...]:
        """The readings by the light expected."""
        if not self.light_shift_stops:
            return self.readings_measured
        shift = self.light_shift_stops
        return tuple(
            replace(reading, ev100=reading.ev100 + shift) for reading in self.readings_measured
        )

    @property
    def scene_mean_ev100(self) -> float | None:
        """Mean of the frame by the light expected; None when it is not known."""
        mean = self.mean_measured_ev100
        return None if mean is None else mean + self.light_shift_stops

    @cached_property
    def tones(self) -> SceneTones | None:
        """How the frame's tones are spread by the light expected; None without a picture."""
        tones, shift = self.tones_measured, self.light_shift_stops
        if tones is None or not shift:
            return tones
        return tones.lit(shift)

    @cached_property
    def memo(self) -> Memo[Brief]:
        """What was derived from it so far."""
        return Memo(self)

    @cached_property
    def lens(self) -> Lens:
        """The lens asked for, the phone's first when none was or any will do."""
        lens_id = self[LENS]
        return self.phone.lens(None if lens_id == ANY_LENS else lens_id)

    @cached_property
    def mode(self) -> Mode:
        """The mode asked for, the lens's first when none was."""
        return self.lens.mode(self[MODE])


_FIELDS = tuple(entry.name for entry in fields(Brief))
