"""The facts of a phone's pictures as they go to the browser and back: bounded, and nothing else."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from oxlen.formats.phone.parts import RawProfile
from oxlen.formats.strict import Iso, Seconds, Strict

Pixels = Annotated[int, Field(ge=16, le=100_000)]
Text = Annotated[str, Field(max_length=80)]


class ReportedFacts(Strict):
    """What one file tells of its phone; neither owner nor place nor serial number is among it."""

    name: Annotated[str, Field(min_length=1, max_length=255)]
    format: Text
    kind: Literal["processed", "raw"]
    megabytes: Annotated[float, Field(ge=0, le=1000)]
    long_px: Pixels | None = None
    short_px: Pixels | None = None
    make: Text = ""
    model: Text = ""
    lens: Text = ""
    iso: Iso | None = None
    shutter_s: Seconds | None = None
    f_number: Annotated[float, Field(ge=0.6, le=32)] | None = None
    focal_mm: Annotated[float, Field(ge=0.3, le=2000)] | None = None
    focal35_mm: Annotated[float, Field(ge=1, le=5000)] | None = None
    zoom: Annotated[float, Field(ge=1, le=200)] = 1.0
    pitch_um: Annotated[float, Field(ge=0.3, le=20)] | None = None
    pitch_of_px: Pixels | None = None
    is_edited: bool = False
    baseline_stops: Annotated[float, Field(ge=-5, le=8)] | None = None
    noise: (
        tuple[
            Annotated[float, Field(ge=1e-7, le=0.1)],
            Annotated[float, Field(ge=0, le=0.1)],
        ]
        | None
    ) = None
    is_upright: bool | None = None
    levels: RawProfile | None = None
