"""Where a phone's figures come from, and what their ± moves a slip by."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from oxlen.core.kit.doubt import (
    BRIGHT,
    HAND,
    HAND_FIGURE,
    METERED,
    MOVING,
    NOISY,
    FigureDoubt,
    Known,
    doubt_stops,
    noise_doubt_stops,
)
from oxlen.formats.strict import Strict

if TYPE_CHECKING:
    from oxlen.formats.phone.profile import LensProfile, ModeProfile


class OriginProfile(Strict):
    """Where a figure comes from, how far it may be off in its own unit, and since when."""

    origin: Known
    plus_minus: Annotated[float, Field(ge=0, allow_inf_nan=False)] | None = None
    date: Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")] | None = None


Origins = Mapping[str, OriginProfile]
UNSAID = OriginProfile(origin="assumed")


def lens_doubts(lens: LensProfile, origins: Origins) -> tuple[FigureDoubt, ...]:
    """How far the figures of a lens may be off; what nobody says anything of is left out."""
    place = f"lenses.{lens.id}"
    hand = origins.get(f"{place}.stabiliser_stops", UNSAID)
    view = origins.get(f"{place}.focal35_mm", UNSAID)
    aperture = origins.get(f"{place}.f_number", UNSAID)
    light = _stops((aperture, lens.f_number))
    found = (
        _doubt(HAND_FIGURE, hand, hand.plus_minus, moves=(HAND,)),
        _doubt("focal length", view, _stops((view, lens.focal35_mm)), moves=(HAND,)),
        # Light goes with the square of the f-number.
        _doubt("its f-number", aperture, None if light is None else 2 * light, moves=(METERED,)),
    )
    return tuple(doubt for doubt in found if doubt is not None)


def mode_doubts(lens: LensProfile, mode: ModeProfile, origins: Origins) -> tuple[FigureDoubt, ...]:
    """How far the figures of a mode of a lens may be off; what nobody says is left out."""
    place = f"lenses.{lens.id}.{mode.id}"
    focal = origins.get(f"lenses.{lens.id}.focal_mm", UNSAID)
    pitch, well, read, bright = (
        origins.get(f"{place}.{name}", UNSAID)
        for name in ("pixel_pitch_um", "full_well_e", "read_noise_e", "headroom_stops.processed")
    )
    blur = _stops((focal, lens.focal_mm), (pitch, mode.pixel_pitch_um))
    noise = None
    if well.plus_minus is not None and read.plus_minus is not None:
        shares = well.plus_minus / mode.full_well_e, read.plus_minus / mode.read_noise_e[0][1]
        noise = noise_doubt_stops(*shares)
    found = (
        _doubt("the headroom", bright, bright.plus_minus, moves=(BRIGHT,)),
        _doubt("its noise", well, noise, moves=NOISY),
        _doubt("pixel size", pitch, blur, moves=MOVING),
    )
    return tuple(doubt for doubt in found if doubt is not None)


def dial_doubt_mired(origins: Origins) -> float:
    """How far the kelvin dial may be off (mired): 0 where nobody says."""
    return origins.get("white.offset_mired", UNSAID).plus_minus or 0.0


def said_plus_minus(place: str, origins: Origins) -> dict[str, float]:
    """How far figures of one part of a phone may be off, by name, where that is known."""
    return {
        path.removeprefix(f"{place}."): stated.plus_minus
        for path, stated in origins.items()
        if stated.plus_minus is not None and path.rpartition(".")[0] == place
    }


def _stops(*figures: tuple[OriginProfile, float]) -> float | None:
    """What figures with a ± give together; None where none is."""
    shares = [
        origin.plus_minus / value for origin, value in figures if origin.plus_minus is not None
    ]
    return doubt_stops(*shares) if shares else None


def _doubt(
    name: str, stated: OriginProfile, stops: float | None, *, moves: tuple[str, ...]
) -> FigureDoubt | None:
    if stops is None:
        return None
    return FigureDoubt(name, stops, moves, known=stated.origin)
