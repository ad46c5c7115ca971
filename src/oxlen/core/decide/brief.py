"""What a photographer asks for: the brief handed to the decision."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from typing import Literal

from oxlen.core.decide.wishes import (
    Flicker,
    Frames,
    Framing,
    Freeze,
    Glass,
    Hold,
    Output,
    Show,
)
from oxlen.core.hold.hand import Support
from oxlen.core.kit.phone import FileFormat, Lens, Mode, Phone
from oxlen.core.motion.less_light import nd_stops
from oxlen.core.units import require_between, require_positive

Role = Literal["subject", "keep-bright", "keep-dark", "neutral"]
IsoSchool = Literal["floor", "ceiling", "shutter_first"]
ExposureAim = Literal["centre", "highlights", "dark", "silhouette", "split"]

ROLES: tuple[Role, ...] = ("subject", "keep-bright", "keep-dark", "neutral")
ISO_SCHOOLS: tuple[IsoSchool, ...] = ("floor", "ceiling", "shutter_first")
EXPOSURE_AIMS: tuple[ExposureAim, ...] = ("centre", "highlights", "dark", "silhouette", "split")
ANY_LENS = "any"
"""Stands for a lens id when Oxlen is to choose the lens as well."""


@dataclass(frozen=True)
class PlacedReading:
    """Light at EV100 in a role, wanted `place_stops` from mid; None takes the role's default.

    `channel_stops`: how much sooner its strongest colour channel clips than a neutral so light.
    """

    role: Role
    ev100: float
    place_stops: float | None = None
    name: str = ""
    channel_stops: float = 0.0

    def __post_init__(self) -> None:
        require_between("ev100", self.ev100, low=-30, high=40, unit="EV100")
        if self.place_stops is not None:
            require_between("place", self.place_stops, low=-12, high=8, unit="stops from mid")
        require_between("channel_stops", self.channel_stops, low=0, high=12, unit="stops")

    @property
    def clips_as_ev100(self) -> float:
        """EV100 of the neutral that clips together with it."""
        return self.ev100 + self.channel_stops


@dataclass(frozen=True)
class School:
    """How to decide where experienced people differ; `shutter_s` is the one asked for, if any.

    Without an ISO school, motion that must freeze or show puts the shutter first; otherwise the
    lowest ISO does.
    """

    iso: IsoSchool | None = None
    iso_cap: float | None = None
    exposure: ExposureAim = "centre"
    shutter_s: float | None = None

    def __post_init__(self) -> None:
        if self.iso_cap is not None:
            require_positive("iso_cap", self.iso_cap)
        if self.shutter_s is not None:
            require_positive("shutter_s", self.shutter_s, "s")


@dataclass(frozen=True)
class SceneTones:
    """How a frame's tones are spread: bin edges in EV100 (n + 1) and the share in each bin (n).

    By the strongest channel of each pixel, in EV100 of the neutral that clips together with it.
    `lost_share` of it had clipped in the picture that was read: it is at least as bright as said.
    """

    edges_ev100: tuple[float, ...]
    shares: tuple[float, ...]
    lost_share: float = 0.0


@dataclass(frozen=True)
class Brief:
    """One intended picture: phone and lens, what holds it, the light, the school, the wishes."""

    phone: Phone
    lens_id: str | None = None
    mode_id: str | None = None
    support: Support = "handheld"
    readings: tuple[PlacedReading, ...] = ()
    school: School = field(default_factory=School)
    file_format: FileFormat = "processed"
    scene_mean_ev100: float | None = None
    hold: Hold = field(default_factory=Hold)
    freeze: tuple[Freeze, ...] = ()
    show: tuple[Show, ...] = ()
    flicker: Flicker | None = None
    output: Output = field(default_factory=Output)
    glass_on: tuple[Glass, ...] = ()
    glass_at_hand: tuple[Glass, ...] = ()
    frames: Frames = field(default_factory=Frames)
    framing: Framing | None = None
    tones: SceneTones | None = None

    @cached_property
    def lens(self) -> Lens:
        """The lens asked for, the phone's first when none was or any will do."""
        return self.phone.lens(None if self.lens_id == ANY_LENS else self.lens_id)

    @cached_property
    def mode(self) -> Mode:
        """The mode asked for, the lens's first when none was."""
        return self.lens.mode(self.mode_id)

    @property
    def iso_school(self) -> IsoSchool:
        """The ISO school in force: the one chosen, or the one the wishes call for."""
        if self.school.iso is not None:
            return self.school.iso
        return "shutter_first" if self.freeze or self.show or self.school.shutter_s else "floor"

    @property
    def glass_stops(self) -> float:
        """Stops that the glass on the lens takes together."""
        return float(sum(nd_stops(glass.factor) for glass in self.glass_on))

    @property
    def is_panned(self) -> bool:
        """Whether the phone follows a mover."""
        return any(one.pan_residual_share is not None for one in self.freeze)
