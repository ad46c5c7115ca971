"""Standing on something that moves: the longest shutter before it turns the phone too far."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import replace

from oxlen.core.decisions.exposure.ask import HOLD, is_panned
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.limit import SHUTTER, Concern, EditedField, Limit, LimitKind
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.solver.conflict import Conflict
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.decisions.solver.search import Search
from oxlen.core.decisions.surroundings.ask import SURROUNDINGS, Stand
from oxlen.core.hold.burst import MOST_PAST_STOPS
from oxlen.core.labels import sentence_case, time_label
from oxlen.core.motion.sharpness import circle_of_confusion_um

ON_WORDS: dict[Stand, str] = {
    "boat": "on a boat",
    "bridge": "on a bridge that shakes",
    "vehicle": "in a vehicle",
}


def stand_limit_s(brief: Brief) -> float | None:
    """Longest shutter (s) that the footing leaves sharp; None on firm ground.

    The image runs at f·ω for a turn of ω rad/s, so that t = c/(f·ω). No support helps: it turns
    along. [RAY2002]
    """
    turns = brief[SURROUNDINGS].turns_deg_s
    if turns is None:
        return None
    mode = brief.mode
    circle = float(circle_of_confusion_um(mode.width_px, mode.height_px, mode.pixel_pitch_um))
    return circle / (1000 * brief.lens.focal_mm * math.radians(turns))


def _longest_standing(problem: ExposureProblem) -> Iterable[Limit]:
    brief = problem.brief
    plain = stand_limit_s(brief)
    if plain is None or is_panned(brief):
        return
    turns, stand = brief[SURROUNDINGS].turns_deg_s or 0.0, brief[SURROUNDINGS].stand
    longest = plain * 2.0 ** min(brief[HOLD].risk_stops, MOST_PAST_STOPS)
    on = ON_WORDS[stand]
    yield Limit(
        STANDING,
        SHUTTER,
        None,
        high=longest,
        name=f"sharp {on}",
        high_words=f"{on} it is sharp up to {time_label(longest)}, even on a tripod",
        reason=f"{sentence_case(on)} the phone turns {turns:g}° a second: sharp up to "
        f"{time_label(longest)}, even on a tripod",
        source="Ray, Applied Photographic Optics",
    )


def _firm_ground(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    brief = search.brief
    if conflict is None or brief[SURROUNDINGS].turns_deg_s is None:
        return
    ashore = (
        "ashore, from firm ground" if brief[SURROUNDINGS].stand == "boat" else "from firm ground"
    )
    firm = brief.asking(SURROUNDINGS, replace(brief[SURROUNDINGS], stand="ground"))
    cost = "another place to stand; read the light again there"
    yield Offer("firm_ground", f"Shoot {ashore}", cost, brief=firm, tier=Tier.STEADIER)


STANDING = LimitKind(
    "stand",
    Concern.STANDING,
    _longest_standing,
    edited_by=(EditedField(SURROUNDINGS, ("stand",)), EditedField(SURROUNDINGS, ("stand_deg_s",))),
    ways_out=_firm_ground,
)
