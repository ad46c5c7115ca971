"""A place as it is kept and exchanged: where it is, how dark its sky, what hides the horizon."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from oxlen.core.sky.brightness import class_magnitude
from oxlen.core.sky.horizon import Glow, HorizonPoint
from oxlen.core.sky.place import Place
from oxlen.formats.strict import Strict, Title

Bearing = Annotated[float, Field(ge=0, le=360, allow_inf_nan=False)]
USUAL_CLASS = 4
MEASURED_PLUS_MINUS = 0.15


class HorizonPointBody(Strict):
    """How high the skyline is at a bearing, in degrees."""

    bearing_deg: Bearing
    height_deg: Annotated[float, Field(ge=0, le=90, allow_inf_nan=False)]


class GlowBody(Strict):
    """A town's glow: its bearing in degrees, and how many stops it lifts the sky there."""

    bearing_deg: Bearing
    stops: Annotated[float, Field(ge=0, le=10, allow_inf_nan=False)]


class LearnedLight(Strict):
    """What readings at the place taught: stops to add to predictions, their spread, how many."""

    offset_stops: Annotated[float, Field(ge=-6, le=6, allow_inf_nan=False)]
    plus_minus_stops: Annotated[float, Field(ge=0, le=6, allow_inf_nan=False)]
    readings: Annotated[int, Field(ge=1, le=100_000)]


class PlaceBody(Strict):
    """A place: degrees north and east, its clock, its sky by class or as measured."""

    name: Title
    latitude_deg: Annotated[float, Field(ge=-90, le=90, allow_inf_nan=False)]
    longitude_deg: Annotated[float, Field(ge=-180, le=180, allow_inf_nan=False)]
    time_zone: Annotated[str, Field(max_length=60)] | None = None
    dark_sky_class: Annotated[int, Field(ge=1, le=9)] = USUAL_CLASS
    magnitude: Annotated[float, Field(ge=14, le=23, allow_inf_nan=False)] | None = None
    horizon: Annotated[tuple[HorizonPointBody, ...], Field(max_length=72)] = ()
    glow: Annotated[tuple[GlowBody, ...], Field(max_length=12)] = ()
    learned: LearnedLight | None = None

    @property
    def place(self) -> Place:
        """Where it is."""
        return Place(self.latitude_deg, self.longitude_deg)

    @property
    def sky(self) -> tuple[float, float]:
        """How dark its sky is (mag/arcsec²) and how sure: measured, else by its class."""
        if self.magnitude is not None:
            return self.magnitude, MEASURED_PLUS_MINUS
        return class_magnitude(self.dark_sky_class)

    @property
    def hidden(self) -> tuple[HorizonPoint, ...]:
        """What hides the sky low down."""
        return tuple(HorizonPoint(point.bearing_deg, point.height_deg) for point in self.horizon)

    @property
    def towns(self) -> tuple[Glow, ...]:
        """What glows low down."""
        return tuple(Glow(glow.bearing_deg, glow.stops) for glow in self.glow)

    @property
    def offset_stops(self) -> float:
        """What is added to predictions of its light."""
        return 0.0 if self.learned is None else self.learned.offset_stops
