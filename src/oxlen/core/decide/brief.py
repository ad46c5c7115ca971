"""What a photographer asks for: the brief handed to the decision."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from oxlen.core.hold.hand import Support
from oxlen.core.kit.phone import FileFormat, Lens, Mode, Phone
from oxlen.core.units import require_between, require_positive

Role = Literal["subject", "keep-bright", "keep-dark", "neutral"]
IsoSchool = Literal["floor", "ceiling", "shutter_first"]
ExposureAim = Literal["centre", "highlights", "dark"]

ROLES: tuple[Role, ...] = ("subject", "keep-bright", "keep-dark", "neutral")
ISO_SCHOOLS: tuple[IsoSchool, ...] = ("floor", "ceiling", "shutter_first")
EXPOSURE_AIMS: tuple[ExposureAim, ...] = ("centre", "highlights", "dark")


@dataclass(frozen=True)
class PlacedReading:
    """Light at EV100 in a role, wanted `place_stops` from mid; None takes the role's default."""

    role: Role
    ev100: float
    place_stops: float | None = None
    name: str = ""

    def __post_init__(self) -> None:
        require_between("ev100", self.ev100, low=-30, high=40, unit="EV100")
        if self.place_stops is not None:
            require_between("place", self.place_stops, low=-12, high=8, unit="stops from mid")


@dataclass(frozen=True)
class School:
    """How to decide where experienced people differ; `shutter_s` is the one asked for, if any."""

    iso: IsoSchool = "floor"
    iso_cap: float | None = None
    exposure: ExposureAim = "centre"
    shutter_s: float | None = None

    def __post_init__(self) -> None:
        if self.iso_cap is not None:
            require_positive("iso_cap", self.iso_cap)
        if self.shutter_s is not None:
            require_positive("shutter_s", self.shutter_s, "s")


@dataclass(frozen=True)
class Brief:
    """One intended picture: the phone and lens, what holds it, the light, the school."""

    phone: Phone
    lens_id: str | None = None
    mode_id: str | None = None
    support: Support = "handheld"
    readings: tuple[PlacedReading, ...] = ()
    school: School = field(default_factory=School)
    file_format: FileFormat = "processed"
    scene_mean_ev100: float | None = None

    @property
    def lens(self) -> Lens:
        """The lens asked for, the phone's first when none was."""
        return self.phone.lens(self.lens_id)

    @property
    def mode(self) -> Mode:
        """The mode asked for, the lens's first when none was."""
        return self.lens.mode(self.mode_id)
