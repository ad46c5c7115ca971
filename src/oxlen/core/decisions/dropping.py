"""The last ways on: two wishes that exclude each other, one dropped, or a frame for each."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace

from oxlen.core.decisions.exposure.ask import (
    DRAWING,
    LAMPS,
    LENS_FILTERS,
    LOOKS,
    MOTION,
    OUTPUT,
    SKY,
    STRATEGY,
    TRAVEL,
)
from oxlen.core.decisions.exposure.offers import bought_filters
from oxlen.core.decisions.framework.brief import KEEP_BRIGHT, SUBJECT, Brief
from oxlen.core.decisions.framework.limit import NEVER_S, Concern, Limit
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.scene.facts import scene_facts
from oxlen.core.decisions.sequence.ask import FRAMES, frames_shot, is_blended, is_bracketed
from oxlen.core.decisions.solver.conflict import Conflict, Side
from oxlen.core.decisions.solver.kept import (
    with_given_up,
)
from oxlen.core.decisions.solver.search import Search, broken_at_best, second_search
from oxlen.core.decisions.solver.tones import spoken_spot
from oxlen.core.kit.lens_filter import LensFilter

WISHES = (Concern.FREEZING, Concern.SHOWING, Concern.SKY, Concern.DRAWING)
"""What a shutter is asked for, with nothing else to give up but the wish itself."""
BLENDED = (Concern.FREEZING, Concern.SHOWING)
"""What a frame of its own can give. Flicker bands cross everything that a frame shows."""
LOST = {
    Concern.FREEZING: "moving subjects blur",
    Concern.SHOWING: "motion blur depends on the shutter",
    Concern.LAMPS: "flicker bands may show",
    Concern.SKY: "stars trail",
    Concern.DRAWING: "the drawing is cut short or repeats",
    Concern.PLACING: "that spot gets no set tone",
    Concern.TONES: "the brightest detail clips",
}
"""What a wish dropped costs, by what it was about; else the wish itself says it."""


def exclude_each_other(conflict: Conflict) -> bool:
    """Whether two wishes collide whatever the light: no more and no less of it would help."""
    return conflict.side is Side.STEPS and all(limit.is_about(*WISHES) for limit in conflict.limits)


def drop_offers(search: Search, conflict: Conflict) -> Iterator[Offer]:
    """Each of the two that collide, dropped where it is a wish and not what the phone can do."""
    yield from _dropped(search.brief, conflict.limits)


def drop_what_is_broken(search: Search) -> Iterator[Offer]:
    """Each wish that the pair with the least trouble breaks, dropped."""
    yield from _dropped(search.brief, broken_at_best(search))


def _dropped(brief: Brief, limits: Iterable[Limit]) -> Iterator[Offer]:
    for limit in limits:
        dropped = limit.kind.dropped
        if dropped is None:
            continue
        after = dropped(brief, limit.index)
        if after.asked == brief.asked:
            continue
        text = f"Drop “{limit.name}”"
        cost = LOST.get(limit.kind.concern, limit.reason)
        yield Offer(f"drop-{limit.kind.id}", text, cost, brief=after, tier=Tier.DROPPING)


def bare_offer(brief: Brief) -> Offer:
    """All wishes dropped but the tone of the first subject."""
    mains = [reading for reading in brief.readings if reading.role != KEEP_BRIGHT] or list(
        brief.readings
    )
    first = next((main for main in mains if main.role == SUBJECT), mains[0])
    others = [reading for reading in brief.readings if reading is not first]
    clips = any(reading.role != KEEP_BRIGHT for reading in brief.readings)
    strategy = replace(
        brief[STRATEGY], iso_cap=None, iso_fixed=None, shutter_s=None, let_clip=clips
    )
    bare = brief.asking(STRATEGY, strategy)
    bare = bare.asking(MOTION, ()).asking(LOOKS, ()).asking(LAMPS, None).asking(SKY, None)
    bare = bare.asking(DRAWING, None).asking(TRAVEL, None)
    bare = bare.asking(OUTPUT, replace(brief[OUTPUT], snr="any")).asking(FRAMES, FRAMES.default)
    bare = with_given_up(bare, *others)
    text = f"Keep only {spoken_spot(first)}"
    cost = "movers blur and other spots get no set tone"
    return Offer("drop-all", text, cost, brief=bare, tier=Tier.DROPPING)


def blend_offers(search: Search, conflict: Conflict) -> Iterator[Offer]:
    """A frame for each of two wishes, masked into one picture afterwards."""
    brief, (bound, other) = search.brief, conflict.limits
    if is_bracketed(brief) or is_blended(brief) or frames_shot(brief) > 1:
        return
    if scene_facts(brief).is_glaring or bound.id == other.id:
        return
    if not all(limit.is_about(*BLENDED) for limit in (bound, other)):
        return
    # The shorter shutter first: what moves is there now, what shows motion can be waited for.
    first, second = sorted((bound, other), key=_longest_s)
    frames = replace(brief[FRAMES], count=2, combine="blend", each_for=(first.id, second.id))
    blended = brief.asking(FRAMES, frames)
    worn = _filters_for_second(search, blended)
    if worn:
        blended = blended.asking(FRAMES, replace(frames, second_filters=worn))
    cost = "same position, combined with a mask afterwards"
    if worn:
        cost = f"{' and '.join(each.name for each in worn)} on before the second; {cost}"
    text = f"Two frames, blended: “{first.name}”, then “{second.name}”"
    yield Offer("two-frames", text, cost, brief=blended, tier=Tier.DROPPING)


def _longest_s(limit: Limit) -> float:
    return limit.high if limit.high is not None else NEVER_S


def _filters_for_second(search: Search, blended: Brief) -> tuple[LensFilter, ...]:
    """What the second frame needs on the lens, of the kit or bought; nothing where it does not."""
    second = second_search(search.again(blended))
    if second.preferred() is not None:
        return ()
    before = second.brief[LENS_FILTERS]
    found = bought_filters(second)
    return (
        ()
        if found is None
        else tuple(lens_filter for lens_filter in found if lens_filter not in before)
    )
