"""The figures of a phone by their paths, and where each comes from."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, NamedTuple

from oxlen.formats.phone.origin import OriginProfile
from oxlen.formats.phone.profile import PhoneProfile

MODE_FIGURES = (
    "width_px",
    "height_px",
    "pixel_pitch_um",
    "full_well_e",
    "base_iso",
    "prnu_share",
    "read_noise_e",
    "readout_s",
)
HEADROOM_FIGURES = ("processed", "raw")
LENS_FIGURES = (
    "focal_mm",
    "focal35_mm",
    "f_number",
    "stabiliser_stops",
    "braced_stops",
    "tripod_stops",
)
PHONE_FIGURES = ("meter_offset_stops", "meter_plus_minus_stops")
LADDER_FIGURES = ("iso", "shutter_s")
WHITE_FIGURES = ("low_k", "high_k", "step_k", "offset_mired")
FOCUS_FIGURES = ("closest_m", "slider_low", "slider_high", "slider_step")
FILE_FIGURES = (
    "processed_mb",
    "raw_mb",
    "processed_fps",
    "raw_fps",
    "processed_burst",
    "raw_burst",
    "frame_gap_s",
)
COMPUTED_FIGURES = ("strengths_stops", "shortest_s", "longest_s", "frames", "gap_s")
AUTOMATIC_FIGURES = (
    "compensation_step_stops",
    "compensation_most_stops",
    "wide_range_stops",
    "night_frames",
    "flash_guide_m",
)
HANDLING_FIGURES = ("battery_percent_per_min", "upright_share")
RAW_FIGURES = ("mosaic", "black_dn", "white_dn", "active_px", "matrices")
ASSUMED = OriginProfile(origin="assumed")


class FigurePlace(NamedTuple):
    """A figure in a profile's plain data: its path, and the mapping and key that hold it."""

    path: str
    holder: dict[str, Any]
    key: str


def figure_places(data: dict[str, Any]) -> Iterator[FigurePlace]:
    """Every figure there is in a profile's plain data: `lenses.LENS.MODE.full_well_e` and so on."""
    yield from _in(data, PHONE_FIGURES, "")
    yield from _in(data.get("automatic"), AUTOMATIC_FIGURES, "automatic.")
    yield from _in(data.get("white"), WHITE_FIGURES, "white.")
    yield from _in(data.get("handling"), HANDLING_FIGURES, "handling.")
    for name, ladder in _items(data.get("ladders")):
        yield from _in(ladder, LADDER_FIGURES, f"ladders.{name}.")
    for mode_id, mode in _by_id(data.get("computed")):
        yield from _in(mode, COMPUTED_FIGURES, f"computed.{mode_id}.")
    for lens_id, lens in _by_id(data.get("lenses")):
        path = f"lenses.{lens_id}."
        yield from _in(lens, LENS_FIGURES, path)
        yield from _in(lens.get("focus"), FOCUS_FIGURES, f"{path}focus.")
        for mode_id, mode in _by_id(lens.get("modes")):
            yield from _in(mode, MODE_FIGURES, f"{path}{mode_id}.")
            yield from _in(
                mode.get("headroom_stops"), HEADROOM_FIGURES, f"{path}{mode_id}.headroom_stops."
            )
            yield from _in(mode.get("files"), FILE_FIGURES, f"{path}{mode_id}.files.")
            yield from _in(mode.get("raw"), RAW_FIGURES, f"{path}{mode_id}.raw.")


def _in(holder: Any, names: tuple[str, ...], path: str) -> Iterator[FigurePlace]:
    if isinstance(holder, dict):
        for name in names:
            if name in holder:
                yield FigurePlace(path + name, holder, name)


def _items(named: Any) -> list[tuple[str, Any]]:
    return list(named.items()) if isinstance(named, dict) else []


def _by_id(listed: Any) -> list[tuple[str, dict[str, Any]]]:
    found = listed if isinstance(listed, list) else []
    return [(str(item.get("id")), item) for item in found if isinstance(item, dict)]


def figures_of(profile: PhoneProfile) -> Iterator[tuple[str, Any]]:
    """Every figure of a phone by its path, and its value."""
    for place in figure_places(profile.model_dump(mode="json")):
        yield place.path, place.holder[place.key]


def origins_of(profile: PhoneProfile) -> dict[str, OriginProfile]:
    """The origin of every figure; what nobody gave is assumed."""
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
        stated = profile.origins.get(path)
        changed = before is not None and known.get(path) != value
        if changed and stated == earlier.get(path):
            origins[path] = typed
        elif stated is not None:
            origins[path] = stated
    return profile.model_copy(update={"origins": origins})
