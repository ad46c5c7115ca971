"""Taking a trade or a lens: what it changes in the sheet, from the difference of two briefs."""

from __future__ import annotations

from typing import Any

from oxlen.core.ask import plain
from oxlen.core.decisions import all_asks
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.trade import Trade

Patch = dict[str, Any]
"""Fields of the sheet's body with their new values; whatever is not named stays."""
STEPS_BY_HAND = "steps_by_hand"
LIGHT_SHIFT = "light_shift_stops"


def trade_patch(trade: Trade, before: Brief) -> Patch:
    """What taking a trade changes in the sheet it was offered on; nothing for one done outside."""
    if trade.outside:
        return {}
    return changes(before, trade.brief)


def changes(before: Brief, after: Brief) -> Patch:
    """The fields of a sheet's body for what differs between two briefs of it."""
    patch: Patch = {ask.name: plain(after[ask]) for ask in all_asks() if after[ask] != before[ask]}
    if after.light_shift_stops != before.light_shift_stops:
        patch[LIGHT_SHIFT] = round(after.light_shift_stops, 2)
    return {**patch, STEPS_BY_HAND: None}
