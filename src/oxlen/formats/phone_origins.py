"""Where each figure of a phone comes from: assumed, from a file, measured, or typed in."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from oxlen.formats.phone_profile import AutomaticProfile, OriginProfile, PhoneProfile

MODE_FIGURES = (
    "width_px",
    "height_px",
    "pixel_pitch_um",
    "full_well_e",
    "base_iso",
    "prnu_share",
    "read_noise_e",
    "headroom_stops",
    "readout_s",
)
LENS_FIGURES = ("focal_mm", "focal35_mm", "f_number", "stabiliser_stops")
PHONE_FIGURES = ("meter_offset_stops", "meter_plus_minus_stops")
AUTOMATIC_FIGURES = tuple(AutomaticProfile.model_fields)
ASSUMED = OriginProfile(origin="assumed")


def figures_of(profile: PhoneProfile) -> Iterator[tuple[str, Any]]:
    """Every figure of a phone by its path: `lenses.LENS.MODE.full_well_e`, `ladders.NAME.iso`."""
    for name in PHONE_FIGURES:
        yield name, getattr(profile, name)
    for name in AUTOMATIC_FIGURES:
        yield f"automatic.{name}", getattr(profile.automatic, name)
    for name, ladder in profile.ladders.items():
        yield f"ladders.{name}.iso", ladder.iso
        yield f"ladders.{name}.shutter_s", ladder.shutter_s
    for lens in profile.lenses:
        for name in LENS_FIGURES:
            yield f"lenses.{lens.id}.{name}", getattr(lens, name)
        for mode in lens.modes:
            for name in MODE_FIGURES:
                yield f"lenses.{lens.id}.{mode.id}.{name}", getattr(mode, name)


def origins_of(profile: PhoneProfile) -> dict[str, OriginProfile]:
    """The origin of every figure; what nobody said is assumed."""
    return {path: profile.origins.get(path, ASSUMED) for path, _ in figures_of(profile)}


def with_typed(profile: PhoneProfile, before: PhoneProfile | None, date: str) -> PhoneProfile:
    """The profile with every figure that was changed by hand marked as typed on a date.

    A figure that comes with an origin of its own keeps it; origins of figures that are gone go.
    """
    known = {} if before is None else dict(figures_of(before))
    earlier = {} if before is None else before.origins
    typed = OriginProfile(origin="typed", date=date)
    origins = {}
    for path, value in figures_of(profile):
        said = profile.origins.get(path)
        changed = before is not None and known.get(path) != value
        if changed and said == earlier.get(path):
            origins[path] = typed
        elif said is not None:
            origins[path] = said
    return profile.model_copy(update={"origins": origins})
