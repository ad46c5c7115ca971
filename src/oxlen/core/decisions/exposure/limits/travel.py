"""A camera that travels: what is beside the path runs through its frame."""

from __future__ import annotations

from collections.abc import Iterable

from oxlen.core.decisions.exposure.ask import TRAVEL
from oxlen.core.decisions.framework.limit import SHUTTER, Concern, EditedField, Limit, LimitKind
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.labels import distance_label, time_label, two_digits
from oxlen.core.motion.sharpness import circle_of_confusion_um
from oxlen.core.motion.subject import Mover, shutter_for_blur_s


def _passing(problem: ExposureProblem) -> Iterable[Limit]:
    """Longest shutter at which the nearest thing that shall be sharp is sharp, seen sideways."""
    brief, travel = problem.brief, problem.brief[TRAVEL]
    if travel is None:
        return
    mode = brief.mode
    circle = float(circle_of_confusion_um(mode.width_px, mode.height_px, mode.pixel_pitch_um))
    passing = Mover(travel.speed_m_s, travel.ground_m)
    longest = float(shutter_for_blur_s(passing, brief.lens.focal_mm, circle))
    yield Limit(
        TRAVELLING,
        SHUTTER,
        None,
        high=longest,
        name="sharp while travelling",
        high_words=f"at your speed it is sharp up to {time_label(longest)}",
        reason=f"Travelling at {two_digits(travel.speed_m_s)} m/s, things "
        f"{distance_label(travel.ground_m)} away are sharp up to {time_label(longest)}",
        source="Ray, Applied Photographic Optics",
        computation="max_shutter_sharp",
        inputs={
            "f": brief.lens.focal_mm,
            "v": travel.speed_m_s,
            "theta_deg": 90.0,
            "D": travel.ground_m,
            "c": circle / 1000,
        },
    )


TRAVELLING = LimitKind(
    "travel",
    Concern.FREEZING,
    _passing,
    edited_by=(EditedField(TRAVEL, ("speed_m_s",)), EditedField(TRAVEL, ("ground_m",))),
    dropped=lambda brief, _: brief.asking(TRAVEL, None),
)
