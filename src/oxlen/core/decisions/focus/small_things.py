"""A small subject: nearer, a longer lens, a clip-on or a crop, compared by what each brings."""

from __future__ import annotations

from dataclasses import dataclass, replace

from oxlen.core.decisions.exposure.ask import OUTPUT
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.focus.depths import depth_at, optics_of, reach_of
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.lens.ask import LENS, MODE
from oxlen.core.kit.clip_on import ClipOn
from oxlen.core.lens.perspective import edge_stretch

FILLS = 0.8
"""A subject that fills more of the frame's width than this is as large as is wanted."""
ROOM_M = 0.08
"""Nearer than this the phone shades the subject and frightens what lives."""
MOST_OFF_AXIS_MM = 1e4
DEEP_ENOUGH_SHARE = 0.15
"""Depth that holds this much of the subject's width still shows its shape."""


@dataclass(frozen=True)
class SmallThingWay:
    """One way: the working distance, pixels across the subject, share of the frame, depth."""

    way: str
    distance_m: float
    across_px: float
    of_frame: float
    depth_mm: float
    best: bool = False


def small_thing_ways(brief: Brief) -> tuple[SmallThingWay, ...]:
    """Every lens at its nearest, bare and with the clip-ons at hand; empty without a width."""
    thing_mm = brief[FOCUS].thing_mm
    if thing_mm is None:
        return ()
    ways = [
        way
        for lens in brief.phone.lenses
        for clip_on in (None, *_clip_ons(brief, lens.id))
        if (way := _way(brief, lens.id, clip_on, thing_mm=thing_mm)) is not None
    ]
    ranked = sorted(ways, key=lambda way: -_worth(brief, way, thing_mm))
    return tuple(replace(way, best=place == 0) for place, way in enumerate(ranked))


def _clip_ons(brief: Brief, lens_id: str) -> list[ClipOn]:
    """The clip-ons at hand and the one asked for, those that go over this lens."""
    asked = brief[FOCUS].clip_on
    known = list(brief.clip_ons_at_hand)
    if asked is not None and asked not in known:
        known.append(asked)
    return [clip_on for clip_on in known if clip_on.lens in ("", lens_id)]


def _way(
    brief: Brief, lens_id: str, clip_on: ClipOn | None, *, thing_mm: float
) -> SmallThingWay | None:
    focus = replace(brief[FOCUS], clip_on=clip_on, distance_m=None, near_m=None, far_m=None)
    on_lens = brief.asking(LENS, lens_id).asking(MODE, None).asking(FOCUS, focus)
    if on_lens.lens.focus is None:
        return None
    optics, reach = optics_of(on_lens), reach_of(on_lens)
    width_mm = on_lens.mode.sensor_mm[0]
    distance_m = reach.near_m
    drawn_mm = thing_mm * optics.magnification(distance_m)
    if drawn_mm > FILLS * width_mm:  # step back until it fits
        distance_m = _fitting_m(on_lens, thing_mm, FILLS * width_mm)
        if distance_m > reach.far_m:
            return None
        drawn_mm = thing_mm * optics.magnification(distance_m)
    depth = depth_at(on_lens, distance_m)
    if depth is None:
        return None
    name = on_lens.lens.name + ("" if clip_on is None else f" with “{clip_on.name}”")
    return SmallThingWay(
        name,
        distance_m,
        drawn_mm / width_mm * on_lens.mode.width_px,
        of_frame=drawn_mm / width_mm,
        depth_mm=1000 * depth.extent_m,
    )


def _fitting_m(brief: Brief, thing_mm: float, drawn_mm: float) -> float:
    """Distance (m) at which a thing is drawn so large: halved down to it, as m falls with it."""
    optics = optics_of(brief)
    near, far = reach_of(brief).near_m, 50.0
    far = min(far, reach_of(brief).far_m)
    for _ in range(50):
        middle = (near + far) / 2
        if thing_mm * optics.magnification(middle) > drawn_mm:
            near = middle
        else:
            far = middle
    return far


def _worth(brief: Brief, way: SmallThingWay, thing_mm: float) -> float:
    """Pixels that count at the output, less where the depth no longer holds its shape, where it is
    near, and by how much its ends are stretched from so near. [RAY2002]"""
    wanted = brief[OUTPUT].size_px[0]
    pixels = min(way.across_px, wanted) / wanted
    deep = min(1.0, way.depth_mm / (DEEP_ENOUGH_SHARE * thing_mm))
    room = min(1.0, way.distance_m / ROOM_M)
    # The angle its ends are seen under is that of half its width at its distance.
    seen_mm = min(thing_mm / 2, MOST_OFF_AXIS_MM)
    stretched = float(edge_stretch(1000 * way.distance_m, seen_mm).shape)
    return pixels * (0.6 + 0.4 * deep) * (0.6 + 0.4 * room) / stretched
