"""The checklist: what to do at the spot, in working order, from a decided plan."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from oxlen.core.checklist.night import (
    night_after_shooting,
    night_before_shooting,
    night_compose,
    night_while_shooting,
)
from oxlen.core.checklist.set_up import put_back_steps, set_up_steps
from oxlen.core.checklist.shoot import shooting
from oxlen.core.checklist.step import Part, RunStep
from oxlen.core.decisions import dials
from oxlen.core.decisions.exposure.ask import (
    CLOSEUP,
    LOOKS,
    MOTION,
    SKY,
    SUPPORT,
)
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.framework.dial import Dial
from oxlen.core.decisions.framework.setting import Setting
from oxlen.core.decisions.plan import Plan
from oxlen.core.decisions.surroundings.cautions import LOCAL_RULES, cautions
from oxlen.core.labels import uncapped

LOCK = "Lock focus and exposure if possible"


def run_list(plan: Plan) -> tuple[RunStep, ...]:
    """All steps of a plan; without a slip what to mind, and that a way out comes first."""
    if plan.slip is None:
        undecided = RunStep(
            "undecided", "dial", "No exposure fits yet. Choose a way out on the sheet"
        )
        return (*_care(plan), undecided)
    return tuple(step for make in MAKERS for step in make(plan))


def _care(plan: Plan) -> Iterator[RunStep]:
    """The usual cautions, short and once, where they apply: with a slip or without."""
    found = cautions(plan.brief)
    for place, caution in enumerate(found):
        # Which source comes first is shown once, under the last.
        detail = LOCAL_RULES if place == len(found) - 1 else ""
        yield RunStep(f"care-{caution.id}", "care", caution.words, detail=detail)


def _set_up(plan: Plan) -> Iterator[RunStep]:
    steps = set_up_steps(plan.brief, plan.slip.shutter_s if plan.slip else None)
    for place, step in enumerate(steps):
        yield RunStep(f"set-up-{place}", "set_up", step.text)


def _steady(plan: Plan) -> Iterator[RunStep]:
    brief = plan.brief
    lines = _lines(plan)
    if "lens" in lines:
        yield RunStep("lens", "steady", "Choose the lens", value=lines["lens"].label)
    clip_on = brief[FOCUS].clip_on
    if clip_on is not None:
        words = "A dark shadow in the frame means another lens is in use"
        yield RunStep("clip-on", "steady", "Put on the clip-on", value=clip_on.name, detail=words)
    if "glass" in lines:
        words = "If it is dark, compose and focus first"
        yield RunStep(
            "glass", "steady", "Put on the filter", value=lines["glass"].label, detail=words
        )
    support = brief[SUPPORT]
    if support == "tripod":
        yield RunStep("support", "steady", "Tripod: lock every joint")
    elif support == "braced":
        yield RunStep("support", "steady", "Brace the phone on something firm")
    else:
        yield RunStep("support", "steady", "Handheld: both hands, elbows in")
    if brief[CLOSEUP] is not None:
        yield RunStep("close", "steady", "Set focus, then move the phone, not the focus")


def _dial(plan: Plan) -> Iterator[RunStep]:
    is_tested = plan.brief[SKY] is not None
    for line, dial in _dialled_lines(plan):
        if not dial.has_own_step and not (is_tested and dial.sets_light):
            yield _dialled(line, dial, "dial")
    if not is_tested:
        yield RunStep("lock", "dial", LOCK)


def _expose(plan: Plan) -> Iterator[RunStep]:
    """ISO and shutter by themselves, after a test frame that was set differently."""
    if plan.brief[SKY] is None:
        return
    for line, dial in _dialled_lines(plan):
        if dial.sets_light:
            yield _dialled(line, dial, "expose")
    yield RunStep("lock", "expose", LOCK)


def _dialled(line: Setting, dial: Dial, part: Part) -> RunStep:
    words = dial.checklist or f"Set {uncapped(line.name)}"
    return RunStep(line.field, part, words, value=line.label, detail=" ".join(line.notes[:1]))


def _dialled_lines(plan: Plan) -> Iterator[tuple[Setting, Dial]]:
    known = dials()
    for line in plan.dialled.settings:
        yield line, known.get(line.field, Dial(line.field))


def _compose(plan: Plan) -> Iterator[RunStep]:
    yield RunStep("compose", "compose", "Compose: clean edges, verticals, level")
    movers = [motion.subject for motion in plan.brief[MOTION]]
    if movers:
        words = f"Wait until {uncapped(str(movers[0]).replace('-', ' '))} is where you want it"
        yield RunStep("wait", "compose", words)
    elif plan.brief[LOOKS]:
        yield RunStep("wait", "compose", "Wait for the right water")


def _look(plan: Plan) -> Iterator[RunStep]:
    yield RunStep("look-tones", "look", "Check now: is important detail clipped or black?")
    if plan.brief[MOTION] or plan.brief[SUPPORT] != "tripod":
        yield RunStep(
            "look-sharp",
            "look",
            "Zoom in on the subject: is it sharp? A smear in one direction means it moved",
        )
    yield RunStep("look-level", "look", "Level, edges, colour of grey things")
    yield RunStep("next", "look", "Change one thing and shoot again, or import the take")


def _put_back(plan: Plan) -> Iterator[RunStep]:
    steps = set_up_steps(plan.brief, plan.slip.shutter_s if plan.slip else None)
    for place, text in enumerate(put_back_steps(steps)):
        yield RunStep(f"put-back-{place}", "put_back", text)


def _lines(plan: Plan) -> dict[str, Setting]:
    return {setting.field: setting for setting in plan.dialled.settings}


MAKERS: tuple[Callable[[Plan], Iterator[RunStep]], ...] = (
    _care,
    _set_up,
    _steady,
    _dial,
    _compose,
    night_compose,
    night_before_shooting,
    _expose,
    shooting,
    night_while_shooting,
    night_after_shooting,
    _look,
    _put_back,
)
"""In working order."""
