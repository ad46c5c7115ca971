"""How to set a series up: where phone and lamps go, and when a window's light stays the same."""

from __future__ import annotations

from collections.abc import Sequence

from pydantic import BaseModel

from oxlen.core.errors import OutOfRange
from oxlen.core.kit.phone import Lens, Phone
from oxlen.core.series.lamps import ANGLE_DEG, lamp_distance_m, lamp_lx
from oxlen.core.series.set_up import (
    MOST_STRETCH,
    PhonePlace,
    ThingSize,
    best_place,
    good_share,
    phone_place,
)
from oxlen.core.sky.daylight import incident_ev100
from oxlen.formats.shop_options import SetUp
from oxlen.store.shop import ShopThing

USUAL_CM = (10.0, 12.0, 10.0)
"""The size that is assumed where no thing of the list has one."""
SEEN_DEPTH = 0.5
"""Own choice: of a round thing half of the depth is seen, of a box the front alone."""
BEHIND_SHARE = 1.5
"""Own choice: the background so many depths behind the thing keeps its shadow off it."""


class PhonePlaceView(BaseModel):
    """Where the phone goes with one lens, in metres, and whether that is good."""

    lens: str
    lens_name: str
    distance_m: float
    focus_m: float
    share: float
    sharp_near_m: float
    sharp_far_m: float | None
    stretch: float
    view_width_m: float
    is_good: bool
    words: str


class LampPlaceView(BaseModel):
    """Where lamps go: distance from the middle of the background, and the light on the thing."""

    lamps: int
    distance_m: float
    angle_deg: float
    ev100: float
    words: str


class SetUpView(BaseModel):
    """The set-up: sizes it is for, the lens to use, every lens, and the lamps."""

    width_cm: float
    height_cm: float
    depth_cm: float
    is_assumed: bool
    best: PhonePlaceView
    places: list[PhonePlaceView]
    background_m: float
    lamps: LampPlaceView | None
    window: str
    steps: list[str]


def set_up_view(
    phone: Phone, things: Sequence[ShopThing], asked: SetUp, *, window: str
) -> SetUpView:
    """The set-up for the largest of the things on a phone; `window` is about a window's light."""
    size, is_assumed = largest_cm(things)
    thing = ThingSize(size[0] / 100, size[1] / 100, SEEN_DEPTH * size[2] / 100)
    places = {lens.id: phone_place(lens, thing, asked.share) for lens in phone.lenses}
    best = places.get(asked.lens or "") or best_place(list(places.values()))
    views = [_place(lens, places[lens.id], thing, asked=asked.share) for lens in phone.lenses]
    chosen = next(view for view in views if view.lens == best.lens_id)
    lamps = None if asked.light == "window" else _lamps(asked)
    return SetUpView(
        width_cm=size[0],
        height_cm=size[1],
        depth_cm=size[2],
        is_assumed=is_assumed,
        best=chosen,
        places=views,
        background_m=BEHIND_SHARE * size[2] / 100,
        lamps=lamps,
        window=window if asked.light == "window" else "",
        steps=_steps(chosen, lamps, size),
    )


def largest_cm(things: Sequence[ShopThing]) -> tuple[tuple[float, float, float], bool]:
    """The most of each length (cm) over all things; True where all of it is assumed."""
    found = [
        [length for thing in things if not thing.skipped and (length := getattr(thing, field))]
        for field in ("width_cm", "height_cm", "depth_cm")
    ]
    wide, high, deep = (
        max(lengths, default=usual) for lengths, usual in zip(found, USUAL_CM, strict=True)
    )
    if not found[2] and found[0]:
        deep = wide
    return (wide, high, deep), not any(found)


def _place(lens: Lens, place: PhonePlace, thing: ThingSize, *, asked: float) -> PhonePlaceView:
    far = place.sharp.far_m
    return PhonePlaceView(
        lens=lens.id,
        lens_name=lens.name,
        distance_m=place.distance_m,
        focus_m=place.focus_m,
        share=place.share,
        sharp_near_m=place.sharp.near_m,
        sharp_far_m=far if far < 1e6 else None,
        stretch=place.stretch,
        view_width_m=place.view_width_m,
        is_good=place.is_good,
        words=_words(lens, place, thing, asked=asked),
    )


def _words(lens: Lens, place: PhonePlace, thing: ThingSize, *, asked: float) -> str:
    if place.is_good and place.share < asked - 0.01:
        return f"It focuses no nearer: the thing fills {100 * place.share:.0f} %."
    if place.is_good:
        return "Whole thing sharp, no visible stretch."
    share = good_share(lens, thing)
    much = f"{100 * (place.stretch - 1):.0f} %"
    wrong = (
        f"The front looks {much} larger than the sides."
        if place.stretch > MOST_STRETCH
        else "The far parts are soft."
    )
    if share is None:
        return f"{wrong} Use a longer lens."
    return f"{wrong} Fill at most {100 * share:.0f} % of the frame, and crop."


def _lamps(asked: SetUp) -> LampPlaceView | None:
    pair = asked.light == "two-lamps"
    try:
        distance = lamp_distance_m(asked.background_cm / 100, asked.falloff_stops, pair=pair)
    except OutOfRange:
        words = "No lamp distance up to 20 m is that even. Allow more falloff, or use two lamps."
        return LampPlaceView(
            lamps=1 + pair, distance_m=20.0, angle_deg=ANGLE_DEG, ev100=0.0, words=words
        )
    light = (1 + pair) * lamp_lx(asked.lumens, distance)
    return LampPlaceView(
        lamps=1 + pair,
        distance_m=distance,
        angle_deg=ANGLE_DEG,
        ev100=float(incident_ev100(light)),
        words=f"Even to {asked.falloff_stops:.2g} stop over {asked.background_cm:.0f} cm.",
    )


def _steps(
    place: PhonePlaceView, lamps: LampPlaceView | None, size: tuple[float, float, float]
) -> list[str]:
    """What is done once before the first picture, in order."""
    high = f"{size[1] / 2:.0f} cm"
    steps = [
        "Mark one place on the table, and put each thing there.",
        f"Phone on a tripod, {place.distance_m:.2f} m from the thing's front.",
        f"Lens level and {high} above the table: half the height of the largest thing.",
        f"Focus by hand at {place.focus_m:.2f} m, and lock it.",
    ]
    if lamps is not None:
        name = "Both lamps" if lamps.lamps == 2 else "The lamp"
        steps += [
            f"{name} {lamps.distance_m:.1f} m from the middle, {lamps.angle_deg:.0f}° to the side.",
            "Switch lamps on 10 min early, and all other light off.",
        ]
    else:
        steps.append("Switch all lamps off, so that the window is the only light.")
    return [
        *steps,
        "Screen at full brightness, automatic brightness off.",
        "White balance and exposure from the slip, locked for all pictures.",
        "Shoot the first thing again at the end: it shows drift.",
    ]
