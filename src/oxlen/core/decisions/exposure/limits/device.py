"""What the phone cannot do at all: the ends of its manual ladders."""

from __future__ import annotations

from collections.abc import Iterable

from oxlen.core.decisions.framework.limit import ISO, SHUTTER, Concern, Limit, LimitKind
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.labels import shutter_label

SOURCE = "phone profile"


def _shutter_range(problem: ExposureProblem) -> Iterable[Limit]:
    brief = problem.brief
    steps = brief.mode.manual.shutter_s
    first, last = shutter_label(steps[0]), shutter_label(steps[-1])
    reason = f"{brief.phone.name} offers {first} to {last} manually on this lens"
    yield Limit(
        SHUTTER_RANGE,
        SHUTTER,
        steps[0],
        high=steps[-1],
        name="shutter range",
        low_words=f"this phone's shortest shutter is {first}",
        high_words=f"this phone's longest shutter is {last}",
        reason=reason,
        source=SOURCE,
    )


def _iso_range(problem: ExposureProblem) -> Iterable[Limit]:
    brief = problem.brief
    steps = brief.mode.manual.iso
    reason = f"{brief.phone.name} offers ISO {steps[0]:g} to {steps[-1]:g} manually on this lens"
    yield Limit(
        ISO_RANGE,
        ISO,
        steps[0],
        high=steps[-1],
        name="ISO range",
        low_words=f"this phone's lowest ISO is {steps[0]:g}",
        high_words=f"this phone's highest ISO is {steps[-1]:g}",
        reason=reason,
        source=SOURCE,
    )


SHUTTER_RANGE = LimitKind("device_shutter", Concern.DEVICE, _shutter_range, owner="device")
ISO_RANGE = LimitKind("device_iso", Concern.DEVICE, _iso_range, owner="device")
