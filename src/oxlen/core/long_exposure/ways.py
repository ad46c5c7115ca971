"""Routes to a long exposure: one exposure, dusk, filters, a longer lens, the phone, frames."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import combinations

from oxlen.core.decisions.exposure.ask import FORMAT, LENS_FILTERS, LOOKS, SUPPORT
from oxlen.core.decisions.exposure.light_source import falls_so_far
from oxlen.core.decisions.exposure.offers import STANDARD_FACTORS
from oxlen.core.decisions.exposure.shown_in_frames import median_of
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.limit import Concern
from oxlen.core.decisions.lens.ask import LENS, MODE
from oxlen.core.decisions.plan import plan
from oxlen.core.decisions.scene.unfit import is_fit
from oxlen.core.decisions.sequence.ask import FRAMES, Frames
from oxlen.core.decisions.sequence.own_filter import own_filters
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.labels import stops_label, time_label, two_digits
from oxlen.core.long_exposure.way import Way, light_allows_s, worked

MOST_FRAMES, SPARE = 500, 1.05
LONGEST_GLASS_STOPS = 15.0
NOT_OWNED = "not in your kit"
LONGER_BY = 1.2
"""A lens counts as a longer one from so many times the focal length on."""


@dataclass(frozen=True)
class Wanted:
    """The whole time of a look: from, to, and as text."""

    low_s: float | None
    high_s: float | None
    words: str


def wanted_time(brief: Brief) -> Wanted | None:
    """How long the looks of a brief take, by one frame of it; None where it shows no motion."""
    if not brief[LOOKS]:
        return None
    decided = plan(one_frame(brief))
    shown = [limit for limit in decided.search.limits if limit.is_about(Concern.SHOWING)]
    lows = [bound.low for bound in shown if bound.low is not None]
    highs = [bound.high for bound in shown if bound.high is not None]
    words = "; ".join(bound.reason for bound in shown)
    return Wanted(max(lows, default=None), min(highs, default=None), words)


def ways(brief: Brief) -> tuple[Way, ...]:
    """Every way to the time that the brief's looks take, those that reach it first.

    Of these, first what can be done now with what is owned, then waiting, then filters to buy.
    BadInput without a reading; nothing where the brief shows no motion.
    """
    wanted = wanted_time(brief)
    if wanted is None:
        return ()
    base = one_frame(brief)
    found = [
        worked("one", "One exposure, current light", base, carry="tripod only"),
        *_dusk(base, wanted),
        *_glass(base, wanted),
        *_longer_lens(base, wanted),
        *_by_phone(base, wanted),
        *_averaged(base, wanted),
        *_median(base, wanted),
        *_filters_and_more(base, wanted),
    ]
    return tuple(sorted(found, key=lambda way: (not way.reaches, _effort(way))))


def _effort(way: Way) -> int:
    """0 for what can be done now, 1 for waiting, 2 for what must be bought."""
    return 1 if way.id.startswith("dusk") else 2 * (way.carry == NOT_OWNED)


def one_frame(brief: Brief) -> Brief:
    """The brief for one frame from a tripod, without filters."""
    return (
        brief.asking(FRAMES, replace(brief[FRAMES], count=1, combine="average"))
        .asking(LENS_FILTERS, ())
        .asking(SUPPORT, "tripod")
    )


def _missing_stops(base: Brief, wanted: Wanted) -> float:
    """Stops of light too many for one frame of the time wanted."""
    allowed = light_allows_s(plan(base))
    return math.log2(SPARE * (wanted.low_s or allowed) / allowed)


def _dusk(base: Brief, wanted: Wanted) -> Iterator[Way]:
    """Waiting for less light; that is of no use for a lamp."""
    stops = _missing_stops(base, wanted)
    if stops <= 0 or not falls_so_far(base, stops) or not is_fit(base, "hour"):
        return
    carry = f"shoot when the light has dropped by {stops_label(stops)}"
    yield worked("dusk", "One exposure at dusk", base.lit(-stops), carry=carry)


def _glass(base: Brief, wanted: Wanted) -> Iterator[Way]:
    """Filters of the kit that are dark enough, one or two, else what would be needed."""
    stops = _missing_stops(base, wanted)
    if not 0 < stops <= LONGEST_GLASS_STOPS or not is_fit(base, "nd"):
        return
    fit = [worn for worn in _sets(base) if _stops_of(worn) >= stops - 0.02]
    if fit:
        chosen = min(fit, key=lambda filters: (len(filters), _stops_of(filters)))
        names = " and ".join(lens_filter.name for lens_filter in chosen)
        yield worked("glass", f"{names}", base.asking(LENS_FILTERS, chosen), carry="your own")
        return
    factor = next(
        (
            factor_known
            for factor_known in STANDARD_FACTORS
            if math.log2(factor_known) >= stops - 0.02
        ),
        None,
    )
    if factor is None:
        return
    worn = (LensFilter(f"ND {factor:g}", float(factor)),)
    yield worked("glass", f"ND {factor:g}", base.asking(LENS_FILTERS, worn), carry=NOT_OWNED)


def _stops_of(worn: tuple[LensFilter, ...]) -> float:
    return math.log2(math.prod(lens_filter.factor for lens_filter in worn))


def _longer_lens(base: Brief, wanted: Wanted) -> Iterator[Way]:
    """A longer lens with a smaller aperture: less light, and streaks fill more of the frame."""
    del wanted
    now = plan(base).brief.lens
    for lens in base.phone.lenses:
        if not is_fit(base, f"lens-{lens.id}"):
            continue
        if lens.f_number <= now.f_number or lens.focal35_mm < LONGER_BY * now.focal35_mm:
            continue
        stops = 2 * math.log2(lens.f_number / now.f_number)
        nearer = two_digits(lens.focal35_mm / now.focal35_mm)
        carry = f"{stops_label(stops)} less light and {nearer}× narrower: step back"
        other = base.asking(LENS, lens.id).asking(MODE, MODE.default)
        yield worked(f"lens-{lens.id}", f"The {lens.name} lens", other, carry=carry)


def _by_phone(base: Brief, wanted: Wanted) -> Iterator[Way]:
    """The phone's own filter modes, at the weakest strength that makes it long enough."""
    found = plan(base)
    decided, each_s = found.brief, light_allows_s(found)
    for mode in own_filters(decided):
        low, high = mode.shortest_s or 0.0, mode.longest_s or math.inf
        times = [(stops, each_s * 2.0**stops) for stops in mode.strengths_stops]
        fit = [time for time in times if low <= time[1] <= high]
        long_enough = [route for route in fit if route[1] >= (wanted.low_s or 0.0)]
        chosen = next(iter(long_enough), fit[-1] if fit else times[-1])
        frames = Frames(max(1, round(2.0 ** chosen[0])), mode.gap_s or 0.0, combine="phone")
        by_phone = base.asking(FRAMES, frames)
        only = ""
        if mode.writes == "processed":
            by_phone, only = by_phone.asking(FORMAT, "processed"), ", processed files only"
        carry = f"{stops_label(chosen[0])}, {_ends(low, high)}{only}"
        way = worked(f"phone-{mode.id}", f"The phone’s {mode.name}", by_phone, carry=carry)
        yield way if fit else replace(way, reaches=False, why_not=_outside(chosen, low, high))


def _outside(chosen: tuple[float, float], low: float, high: float) -> str:
    """Why no strength of a mode allows a time that it takes."""
    at = f"at {stops_label(chosen[0])} it gives {time_label(chosen[1])}"
    if chosen[1] < low:
        return f"{at}, and the mode starts at {time_label(low)}: too bright"
    return f"{at}, and the mode ends at {time_label(high)}"


def _ends(low: float, high: float) -> str:
    upper = "any time" if math.isinf(high) else time_label(high)
    return f"from {time_label(low)} to {upper}" if low else f"up to {upper}"


def _averaged(base: Brief, wanted: Wanted) -> Iterator[Way]:
    """Frames averaged afterwards, as many as span the time with their gaps."""
    found = plan(base)
    decided = found.brief
    gap_s = decided.mode.files.frame_gap_s or base[FRAMES].gap_s
    each_s = min(light_allows_s(found), decided.mode.manual.shutter_s[-1])
    low_s = SPARE * (wanted.low_s or each_s)
    count = max(2, math.ceil((low_s + gap_s) / (each_s + gap_s)))
    if count > MOST_FRAMES:
        return
    frames = Frames(count, gap_s, combine="average")
    pause = f", {time_label(gap_s)} between frames" if gap_s > 0 else ""
    carry = f"stacked afterwards{pause}"
    yield worked("frames", f"{count} frames averaged", base.asking(FRAMES, frames), carry=carry)


def _median(base: Brief, wanted: Wanted) -> Iterator[Way]:
    """A median of frames, where what passes is to vanish."""
    del wanted
    many = median_of(base)
    if many is None or many[FRAMES].count > MOST_FRAMES:
        return
    count, gap_s = many[FRAMES].count, many[FRAMES].gap_s
    carry = f"one every {time_label(gap_s)}, stacked afterwards; whoever stands still stays"
    yield worked("median", f"Median of {count} frames", many, carry=carry)


def _filters_and_more(base: Brief, wanted: Wanted) -> Iterator[Way]:
    """Filters of the kit with frames, a longer lens or the phone's mode; dusk with frames."""
    stops, ends = _missing_stops(base, wanted), _stops_to_longest(base)
    if not is_fit(base, "nd"):
        return
    weaker = [worn for worn in _sets(base) if 1.0 <= _stops_of(worn) < min(stops - 0.02, ends)]
    if weaker:
        chosen = max(weaker, key=lambda filters: (_stops_of(filters), -len(filters)))
        names = " and ".join(lens_filter.name for lens_filter in chosen)
        dark = base.asking(LENS_FILTERS, chosen)
        more = (*_averaged(dark, wanted), *_longer_lens(dark, wanted), *_by_phone(dark, wanted))
        for way in more:
            yield replace(way, id=f"glass-{way.id}", name=f"{way.name}, through {names}")
    if 0 < ends < stops and falls_so_far(base, ends) and is_fit(base, "hour"):
        for way in _averaged(base.lit(-ends), wanted):
            carry = f"shoot when the light has dropped by {stops_label(ends)}; {way.carry}"
            yield replace(way, id="dusk-frames", name=f"{way.name}, at dusk", carry=carry)


def _sets(base: Brief) -> list[tuple[LensFilter, ...]]:
    """Filters of the kit, one or two of them at a time."""
    owned = base.filters_at_hand
    return [(lens_filter,) for lens_filter in owned] + list(combinations(owned, 2))


def _stops_to_longest(base: Brief) -> float:
    """Stops less light at which the longest shutter of the lens is reached."""
    found = plan(base)
    return math.log2(found.brief.mode.manual.shutter_s[-1] / light_allows_s(found))
