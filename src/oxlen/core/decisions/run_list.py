"""The run list: what to do at the spot, in working order, from a decided plan."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from oxlen.core.decisions.brief import SUBJECT
from oxlen.core.decisions.colour.ask import LIGHT_COLOUR
from oxlen.core.decisions.exposure.ask import (
    CLOSEUP,
    DRAWING,
    FORMAT,
    LOOKS,
    MOTION,
    SKY,
    SUPPORT,
    under_stars,
)
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.plan import Plan
from oxlen.core.decisions.run_night import (
    night_after_shooting,
    night_before_shooting,
    night_compose,
    night_while_shooting,
)
from oxlen.core.decisions.run_shoot import shooting
from oxlen.core.decisions.run_step import Part, RunStep
from oxlen.core.decisions.set_up import put_back_steps, set_up_steps
from oxlen.core.decisions.setting import Setting
from oxlen.core.labels import uncapped

DARK_EV100, GLARING_EV100 = 1.0, 16.0
DIAL_WORDS = {
    "iso": "ISO off auto first: on auto it cancels the shutter",
    "shutter_s": "Shutter",
    "white": "White balance",
    "focus": "Focus",
    FORMAT.name: "Save as",
}
ASIDE = {"lens", "glass", "support", "hold", "frames"}
"""Lines of the slip that are no dial: they have steps of their own."""
EXPOSURE = {"iso", "shutter_s"}
LOCK = "Lock focus and exposure where the phone can"
LOCAL_RULES = "Local rules, and people licensed for the work, come first."


def run_list(plan: Plan) -> tuple[RunStep, ...]:
    """All steps of a plan; none where it has no slip."""
    if plan.slip is None or plan.dialled is None:
        return ()
    return tuple(step for make in MAKERS for step in make(plan))


def _care(plan: Plan) -> Iterator[RunStep]:
    """The usual cautions, short and once, where they apply."""
    words = [text for applies, text in CAUTIONS if applies(plan)]
    if words:
        yield RunStep("care", "care", " ".join(words), detail=LOCAL_RULES)


def _is_glaring(plan: Plan) -> bool:
    return any(one.ev100 >= GLARING_EV100 for one in plan.brief.readings)


def _is_night(plan: Plan) -> bool:
    subjects = [one.ev100 for one in plan.brief.readings if one.role == SUBJECT]
    return under_stars(plan.brief) or (bool(subjects) and max(subjects) < DARK_EV100)


def _has_water(plan: Plan) -> bool:
    return bool(plan.brief[LOOKS])


def _has_lamps(plan: Plan) -> bool:
    return bool(plan.brief[LIGHT_COLOUR].lamps) or plan.brief[DRAWING] is not None


CAUTIONS: tuple[tuple[Callable[[Plan], bool], str], ...] = (
    (_is_glaring, "Never point eyes or a long lens at the sun."),
    (_has_water, "Stand clear of wet edges and of the tide."),
    (
        lambda plan: bool(plan.brief[MOTION]),
        "Stand clear of what moves; never ride or steer and shoot.",
    ),
    (_is_night, "Tell someone where you are; take a light and warm clothes."),
    (
        lambda plan: under_stars(plan.brief),
        "Know the tide and the way back before dark; spare others’ eyes your lamps.",
    ),
    (_has_lamps, "Keep hot lamps and mains leads from water; flashing light can trigger seizures."),
)


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
        words = "Compose and focus before it goes on, if it is dark"
        yield RunStep(
            "glass", "steady", "Put on the filter", value=lines["glass"].label, detail=words
        )
    support = brief[SUPPORT]
    if support == "tripod":
        yield RunStep("support", "steady", "Tripod: lock every joint, hang nothing that swings")
    elif support == "braced":
        yield RunStep("support", "steady", "Brace the phone on something that grips")
    else:
        yield RunStep("support", "steady", "Both hands, elbows in")
    if brief[CLOSEUP] is not None:
        yield RunStep("close", "steady", "Set focus, then move the phone, not the focus")


def _dial(plan: Plan) -> Iterator[RunStep]:
    is_tested = plan.brief[SKY] is not None
    for line in _lines(plan).values():
        if line.field not in ASIDE and not (is_tested and line.field in EXPOSURE):
            yield _dialled(line, "dial")
    if not is_tested:
        yield RunStep("lock", "dial", LOCK)


def _expose(plan: Plan) -> Iterator[RunStep]:
    """ISO and shutter by themselves, after a test frame that was dialled otherwise."""
    if plan.brief[SKY] is None:
        return
    for line in _lines(plan).values():
        if line.field in EXPOSURE:
            yield _dialled(line, "expose")
    yield RunStep("lock", "expose", LOCK)


def _dialled(line: Setting, part: Part) -> RunStep:
    detail = " ".join(line.notes[:1])
    return RunStep(line.field, part, _dial_words(line), value=line.label, detail=detail)


def _dial_words(line: Setting) -> str:
    return DIAL_WORDS.get(line.field, f"Set {uncapped(line.name)}")


def _compose(plan: Plan) -> Iterator[RunStep]:
    yield RunStep("compose", "compose", "Compose; edges free of strays, verticals plumb, level")
    movers = [one.subject for one in plan.brief[MOTION]]
    if movers:
        words = f"Wait for it: {uncapped(str(movers[0]).replace('-', ' '))} where you want it"
        yield RunStep("wait", "compose", words)
    elif plan.brief[LOOKS]:
        yield RunStep("wait", "compose", "Wait until the water runs as it should")


def _look(plan: Plan) -> Iterator[RunStep]:
    yield RunStep(
        "look-tones", "look", "Look at once: is what must keep detail neither white nor black?"
    )
    if plan.brief[MOTION] or plan.brief[SUPPORT] != "tripod":
        yield RunStep(
            "look-sharp", "look", "Zoom in on the subject: sharp? Smeared one way it moved"
        )
    yield RunStep("look-level", "look", "Level, edges, colour of what should be grey")
    yield RunStep("next", "look", "Change one thing, shoot again, or bring the take into Oxlen")


def _put_back(plan: Plan) -> Iterator[RunStep]:
    steps = set_up_steps(plan.brief, plan.slip.shutter_s if plan.slip else None)
    for place, text in enumerate(put_back_steps(steps)):
        yield RunStep(f"put-back-{place}", "put_back", text)


def _lines(plan: Plan) -> dict[str, Setting]:
    return {} if plan.dialled is None else {one.field: one for one in plan.dialled.settings}


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
