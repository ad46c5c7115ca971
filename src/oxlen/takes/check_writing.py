"""A checked take in its published form, and the next slip along the plan it was shot by."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.decisions.colour.decision import WHITE
from oxlen.core.decisions.dialled import dials_of
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.plan import Plan
from oxlen.core.decisions.solver.outcome import SpotState
from oxlen.core.kit.ladder import snap
from oxlen.core.labels import steps_label
from oxlen.core.light.meter import Spot
from oxlen.core.review.take_check import spoken_off
from oxlen.core.review.take_seen import Change, CheckedSpot, PlannedSpot, TakeSettings
from oxlen.formats.plan.plan import PlanFile
from oxlen.formats.take.check import (
    BlurFile,
    CheckedSpotFile,
    NextFile,
    TakeCheckFile,
)
from oxlen.takes.checking import (
    CheckedFile,
)
from oxlen.takes.planned import PlannedTake

MAY_BE_LOST = (SpotState.CLIPPED, SpotState.GIVEN_UP)
THIRDS = tuple(2 ** (k / 3) for k in range(-40, 19))
"""Shutters in seconds, where a plan comes without its phone."""


def planned_take(
    plan: PlanFile,
    spots: tuple[Spot, ...],
    *,
    shutter_s: float | None,
    by_picture: bool,
    frame_px: int | None = None,
) -> PlannedTake | None:
    """A plan as a take is compared with it; None where it has no slip.

    `shutter_s` is what the take was shot at: the hand's blur grows with it. It counts in pixels of
    a file `frame_px` wide.
    """
    slip = plan.slip
    if slip is None:
        return None
    first = {planned_spot.name: place for place, planned_spot in enumerate(_ordered(plan))}
    neutrals = {
        spot_outcome.name for spot_outcome in plan.outcome if spot_outcome.role == "neutral"
    }
    hand = 0.0 if plan.figures is None else plan.figures.hand_px
    return PlannedTake(
        TakeSettings(slip.iso, slip.shutter_s, slip.white_k),
        tuple(_ordered(plan)),
        tuple(sorted(spots, key=lambda spot: first.get(spot.name, len(first)))),
        hand_px=hand * (1.0 if shutter_s is None else shutter_s / slip.shutter_s),
        metered_by_picture=by_picture,
        frame_px=frame_px,
        neutral=next((spot for spot in spots if spot.name in neutrals), None),
        white_share=None if plan.figures is None else plan.figures.clipped_share,
        snr=plan.snr_pixel,
        glass_stops=slip.glass_stops,
        is_firm=plan.figures is not None and hand == 0,
    )


def _ordered(plan: PlanFile) -> list[PlannedSpot]:
    """Spots of a plan, the subject first."""
    spots = [
        PlannedSpot(
            spot_outcome.name,
            spot_outcome.role,
            spot_outcome.wanted_stops,
            lands_stops=spot_outcome.lands_stops,
            may_be_lost=spot_outcome.state in MAY_BE_LOST,
        )
        for spot_outcome in plan.outcome
    ]
    return sorted(spots, key=lambda spot: spot.role != "subject")


@dataclass(frozen=True)
class NextSlip:
    """What to dial next, and it in words; None where nothing fits."""

    iso: float | None = None
    shutter_s: float | None = None
    white_k: float | None = None
    label: str = ""


def next_slip(before: Plan, after: Plan) -> NextSlip:
    """The slip of a corrected plan; its words name what else than the exposure has changed."""
    slip, dialled = after.slip, after.dialled
    if slip is None:
        return NextSlip()
    was = {setting.field: setting for setting in before.dialled.settings}
    other = [
        f"{setting.name} {setting.label}"
        for setting in dialled.settings
        if setting.field in (WHITE, FOCUS.name)
        and setting.label != getattr(was.get(setting.field), "label", "")
    ]
    white = dials_of(dialled.settings).white_k
    label = ", ".join([steps_label(slip.iso, slip.shutter_s), *other])
    return NextSlip(slip.iso, slip.shutter_s, white, label=label)


def next_along(plan: PlanFile, change: Change) -> NextSlip:
    """The slip after a change, by the plan's own limits: for one that comes without its phone.

    For other light the shutter follows as far as its limits allow, then ISO, in thirds of a stop.
    """
    slip = plan.slip
    if slip is None:
        return NextSlip()
    bounds = [limit for limit in plan.limits if limit.axis == "shutter_s"]
    longest = min((bound.max for bound in bounds if bound.max is not None), default=60.0)
    shortest = max((bound.min for bound in bounds if bound.min is not None), default=1e-5)
    wanted_s = slip.shutter_s * 2.0**-change.light_stops
    kept = [third for third in THIRDS if shortest * 0.97 <= third <= longest * 1.03]
    shutter_s = slip.shutter_s
    if change.light_stops:
        shutter_s = snap(wanted_s, kept or [slip.shutter_s]).value
    iso = slip.iso * max(1.0, wanted_s / shutter_s) if wanted_s > longest else slip.iso
    label = steps_label(round(iso), shutter_s)
    return NextSlip(round(iso), shutter_s, change.white_k or slip.white_k, label=label)


def check_to_file(found: CheckedFile, after: NextSlip) -> TakeCheckFile:
    """What was found, as it is published; `after` is the slip to dial next."""
    check, places = found.check, {spot.name: spot for spot in found.spots}
    look = found.look
    return TakeCheckFile(
        settings_off=check.settings_off,
        spots=[_spot(checked_spot, places[checked_spot.name]) for checked_spot in check.spots],
        clipped_share=found.frame.clipped_share,
        blocked_share=found.frame.blocked_share,
        state=check.state,
        snr=look.snr,
        planned_snr=found.planned_snr,
        blur=None
        if look.blur is None
        else BlurFile(kind=look.blur.kind, px=look.blur.px, angle_deg=look.blur.angle_deg),
        level_deg=look.lean_deg,
        converging_deg=look.converging_deg,
        cast_mired=look.cast_mired,
        bands=look.bands,
        sky=look.sky,
        planned_sky=look.planned_sky,
        cut_off=list(look.cut_off),
        white_at=list(look.white_at),
        light=check.light,
        verdict=list(check.verdict),
        next=NextFile(
            iso=after.iso,
            shutter_s=after.shutter_s,
            white_k=after.white_k,
            slip=after.label,
            one_change=check.change.words,
            why=check.change.why,
            light_stops=check.change.light_stops,
        ),
        notes=list(found.notes),
    )


def _spot(spot: CheckedSpot, place: Spot) -> CheckedSpotFile:
    return CheckedSpotFile(
        name=spot.name,
        role=spot.role,
        x=place.x,
        y=place.y,
        wanted_stops=spot.wanted_stops,
        planned_stops=spot.planned_stops,
        seen_stops=spot.seen_stops,
        off_stops=spot.off_stops,
        unexplained_stops=spot.unexplained_stops,
        lost=spot.is_lost,
        words=spoken_off(spot),
    )
