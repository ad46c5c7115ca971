"""How the takes of a shop series match, as `oxlen series check` prints it."""

from __future__ import annotations

from pydantic import BaseModel, Field

from oxlen.core.series.comparing import Reason, SeriesDifference, Verdict


class SeriesFileChecked(BaseModel):
    """One file against the reference; null where it could not be measured, `why` says more."""

    file: str
    exposure_stops: float | None = Field(default=None, description="positive = brighter")
    delta_e: float | None = Field(default=None, description="CIEDE2000 of background or patch")
    mired: float | None = Field(default=None, description="positive = warmer")
    tint: float | None = Field(default=None, description="Duv; positive = greener")
    scale: float | None = Field(default=None, description="of the thing, as a ratio")
    shift: float | None = Field(default=None, description="share of the frame's width")
    tilt_deg: float | None = Field(default=None, description="positive = clockwise")
    sharpness: float | None = Field(default=None, description="as a ratio; under 1 is softer")
    clipped_share: float | None = Field(default=None, description="of the thing")
    background_stops: float | None = Field(
        default=None, description="other falloff than the reference"
    )
    verdict: Verdict
    reasons: list[Reason] = Field(default_factory=list)
    why: str = ""


class SeriesChecked(BaseModel):
    """A whole series against its reference."""

    reference: str
    files: list[SeriesFileChecked]


DIGITS = {"tint": 4, "clipped_share": 4, "scale": 4, "shift": 4, "mired": 1, "tilt_deg": 2}
NO_THING = "No plain background was found around the thing."


def file_checked(name: str, found: SeriesDifference | None, *, why: str = "") -> SeriesFileChecked:
    """A difference as it is written; a file that could not be compared says `why`."""
    if found is None:
        return SeriesFileChecked(file=name, verdict="not judged", why=why)
    measured = {
        field: _rounded(field, getattr(found, field))
        for field in SeriesFileChecked.model_fields
        if field not in ("file", "verdict", "reasons", "why")
    }
    return SeriesFileChecked(
        file=name,
        verdict=found.verdict,
        reasons=list(found.reasons),
        why=NO_THING if found.scale is None else "",
        **measured,
    )


def _rounded(field: str, value: float | None) -> float | None:
    return None if value is None else round(value, DIGITS.get(field, 3))
