"""Ways out by what the phone does itself: auto's lists, merged captures, night mode, flash."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from oxlen.core.decisions.exposure.ask import (
    FORMAT,
    LENS_FILTERS,
    LOOKS,
    MOTION,
    STRATEGY,
    SUPPORT,
    glass_stops,
)
from oxlen.core.decisions.exposure.auto.steps import auto_steps, scale_label
from oxlen.core.decisions.exposure.light_source import LightSource, light_source
from oxlen.core.decisions.framework.brief import KEEP_BRIGHT, Brief
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.scene.facts import subject_m
from oxlen.core.decisions.scene.unfit import is_fit
from oxlen.core.decisions.sequence.ask import FRAMES, is_bracketed
from oxlen.core.decisions.solver.conflict import Conflict, Side, short_of_light_stops
from oxlen.core.decisions.solver.frontier import figures_of_steps
from oxlen.core.decisions.solver.outcome import SpotState, outcome
from oxlen.core.decisions.solver.search import ExposureSlip, Search
from oxlen.core.decisions.trade import Trade
from oxlen.core.labels import stops_label, two_digits

FLASH_NEAR_M = 3.0
"""Beyond this a phone's flash lights nothing."""
SPARE_STOPS = 0.1
NOTHING_ADDED = (LightSource.STARS, LightSource.DUSK, LightSource.DRAWING, LightSource.VENUE)
"""What these light is neither flashed nor merged by the phone itself."""


def automatic_trades(search: Search, conflict: Conflict | None) -> Iterator[Trade]:
    """What auto would reach that the manual mode does not, each in the phone's own hands."""
    if conflict is None or is_bracketed(search.brief):
        return
    found: list[Trade] = []
    if conflict.side is Side.TONES:
        found += _wide_range(search, conflict)
    if conflict.side in (Side.DARK, Side.BRIGHT):
        found += _longer_lists(search)
    yield from (trade for trade in found if is_fit(search.brief, trade.id))


def _wide_range(search: Search, conflict: Conflict) -> Iterator[Trade]:
    """The phone's own merged capture, where its room is enough and nothing moves."""
    brief, bright = search.brief, conflict.bright_spot
    room = brief.phone.automatic.wide_range_stops
    moves = bool(brief[MOTION]) or bool(brief[LOOKS])
    if room is None or moves or bright is None or bright.role != KEEP_BRIGHT:
        return
    if conflict.short_by_stops > room or bright.place_stops is not None:
        return
    if all(reading.role == KEEP_BRIGHT for reading in brief.readings):
        # Nothing is left to expose for.
        return
    open_above = brief.asking(STRATEGY, replace(brief[STRATEGY], let_clip=True))
    trade = _on_auto(search.again(open_above), brief)
    if trade is not None:
        cost = f"on auto, about {stops_label(room)} more room above; what moves shows twice"
        text = "Use the phone's HDR mode"
        yield replace(trade, id="wide-range", text=text, cost=cost)


def _longer_lists(search: Search) -> Iterator[Trade]:
    """Auto's own list of steps often reaches further than the manual one."""
    trade = _on_auto(search, search.brief)
    if trade is None:
        return
    manual, slip = search.brief.mode.manual, trade.slip
    iso_by_hand = manual.iso[0] <= slip.iso <= manual.iso[-1]
    shutter_by_hand = manual.shutter_s[0] <= slip.shutter_s <= manual.shutter_s[-1]
    if not (iso_by_hand and shutter_by_hand):
        yield trade


def _on_auto(search: Search, brief: Brief) -> Trade | None:
    """Auto with compensation, where what it would choose keeps everything that was asked."""
    found = auto_steps(search)
    if not found.works or brief[LENS_FILTERS]:
        return None
    residual = search.aim.ev100 - found.ev100_set
    slip = ExposureSlip(
        brief.lens.id,
        found.iso,
        found.shutter_s,
        f_number=brief.lens.f_number,
        ev100_set=found.ev100_set,
        residual_stops=residual,
    )
    spots = outcome(search.brief, [found.ev100_set])
    if any(spot.state not in (SpotState.AS_ASKED, SpotState.GIVEN_UP) for spot in spots):
        return None
    tap, scale = found.steps[0].removeprefix("Tap "), scale_label(found.compensation_stops)
    return Trade(
        "auto",
        f"Use auto: tap {tap}, set compensation {scale}, lock",
        "auto's own list reaches further than the manual one; it may choose otherwise",
        slip=slip,
        figures=figures_of_steps(search, found.iso, found.shutter_s),
        brief=brief,
        outcome=spots,
        outside=True,
        on_auto=True,
    )


def automatic_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """Night mode for what is still, flash for what is near."""
    if conflict is None or conflict.side is not Side.DARK:
        return
    yield from _night(search)
    yield from _flash(search, conflict)


def _night(search: Search) -> Iterator[Offer]:
    """The phone's own night mode: frames it aligns and merges itself, handheld."""
    brief, frames = search.brief, search.brief.phone.automatic.night_frames
    if frames is None or brief[MOTION] or brief[LOOKS] or brief[SUPPORT] == "tripod":
        return
    if light_source(brief) in NOTHING_ADDED:
        return
    lift = round(short_of_light_stops(search), 2)
    if lift < SPARE_STOPS or 2.0**lift > frames:
        return
    strategy = replace(brief[STRATEGY], lift_stops=lift)
    merged = brief.asking(FRAMES, replace(brief[FRAMES], count=frames)).asking(STRATEGY, strategy)
    cost = f"it merges about {frames} frames itself; anything that moves smears or shows twice"
    yield Offer(
        "night-mode",
        "Use the phone's own night mode",
        cost,
        brief=merged.asking(FORMAT, "processed"),
        tier=Tier.SEVERAL_FRAMES,
        outside=True,
    )


def _flash(search: Search, conflict: Conflict) -> Iterator[Offer]:
    """The phone's flash, where the subject is near enough for it at the ISO that is left."""
    brief, guide_m = search.brief, search.brief.phone.automatic.flash_guide_m
    distance = subject_m(brief)
    if guide_m is None or distance is None or distance > FLASH_NEAR_M:
        return
    if light_source(brief) in NOTHING_ADDED:
        return
    highest = brief.mode.manual.iso[-1]
    reach_m = guide_m / brief.lens.f_number * (highest / 100) ** 0.5 / 2 ** (glass_stops(brief) / 2)
    if distance > reach_m:
        return
    stops = conflict.short_by_stops + brief.mode.manual.half_step_stops + SPARE_STOPS
    cost = f"it reaches {two_digits(reach_m)} m at ISO {highest:g}; hard shadows, a dark background"
    yield Offer(
        "flash",
        "Use the phone's flash",
        cost,
        brief=brief.lit(stops),
        tier=Tier.OTHER_LIGHT,
        outside=True,
    )
