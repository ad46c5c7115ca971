"""The steps of a run that only a night under the stars needs."""

from __future__ import annotations

from collections.abc import Iterator

from oxlen.core.checklist.step import RunStep
from oxlen.core.decisions.exposure.ask import LAND, SKY
from oxlen.core.decisions.plan import Plan
from oxlen.core.decisions.sequence.ask import FRAMES
from oxlen.core.labels import steps_label, time_label

TEST_FRAME_S = 2.0
"""A test frame is for the edges and the focus: stars may be few in it."""
CHECK_EVERY_S = 900.0
FEET_MARKED = RunStep(
    "feet-marked",
    "compose",
    "Mark the tripod’s feet: the sky is shot from the same position",
    detail="Do not change lens, zoom, focus or tripod between foreground and sky",
)
FOREGROUND_FIRST = {
    "dusk": RunStep(
        "land-first",
        "compose",
        "Shoot the foreground frame first, at dusk, with its own sheet",
        detail="Do not touch the phone after that, or the two do not align",
    ),
    "lit": RunStep(
        "land-lit",
        "compose",
        "Turn the foreground lamp on at its lowest and leave it on",
        detail="Out of the frame and dim: as bright as the sky is enough",
    ),
}
"""What comes before the stars, by how their foreground is treated."""


def night_compose(plan: Plan) -> Iterator[RunStep]:
    """Composing in the dark: a short frame at the highest ISO, a torch on what is near."""
    if plan.brief[SKY] is None or plan.slip is None:
        return
    ladder = plan.brief.mode.manual
    shutter_s = min(ladder.shutter_s, key=lambda step_s: abs(step_s - TEST_FRAME_S))
    yield RunStep(
        "test-frame",
        "compose",
        "Test shot for edges, level and focus, with a torch on what is near",
        value=steps_label(ladder.iso[-1], shutter_s),
        detail="Import it into Oxlen to measure sky, trails and focus",
    )
    yield RunStep(
        "star-focus",
        "compose",
        "Zoom in on the brightest star. If it is not as small as possible, run a focus ladder",
    )


def night_before_shooting(plan: Plan) -> Iterator[RunStep]:
    """The foreground lit or shot already, the lens dry, the screen dark, everything quiet."""
    yield from _foreground_first(plan)
    if plan.brief[SKY] is None:
        return
    yield RunStep(
        "lens-dry",
        "compose",
        "Wipe the lens and keep it slightly warm against dew",
        detail="Put a hand warmer under the phone, not on the lens",
    )
    yield RunStep(
        "screen-dark",
        "compose",
        "Dim the screen and cover it while it counts: eyes need the dark",
    )


def _foreground_first(plan: Plan) -> Iterator[RunStep]:
    sky = plan.brief[SKY]
    if plan.brief[LAND] is not None:
        yield FEET_MARKED
    elif sky is not None and sky.land in FOREGROUND_FIRST:
        yield FOREGROUND_FIRST[sky.land]


def night_after_shooting(plan: Plan) -> Iterator[RunStep]:
    """The foreground's own frames, once the sky's are done."""
    sky = plan.brief[SKY]
    if sky is not None and sky.land == "dark":
        yield RunStep(
            "land-after",
            "shoot",
            "Touch nothing. Now shoot the foreground frames with their sheet",
        )


def night_while_shooting(plan: Plan) -> Iterator[RunStep]:
    """What to check in a long set, without a light."""
    if remind_s(plan) is None:
        return
    yield RunStep(
        "check-on-it",
        "shoot",
        f"Every {time_label(CHECK_EVERY_S)} it sounds: by ear and by feel, no light; is it still "
        "counting, dry, and charged?",
    )


def remind_s(plan: Plan) -> float | None:
    """How often (s) to look after a long set of stars; None where it is over sooner."""
    frames = plan.brief[FRAMES]
    if plan.brief[SKY] is None or plan.slip is None or frames.count < 2:
        return None
    takes_s = frames.count * plan.slip.shutter_s + (frames.count - 1) * frames.gap_s
    return CHECK_EVERY_S if takes_s > CHECK_EVERY_S else None
