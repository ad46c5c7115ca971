"""Shipped scenes under another night: a darker sky, a town's glow, the Moon, a lamp's light."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from importlib.resources import files
from typing import Annotated

from pydantic import Field, TypeAdapter

from oxlen.formats.strict import Strict


class NightSkyFile(Strict):
    """What the sky of a night is like, as the core takes it."""

    magnitude: Annotated[float, Field(ge=10, le=24)]
    glow_stops: Annotated[float, Field(ge=0, le=10)] = 0.0
    glow_at: Annotated[float, Field(ge=-1, le=2)] = 0.5
    moon_altitude_deg: Annotated[float, Field(ge=-90, le=90)] = -10.0
    moon_elongation_deg: Annotated[float, Field(ge=0, le=180)] = 180.0
    lamp_lm: Annotated[float, Field(ge=0, le=10_000)] = 0.0


class NightVariantFile(Strict):
    """A scene under another night: which, and what its sky is like."""

    name: str
    based_on: str
    night: NightSkyFile


NIGHTS = TypeAdapter(dict[str, NightVariantFile])


def variant_ids() -> list[str]:
    """Ids of shipped scenes under another night, in order of name."""
    return sorted(night_variants())


@cache
def night_variants() -> Mapping[str, NightVariantFile]:
    """Scenes under another night, by id."""
    path = files("oxlen") / "data" / "nights.json"
    return NIGHTS.validate_json(path.read_bytes())
