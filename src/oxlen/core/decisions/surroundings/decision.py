"""The surroundings: nothing to dial, but what must be minded, and what cannot be done there."""

from __future__ import annotations

from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.decision import Decision
from oxlen.core.decisions.framework.setting import Setting
from oxlen.core.decisions.surroundings.ask import SURROUNDINGS
from oxlen.core.decisions.surroundings.offers import glare_offers
from oxlen.core.decisions.surroundings.standing import STANDING
from oxlen.core.decisions.upstream import Upstream


def decide(_: Brief, __: Upstream) -> tuple[Setting, ...]:
    """No line of its own: cautions are not settings."""
    return ()


DECISION = Decision(
    "surroundings", (SURROUNDINGS,), decide, limit_kinds=(STANDING,), offers=glare_offers
)
