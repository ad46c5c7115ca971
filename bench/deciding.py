"""The decision alone, and over HTTP at 20 requests a second on loopback."""

from __future__ import annotations

import statistics
import time
from collections.abc import Iterator

import httpx
from tests.core.asking import ask_brief
from tests.core.random_briefs import random_brief

from bench.measure import best_ms
from bench.serving import serving
from oxlen.core.decisions.brief import Brief, PlacedReading
from oxlen.core.decisions.plan import plan
from oxlen.formats.shipped_phones import shipped_profile

REQUESTS, PER_SECOND = 300, 20
BRIEFS = 500
BRIEF = {
    "phone": "wherry-3",
    "readings": [{"role": "subject", "ev100": 5}, {"role": "keep-bright", "ev100": 9}],
}


def figures() -> Iterator[tuple[str, float, float]]:
    """(name, milliseconds measured, milliseconds wanted at most)."""
    phone = shipped_profile("wherry-3").to_phone()
    readings = (PlacedReading("subject", 5.0), PlacedReading("keep-bright", 7.0))
    brief = ask_brief(phone, readings=readings)
    times = [_plan_ms(brief, rounds=1) for _ in range(200)]
    yield "decision of a plain brief, median ms", statistics.median(times), 2.0
    yield from _every_limit()
    yield from _over_http()


def _every_limit() -> Iterator[tuple[str, float, float]]:
    """The briefs the tests go through: those that fit alone, then all with every way out."""
    briefs = [random_brief(seed, lens_id=None) for seed in range(BRIEFS)]
    fit = [_plan_ms(brief) for brief in briefs if plan(brief).conflict is None]
    name = f"every line of the slip of the {len(fit)} briefs that fit, median ms"
    yield name, statistics.median(fit), 3.0
    times = [_plan_ms(brief, ask=True) for brief in briefs]
    yield f"full solve of {BRIEFS} briefs, median ms", statistics.median(times), 16.0
    yield f"full solve of {BRIEFS} briefs, worst ms", max(times), 250.0


def _plan_ms(brief: Brief, *, ask: bool = False, rounds: int = 3) -> float:
    """The best of some in turn, nothing remembered of the brief: a hiccup is not the brief's."""

    def once() -> None:
        brief.worked.clear()
        plan(brief, ask=ask).trades  # noqa: B018 - they are looked for when first read

    return best_ms(once, rounds=rounds)[0]


def _over_http() -> Iterator[tuple[str, float, float]]:
    """Against the app in a process of its own, as people run it."""
    with serving() as url:
        plans, constants = _ask(url)
    # The constant answer shows what the machine itself does at such moments.
    note = f"(a constant answer: {_share(constants, 0.99):.1f} ms)"
    yield f"plan over HTTP at 20 a second, p99 ms {note}", _share(plans, 0.99), 15.0
    ratio = _share(plans, 0.5) / _share(constants, 0.5)
    yield "plan over HTTP / a constant answer, medians", ratio, 3.0


def _ask(url: str) -> tuple[list[float], list[float]]:
    """Times in ms of a bounded, steady run: plans at 20 a second, a constant answer after each."""
    plans: list[float] = []
    constants: list[float] = []
    with httpx.Client(base_url=url) as client:
        client.post("/api/plan", json=BRIEF)
        for _ in range(REQUESTS):
            started = time.perf_counter()
            client.post("/api/plan", json=BRIEF).raise_for_status()
            planned = time.perf_counter()
            time.sleep(0.5 / PER_SECOND)
            asked = time.perf_counter()
            client.get("/api/tones").raise_for_status()
            answered = time.perf_counter()
            plans.append((planned - started) * 1000)
            constants.append((answered - asked) * 1000)
            time.sleep(max(0.0, 1 / PER_SECOND - (answered - started)))
    return plans, constants


def _share(times: list[float], share: float) -> float:
    """The time under which a share of the answers came."""
    return sorted(times)[int(len(times) * share)]
