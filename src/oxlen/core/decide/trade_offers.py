"""What can be offered: each offer is a changed brief with words for the deed and its cost."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from itertools import combinations

from oxlen.core.decide.brief import Brief, PlacedReading
from oxlen.core.decide.conflict import Conflict
from oxlen.core.decide.lenses import on_lens
from oxlen.core.decide.school import nearest_index
from oxlen.core.decide.search import Search
from oxlen.core.decide.span import tonal_span
from oxlen.core.decide.wishes import PAN_RESIDUAL_SHARE, Frames, Glass
from oxlen.core.labels import stops_label, two_digits
from oxlen.core.motion.looks import look_of

BURST = 6
STANDARD_FACTORS = (2, 4, 8, 16, 32, 64, 128, 256, 512, 1000, 2000, 4000, 10_000, 100_000)
MOST_FRAMES = 64
SPARE_STOPS = 0.1
EXACTLY = 0.999
"""Filters are named by rounded factors: 1000 for 1024."""
SPAN_SPARE = 1.2
SHORTER_LOOKS = {"glass": "soft", "soft": "texture"}


@dataclass(frozen=True)
class Offer:
    """Something to give up: an id, what to do, what it costs, and the brief after it."""

    id: str
    text: str
    cost: str
    brief: Brief


def steadier_offers(brief: Brief, conflict: Conflict | None) -> Iterator[Offer]:
    """Bracing, a tripod, a burst, a pan."""
    if _touches(conflict, "hold"):
        yield from _holding_offers(brief, conflict)
    crossing = [f for f in brief.freeze if math.sin(math.radians(f.mover.angle_deg)) > 0.5]
    if crossing and not brief.is_panned and _touches(conflict, "freeze"):
        panned = tuple(replace(f, pan_residual_share=PAN_RESIDUAL_SHARE) for f in brief.freeze)
        words = "everything that stands streaks; some tries will miss"
        yield Offer("pan", "Pan with it", words, replace(brief, freeze=panned))


def _holding_offers(brief: Brief, conflict: Conflict | None) -> Iterator[Offer]:
    if brief.support == "handheld":
        braced = replace(brief, support="braced")
        yield Offer("brace", "Brace the phone on something firm", "less freedom to frame", braced)
    if brief.support == "tripod":
        return
    tripod = replace(brief, support="tripod")
    yield Offer("tripod", "Put the phone on a tripod", "set-up time; moving things blur", tripod)
    if conflict is not None and brief.hold.burst == 1:
        burst = replace(brief, hold=replace(brief.hold, burst=BURST))
        words = f"{BURST} files to sort, {brief.hold.chance:.0%} chance of a sharp one"
        yield Offer("burst", f"Shoot a burst of {BURST}, keep the sharpest", words, burst)


def lens_offers(brief: Brief) -> Iterator[Offer]:
    """The phone's other lenses, and the lens's other modes."""
    for lens in brief.phone.lenses:
        if lens.id != brief.lens.id:
            cost = (
                f"f/{lens.f_number:g}, {lens.focal35_mm:g} mm: another distance or another framing"
            )
            yield Offer(
                f"lens-{lens.id}", f"Use the {lens.name} lens", cost, on_lens(brief, lens.id)
            )
    for mode in brief.lens.modes:
        if mode.id != brief.mode.id:
            megapixels = mode.width_px * mode.height_px / 1e6
            cost = f"{megapixels:.0f} MP files, pixels of {mode.pixel_pitch_um:g} µm"
            changed = replace(brief, mode_id=mode.id)
            yield Offer(f"mode-{mode.id}", f"Use the mode “{mode.name}”", cost, changed)


def light_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """More light by a lamp, or more or less of it by the hour."""
    if conflict is None or conflict.short_by_stops <= 0:
        return
    brief, nearest = search.brief, search.nearest()
    # Real steps fall short by more than the bounds do.
    missed = 0.0 if nearest is None else abs(float(nearest.residual_stops[0]))
    stops = max(conflict.short_by_stops, missed) + SPARE_STOPS
    if conflict.side == "dark":
        lit = replace(brief, readings=_lit(brief.readings, stops))
        nearer, power = 2 ** (-stops / 2), 2**stops
        cost = (
            f"a lamp at {two_digits(nearer)} × its distance, or of {two_digits(power)} × the power"
        )
        yield Offer("light", f"Add {stops_label(stops)} of light", cost, lit)
        words = f"the light must be {stops_label(stops)} stronger than now"
        yield Offer("hour", "Come at another time of day", words, lit)
    if conflict.side == "bright":
        dimmer = replace(brief, readings=_lit(brief.readings, -stops))
        words = f"the light must fall by {stops_label(stops)}"
        yield Offer("hour", "Wait for less light", words, dimmer)


def glass_offers(brief: Brief, conflict: Conflict | None) -> Iterator[Offer]:
    """Glass to take off, glass in the kit that is dark enough, or what would be needed."""
    if brief.glass_on:
        names = " and ".join(glass.name for glass in brief.glass_on)
        bare = replace(brief, glass_on=())
        yield Offer("no_glass", f"Take off {names}", "none", bare)
    if conflict is None or conflict.side != "bright":
        return
    needed = 2.0**conflict.short_by_stops
    spare = [glass for glass in brief.glass_at_hand if glass not in brief.glass_on]
    from_kit = tuple(_glass_on(brief, spare, needed, "in your kit"))
    yield from from_kit
    if not from_kit:
        standard = next((f for f in STANDARD_FACTORS if f >= needed * EXACTLY), None)
        if standard is not None:
            bought = [Glass(f"ND {standard}", standard)]
            yield from _glass_on(brief, bought, needed, "not in your kit")


def _glass_on(brief: Brief, choice: Iterable[Glass], needed: float, where: str) -> Iterator[Offer]:
    """The lightest single filter, or two together, that take enough."""
    singles = [(glass,) for glass in choice]
    together = [*singles, *combinations((glass for (glass,) in singles), 2)]
    enough = [worn for worn in together if _factor(worn) >= needed * EXACTLY]
    for worn in sorted(enough, key=lambda worn: (_factor(worn), len(worn)))[:1]:
        names = " and ".join(glass.name for glass in worn)
        cost = f"{stops_label(math.log2(_factor(worn)))}, {where}"
        changed = replace(brief, glass_on=(*brief.glass_on, *worn))
        yield Offer("nd", f"Put {names} on the lens", cost, changed)


def _factor(worn: Iterable[Glass]) -> float:
    return math.prod(glass.factor for glass in worn)


def frames_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """Several frames averaged: against noise, or as a stand-in for dark glass."""
    brief = search.brief
    if conflict is None or brief.frames.count > 1:
        return
    noisy = any(limit_id.startswith("noise") for limit_id in conflict.between)
    if noisy or conflict.side == "dark":
        count = math.ceil(2.0 ** (conflict.short_by_stops + SPARE_STOPS))
        if 2 <= count <= MOST_FRAMES:
            cost = f"{count} frames to average; nothing may move between them"
            many = replace(brief, frames=Frames(count, brief.frames.gap_s))
            yield Offer("frames", f"Average {count} frames", cost, many)
    if conflict.side == "bright" and brief.show:
        yield from _computed_nd(search)


def _computed_nd(search: Search) -> Iterator[Offer]:
    """Short frames enough that their whole span draws the streak; gaps included. See physics of
    averaged frames in `motion.less_light`.
    """
    brief = search.brief
    limit = next((one for one in search.limits if one.kind == "show" and one.low), None)
    lowest_iso = search.pairs.where(search.pairs.row == 0)
    index = nearest_index(lowest_iso)
    if limit is None or index is None:
        return
    each_s = float(lowest_iso.shutter_s[index])
    gap_s = brief.frames.gap_s
    count = math.ceil((SPAN_SPARE * (limit.low or 0) + gap_s) / (each_s + gap_s))
    if not 2 <= count <= MOST_FRAMES:
        return
    show = next((one for one in brief.show), None)
    between_m = float(show.mover.speed_m_s) * gap_s if show else 0.0
    moves = f"it moves {two_digits(between_m)} m in each gap"
    cost = f"{count} frames on a tripod, {gap_s:g} s apart; {moves}"
    many = replace(brief, frames=Frames(count, gap_s))
    yield Offer("computed_nd", f"Average {count} short frames instead of dark glass", cost, many)


def highlight_offers(brief: Brief, conflict: Conflict | None) -> Iterator[Offer]:
    """RAW for its headroom, a bracket, or letting the brightest detail go."""
    bright = [r for r in brief.readings if r.role == "keep-bright"]
    if not bright or not _touches(conflict, "highlights", "noise"):
        return
    if brief.file_format != "raw":
        raw = replace(brief, file_format="raw")
        yield Offer("raw", "Save as RAW", "larger files to develop", raw)
    kept = tuple(r for r in brief.readings if r.role != "keep-bright")
    if not kept:
        return
    lost = replace(brief, readings=kept)
    span = tonal_span(brief, brief.mode.sensor.base_iso)
    if span is not None and span.bracket.count > 1:
        count, step = span.bracket.count, stops_label(span.bracket.step_stops)
        text = f"Bracket {count} frames {step} apart"
        yield Offer(
            "bracket",
            text,
            "a tripod, and merging afterwards; this is the frame for the darks",
            lost,
        )
    yield Offer("clip", "Let the brightest detail clip", "its texture is lost for good", lost)


def look_offers(brief: Brief) -> Iterator[Offer]:
    """The next shorter look for motion that is meant to show."""
    for index, show in enumerate(brief.show):
        shorter = SHORTER_LOOKS.get(show.look.id)
        if shorter is None:
            continue
        look = look_of(shorter)
        changed = replace(show, look=look, share_min=None, share_max=None)
        shown = tuple(changed if at == index else one for at, one in enumerate(brief.show))
        text = f"Take {look.name.lower()} instead of {show.look.name.lower()}"
        yield Offer(f"look-{shorter}", text, look.words, replace(brief, show=shown))


def _touches(conflict: Conflict | None, *kinds: str) -> bool:
    """Whether a conflict is about limits of some kinds; without a conflict everything is open."""
    if conflict is None:
        return True
    return any(limit_id.startswith(kinds) for limit_id in conflict.between)


def _lit(readings: tuple[PlacedReading, ...], stops: float) -> tuple[PlacedReading, ...]:
    return tuple(replace(reading, ev100=reading.ev100 + stops) for reading in readings)
