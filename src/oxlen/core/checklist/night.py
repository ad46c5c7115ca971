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
    "Mark where the tripod’s feet stand: the sky’s frames are shot from the same spot",
    detail="Lens, zoom, focus and tripod stay as they are between land and sky",
)
LAND_FIRST = {
    "dusk": RunStep(
        "land-first",
        "compose",
        "Is the land’s own frame shot? It comes first, at dusk, by its own sheet",
        detail="The phone has stood untouched since then, or the two do not meet",
    ),
    "lit": RunStep(
        "land-lit",
        "compose",
        "The lamp for the land on, at its lowest, and left on through every frame",
        detail="Out of the frame, and dim: land as bright as the sky is bright enough",
    ),
}
"""What comes before the stars, by how their land is treated."""


def night_compose(plan: Plan) -> Iterator[RunStep]:
    """Composing in the dark: a short frame at the highest ISO, a torch on what is near."""
    if plan.brief[SKY] is None or plan.slip is None:
        return
    ladder = plan.brief.mode.manual
    shutter_s = min(ladder.shutter_s, key=lambda one: abs(one - TEST_FRAME_S))
    yield RunStep(
        "test-frame",
        "compose",
        "A test frame for edges, level and focus: a torch on what is near",
        value=steps_label(ladder.iso[-1], shutter_s),
        detail="Bring it into Oxlen to read sky, trail and focus",
    )
    yield RunStep(
        "star-focus",
        "compose",
        "Zoom in on the brightest star: as small as it gets? Else a ladder on it",
    )


def night_before_shooting(plan: Plan) -> Iterator[RunStep]:
    """The land lit or shot already, the lens dry, the screen dark, everything quiet."""
    yield from _land_first(plan)
    if plan.brief[SKY] is None:
        return
    yield RunStep(
        "lens-dry",
        "compose",
        "Wipe the lens, and keep it a little warm: dew comes without a sign",
        detail="A hand warmer under the phone, not on its lens",
    )
    yield RunStep(
        "screen-dark",
        "compose",
        "Screen as dark as you can still read, and covered while it counts: eyes need the dark",
    )


def _land_first(plan: Plan) -> Iterator[RunStep]:
    sky = plan.brief[SKY]
    if plan.brief[LAND] is not None:
        yield FEET_MARKED
    elif sky is not None and sky.land in LAND_FIRST:
        yield LAND_FIRST[sky.land]


def night_after_shooting(plan: Plan) -> Iterator[RunStep]:
    """The land's own frames, once the sky's are done."""
    sky = plan.brief[SKY]
    if sky is not None and sky.land == "dark":
        yield RunStep(
            "land-after",
            "shoot",
            "Touch nothing yet: now the land’s own frames, by their own sheet",
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
