"""The light of a day and of a night as JSON: what `oxlen hours`, `night` and `sky` print."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel


class HoursPlaceFile(BaseModel):
    """A place: degrees north and east, and its time zone."""

    latitude_deg: float
    longitude_deg: float
    time_zone: str


class MomentFile(BaseModel):
    """A moment that has a name; `at` by the clock of the place."""

    at: str
    unix_s: float
    words: str


class QuarterFile(BaseModel):
    """A quarter of an hour: heights and bearings in degrees, EV100 by what is faced."""

    at: str
    unix_s: float
    sun_altitude_deg: float
    sun_bearing_deg: float
    moon_altitude_deg: float
    moon_bearing_deg: float
    ev100: dict[str, float]
    words: str


class HoursFile(BaseModel):
    """The light of a day from midnight to midnight."""

    place: HoursPlaceFile
    date: str
    cloud: str
    plus_minus_stops: float
    offset_stops: float
    moon_lit_share: float
    twilights: dict[str, str | None]
    moments: list[MomentFile]
    told: list[str]
    quarters: list[QuarterFile]


class DarkWindowFile(BaseModel):
    """A span in which it is dark enough, and how what is wanted is at its best.

    `night` is the day on whose evening the night begins.
    """

    night: str
    from_at: str
    to_at: str
    best_at: str
    from_unix_s: float
    to_unix_s: float
    long_min: float
    altitude_deg: float | None
    bearing_deg: float | None
    moon_altitude_deg: float
    moon_lit_share: float
    why: str


class BandFile(BaseModel):
    """How the Milky Way appears at the best moment, and how much of it each lens holds.

    `path` is (bearing, height) in degrees along its bright part.
    """

    at: str
    centre_altitude_deg: float
    centre_bearing_deg: float
    tilt_deg: float
    words: str
    held_shares: dict[str, float]
    path: list[tuple[float, float]]


class SkyMomentFile(BaseModel):
    """The Milky Way in a frame at a moment: `ribbon` is (from left, from top, strength) along it,
    0 to 1; `core` its centre, None outside the frame."""

    at: str
    words: str
    ribbon: list[tuple[float, float, float]]
    core: tuple[float, float] | None


class SkyFrameFile(BaseModel):
    """What a lens sees of the sky in a dark window, aimed at its best moment and left there.

    `across_deg` and `down_deg` are its view, `skyline` (from left, from top) what hides the sky,
    `best` the moment it is aimed for, by its place among the moments.
    """

    held: Literal["upright", "wide"]
    across_deg: float
    down_deg: float
    bearing_deg: float
    altitude_deg: float
    skyline: list[tuple[float, float]]
    moments: list[SkyMomentFile]
    best: int


class NightWayFile(BaseModel):
    """One way to the picture on a phone, with its figures and what to know of it."""

    id: str
    name: str
    label: str
    iso: float | None
    shutter_s: float
    frames: int
    gap_s: float
    elapsed_s: float
    sky_stops: float | None
    snr: float
    trail_px: float
    corner_trail_px: float
    read_excess: float
    kept_share: float
    turn_deg: float
    megabytes: float
    battery_percent: float | None
    reaches: bool
    told: list[str]


class ForegroundWayFile(BaseModel):
    """One way to treat the foreground; `iso` and what follows are None where it has no frame of
    its own.

    `at` is when its frame is shot, by the clock of the place.
    """

    id: str
    name: str
    label: str
    at: str | None
    lands_stops: float
    ev100: float | None
    iso: float | None
    shutter_s: float | None
    frames: int
    elapsed_s: float
    snr: float | None
    reaches: bool
    told: list[str]


class RuleFile(BaseModel):
    """The longest shutter by one rule, and the trails it leaves in the middle and the corners."""

    rule: str
    longest_s: float
    trail_px: float
    corner_trail_px: float


class NightFile(BaseModel):
    """A night from noon to noon: how dark, when, and what this phone does with it."""

    place: HoursPlaceFile
    date: str
    twilights: dict[str, str | None]
    moon_lit_share: float
    sky_magnitude: float
    plus_minus_magnitude: float
    sky_ev100: float
    told: list[str]
    dark: list[DarkWindowFile]
    core: list[DarkWindowFile]
    band: BandFile | None
    frames: list[SkyFrameFile]
    phone: str
    lens: str
    rules: list[RuleFile]
    ways: list[NightWayFile]
    land: list[ForegroundWayFile]
    grounds: dict[str, str]
    focus: str


class NightFrameFile(BaseModel):
    """What a picture of the night sky tells; lengths in pixels of the file."""

    file: str
    stars: int
    sky_ev100: float | None
    magnitude: float | None
    dark_sky_class: int | None
    trail_px: float | None
    corner_trail_px: float | None
    star_width_px: float | None
    told: list[str]
