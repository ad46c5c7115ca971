"""Setting the phone up for one sheet, in dialling order, and putting it back afterwards."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from oxlen.core.decisions.exposure.ask import DRAWING, FORMAT, MOTION, SKY, SUPPORT
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.focus.target import focus_target
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.sequence.ask import FRAMES
from oxlen.core.labels import listed, two_digits, uncapped

CLOSE_M = 0.3
"""Nearer than this a phone may change its lens by itself."""
LONG_RUN_S = 5.0
"""Frames or sets longer than this are spoilt by a call or a buzz."""
FIRM_TIMER_S, FLIMSY_TIMER_S = 2.0, 5.0
WIDE_ASPECT = 16 / 9


@dataclass(frozen=True)
class SetUpStep:
    """One thing to do to the phone before shooting, and what undoes it; "" where nothing need."""

    text: str
    put_back: str = ""


def set_up_steps(brief: Brief, shutter_s: float | None = None) -> tuple[SetUpStep, ...]:
    """What applies to a brief on its phone, in the order it is done."""
    return tuple(step for part in PARTS for step in part(brief, shutter_s))


def put_back_steps(steps: tuple[SetUpStep, ...]) -> tuple[str, ...]:
    """What puts the phone back as it was, in the reverse order."""
    return tuple(step.put_back for step in reversed(steps) if step.put_back)


Part = Callable[[Brief, float | None], Iterator[SetUpStep]]


def _open(brief: Brief, _: float | None) -> Iterator[SetUpStep]:
    handling = brief.phone.handling
    if handling.opens_by:
        yield SetUpStep(f"Open the camera: {uncapped(handling.opens_by)}")


def _aspect(brief: Brief, _: float | None) -> Iterator[SetUpStep]:
    aspect = brief.phone.handling.full_aspect
    wide, high = (float(side) for side in aspect.split(":"))
    left = min(1.0, wide / high / WIDE_ASPECT)
    lost = two_digits((1 - left) * brief.mode.megapixels)
    yield SetUpStep(f"Aspect ratio {aspect}: all of the sensor; 16:9 would cut off {lost} MP")


def _off(brief: Brief, _: float | None) -> Iterator[SetUpStep]:
    yield SetUpStep("Flash off")
    yield SetUpStep("Live pictures, looks and filters off", "Live pictures on again")
    handling, distance_m = brief.phone.handling, focus_target(brief).distance_m
    close = brief[FOCUS].clip_on is not None or (distance_m is not None and distance_m < CLOSE_M)
    if close and handling.changes_lens_close_up:
        yield SetUpStep(
            "Automatic close-up lens change off",
            "Automatic close-up lens change on again",
        )
    if handling.faster_shooting and brief[MOTION]:
        yield SetUpStep("Faster shooting on", "Faster shooting off")


def _saving(brief: Brief, _: float | None) -> Iterator[SetUpStep]:
    if brief[FORMAT] == "processed":
        yield SetUpStep("RAW saving off")
    else:
        yield SetUpStep("RAW saving on", "RAW saving off")


def _release(brief: Brief, _: float | None) -> Iterator[SetUpStep]:
    handling, support = brief.phone.handling, brief[SUPPORT]
    if support == "handheld":
        if handling.volume_key:
            yield SetUpStep("Use the volume key as shutter button")
        return
    if handling.remote:
        yield SetUpStep("Use a remote release")
        return
    wanted = FIRM_TIMER_S if support == "tripod" else FLIMSY_TIMER_S
    timers = [timer_s for timer_s in handling.timers_s if timer_s >= wanted] or list(
        handling.timers_s
    )
    if timers:
        words = f"Self-timer {timers[0]:g} s"
        yield SetUpStep(words, "Self-timer off")


def _screen(_: Brief, __: float | None) -> Iterator[SetUpStep]:
    yield SetUpStep(
        "Screen at half brightness, automatic brightness off",
        "Automatic brightness on again",
    )


def _grid(brief: Brief, _: float | None) -> Iterator[SetUpStep]:
    distance_m = focus_target(brief).distance_m
    if distance_m is not None and distance_m < CLOSE_M:
        yield SetUpStep("Grid off to judge focus")
    elif brief[SUPPORT] != "handheld" or brief[SKY] is not None:
        yield SetUpStep("Grid on, to level")


def _quiet(brief: Brief, shutter_s: float | None) -> Iterator[SetUpStep]:
    frames = brief[FRAMES]
    run_s = (shutter_s or 0.0) * frames.count + frames.gap_s * (frames.count - 1)
    if run_s >= LONG_RUN_S or brief[DRAWING] is not None:
        yield SetUpStep(
            "Silence notifications, calls and shutter sound", "Notifications and sounds on again"
        )


def _kept(brief: Brief, _: float | None) -> Iterator[SetUpStep]:
    forgets = brief.phone.handling.forgets
    if forgets:
        names = listed([uncapped(words) for words in forgets])
        yield SetUpStep(f"If you closed the camera, set again: {names}")


PARTS: tuple[Part, ...] = (_open, _aspect, _off, _saving, _release, _screen, _grid, _quiet, _kept)
"""In dialling order."""
