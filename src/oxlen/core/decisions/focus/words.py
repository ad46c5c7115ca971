"""What else must be known of focus: depth, background, slider steps, clip-on, what is too near."""

from __future__ import annotations

import math
from collections.abc import Iterator

from oxlen.core.decisions.exposure.ask import SUPPORT
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.focus.depths import (
    FocusPlace,
    background_disc_mm,
    circle_mm,
    depth_at,
    focus_place,
    optics_of,
    reach_of,
    stack_distances_m,
)
from oxlen.core.decisions.focus.target import Target
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.scene.facts import scene_facts
from oxlen.core.focus.depth import Depth, focus_between_m, hyperfocal_mm
from oxlen.core.hold.close import usual_sway_mm_s
from oxlen.core.kit.focus_drive import FocusDrive
from oxlen.core.labels import distance_label, listed, sentence_case, two_digits

THIN_M = 0.05
"""Depth so thin that a hand moves out of it."""
SOFT_SHARE, MELTED_SHARE = 0.004, 0.02
"""Blur as a share of the frame's width: from where shapes go soft, and from where they melt."""
STRONGEST_DIOPTRES = 20.0
"""Stronger clip-ons are hardly sold: they are microscopes."""
STEP_BACK, MOST_STEPS_BACK = 1.1, 40
SHADES_M = 0.05
"""Nearer than this the phone itself blocks the light."""


def focus_notes(brief: Brief, target: Target, place: FocusPlace | None) -> tuple[str, ...]:
    """What must be known besides the distance, the weightiest first."""
    return tuple(_notes(brief, target, place))


def _notes(brief: Brief, target: Target, place: FocusPlace | None) -> Iterator[str]:
    yield from _of_clip_on(brief)
    yield from _of_two_points(brief)
    if target.distance_m is None:
        return
    reach = reach_of(brief)
    if target.distance_m < reach.near_m - 1e-9:
        yield _too_near(brief, target.distance_m)
        return
    if target.distance_m > reach.far_m + 1e-9:
        words = f"With {_clip_name(brief)} on, nothing beyond {distance_label(reach.far_m)}"
        yield f"{words} is sharp. Go nearer or remove it."
        return
    depth = depth_at(brief, target.distance_m)
    if depth is None:
        return
    yield _depth_words(depth)
    yield from _of_range(brief, depth)
    yield from _of_background(brief, target.distance_m)
    yield from _of_step(target.distance_m, place, depth)
    yield from _of_sway(brief, depth)
    if target.distance_m < SHADES_M:
        yield "The phone casts a shadow this close. Light it from the side."


def _clip_name(brief: Brief) -> str:
    clip_on = brief[FOCUS].clip_on
    return "a clip-on" if clip_on is None else f"“{clip_on.name}”"


def _of_clip_on(brief: Brief) -> Iterator[str]:
    clip_on = brief[FOCUS].clip_on
    if clip_on is None:
        return
    if clip_on.lens and clip_on.lens != brief.lens.id:
        over = next((lens.name for lens in brief.phone.lenses if lens.id == clip_on.lens), "")
        if over:
            yield f"“{clip_on.name}” fits over {over}. Choose that lens."
            return
    changes = brief.phone.handling.changes_lens_close_up
    off = "Switch the automatic close-up lens off. " if changes else ""
    yield f"{off}A dark shadow in the frame means {brief.lens.name} is not in use."


def _of_two_points(brief: Brief) -> Iterator[str]:
    """Where focus is elsewhere than the tone that the exposure is for."""
    on = brief[FOCUS].on
    metered = [reading.name for reading in brief.readings if reading.role == "subject"]
    if not on or not metered or any(_names_same(on, name) for name in metered):
        return
    yield (
        f"Exposure is for “{metered[0]}”, focus for “{on}”. Manual exposure stays when you tap. "
        "On auto lock it first, then tap to focus."
    )


def _names_same(name: str, other: str) -> bool:
    """Whether one name is in the other, so that both mean the same thing."""
    a, b = name.casefold().strip(), other.casefold().strip()
    return a in b or b in a


def _too_near(brief: Brief, distance_m: float) -> str:
    """What would focus that near."""
    reach, wanted = reach_of(brief), distance_label(distance_m)
    ways = [f"stand at {distance_label(reach.near_m)}"]
    nearer = [
        lens.name
        for lens in brief.phone.lenses
        if lens.id != brief.lens.id
        and isinstance(lens.focus, FocusDrive)
        and lens.focus.closest_m <= distance_m
    ]
    ways += [f"use {name}" for name in nearer]
    least = 1 / distance_m - 1 / reach.near_m
    if brief[FOCUS].clip_on is None and least <= STRONGEST_DIOPTRES:
        ways.append(f"put a clip-on of {math.ceil(least)} dioptres or more on")
    return (
        f"Nearest focus of {brief.lens.name} is {distance_label(reach.near_m)}, not {wanted}: "
        f"{listed(ways).replace(' and ', ' or ')}."
    )


def _depth_words(depth: Depth) -> str:
    if math.isinf(depth.far_m):
        return f"Sharp from {distance_label(depth.near_m)} to the horizon."
    near, far = distance_label(depth.near_m), distance_label(depth.far_m)
    if depth.extent_m < THIN_M:
        return f"Sharp from {near} to {far}: {two_digits(1000 * depth.extent_m)} mm deep."
    return f"Sharp from {near} to {far}."


def _of_range(brief: Brief, depth: Depth) -> Iterator[str]:
    """Whether all that was asked to be sharp is, and how many frames it takes where not."""
    asked = brief[FOCUS]
    if asked.near_m is None and asked.far_m is None:
        return
    near_m = depth.near_m if asked.near_m is None else asked.near_m
    far_m = depth.far_m if asked.far_m is None else asked.far_m
    if depth.near_m <= near_m * 1.001 and far_m <= depth.far_m * 1.001:
        return
    stops = stack_distances_m(brief, near_m, far_m)
    wanted = f"From {distance_label(near_m)} to {distance_label(far_m)}"
    if "alive" in scene_facts(brief).traits:
        yield f"{wanted} is not sharp from here: {_crop_words(brief, near_m, far_m)}."
        return
    yield f"{wanted} is not sharp in one frame: {_stack_words(brief, stops)}."


def _crop_words(brief: Brief, near_m: float, far_m: float) -> str:
    """From how far it is all sharp, for what does not hold still from frame to frame.

    Twice as far is four times as deep, and a crop brings the size back.
    """
    deep_m, at_m = far_m - near_m, focus_between_m(near_m, far_m)
    for _ in range(MOST_STEPS_BACK):
        at_m *= STEP_BACK
        depth = depth_at(brief, at_m)
        if depth is not None and depth.extent_m >= deep_m:
            break
    times = at_m / focus_between_m(near_m, far_m)
    left = two_digits(brief.mode.megapixels / times**2)
    return f"step back to {distance_label(at_m)} and crop, {left} MP are left; it moves in a series"


def _stack_words(brief: Brief, stops: tuple[float, ...]) -> str:
    places = [focus_place(brief, stop) for stop in stops]
    if all(places):
        where = "focus at " + listed([f"{place.value:g}" for place in places if place])
        if len(stops) > 5:
            ends = [place.value for place in (places[0], places[-1]) if place is not None]
            where = f"from focus {ends[0]:g} to {ends[-1]:g} in even steps"
    else:
        where = f"focus from {distance_label(stops[0])} to {distance_label(stops[-1])}"
    if len(stops) == 1:
        return f"focus at {distance_label(stops[0])} holds it"
    firm = "" if brief[SUPPORT] == "tripod" else " on a tripod"
    return f"take {len(stops)} frames{firm}, {where}, and stack them"


def _of_background(brief: Brief, distance_m: float) -> Iterator[str]:
    disc = background_disc_mm(brief, distance_m)
    if disc is None:
        return
    times, share = disc / circle_mm(brief), disc / brief.mode.sensor_mm[0]
    if times <= 1:
        yield "The background is sharp too."
    elif share < SOFT_SHARE:
        yield f"The background is slightly soft: {times:.1f} × the sharp limit."
    elif share < MELTED_SHARE:
        yield f"The background is soft, shapes visible: blur {100 * share:.1f} % of the frame."
    else:
        yield f"The background is fully blurred: {100 * share:.0f} % of the frame."
    if share < MELTED_SHARE:
        yield from _computed_blur(brief, distance_m)


def _computed_blur(brief: Brief, distance_m: float) -> Iterator[str]:
    for computed in brief.phone.computed:
        if computed.kind != "background" or brief.lens.id not in computed.lenses:
            continue
        if not (computed.nearest_m or 0) <= distance_m <= (computed.farthest_m or math.inf):
            continue
        yield (
            f"{computed.name} blurs it like f/{computed.looks_like_f or 2:g}, in processed files "
            "only. Edges of rope, hair and glass look wrong."
        )


def _of_step(distance_m: float, place: FocusPlace | None, depth: Depth) -> Iterator[str]:
    if place is None or math.isinf(place.gives_m) or place.step_m <= depth.extent_m:
        return
    off_mm = 1000 * (place.gives_m - distance_m)
    words = (
        f"One slider step moves focus {two_digits(1000 * place.step_m)} mm, more than the "
        f"{two_digits(1000 * depth.extent_m)} mm that are sharp. Set it, then move the phone"
    )
    if abs(off_mm) < 0.5:
        yield f"{words} until it is."
    else:
        yield f"{words} {two_digits(abs(off_mm))} mm {'back' if off_mm > 0 else 'nearer'}."


def _of_sway(brief: Brief, depth: Depth) -> Iterator[str]:
    support = brief[SUPPORT]
    if depth.extent_m >= THIN_M or support == "tripod":
        return
    sway = usual_sway_mm_s(support)
    held_s = 1000 * depth.extent_m / 2 / sway
    held = "Handheld" if support == "handheld" else "Braced"
    yield (
        f"{held} you drift about {sway:g} mm a second. It stays sharp for {two_digits(held_s)} s "
        "after focusing. Shoot several."
    )


def hyperfocal_words(brief: Brief) -> str:
    """The distance that makes the most of the lens, in words."""
    at_m = hyperfocal_mm(optics_of(brief), circle_mm(brief)) / 1000
    near = distance_label(at_m / 2)
    return sentence_case(f"focused at {distance_label(at_m)} all from {near} on is sharp")
