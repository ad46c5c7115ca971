"""The decision alone, and over HTTP at 20 requests a second on loopback."""

from __future__ import annotations

import statistics
import time
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

import httpx
from tests.core.asking import ask_brief
from tests.core.random_briefs import random_brief

from bench.harness.measure import Figure, Figures, Ratio, in_turns, median_ratio, ratio_of, seconds
from bench.harness.reference import pure_python
from bench.harness.serving import serving
from oxlen.core.decisions.framework.brief import Brief, PlacedReading
from oxlen.core.decisions.plan import plan
from oxlen.formats.phone.shipped import shipped_profile

REQUESTS, PER_SECOND = 150, 20
BRIEFS = 500
FITS = {
    "phone": "wherry-3",
    "readings": [{"role": "subject", "ev100": 5}, {"role": "keep-bright", "ev100": 7}],
}
COLLIDES = {
    "phone": "wherry-3",
    "readings": [{"role": "subject", "ev100": 5}, {"role": "keep-bright", "ev100": 9}],
}


def figures() -> Figures:
    """What is measured."""
    phone = shipped_profile("wherry-3").to_phone()
    readings = (PlacedReading("subject", 5.0), PlacedReading("keep-bright", 7.0))
    brief = ask_brief(phone, readings=readings)
    ratio = in_turns(lambda: _planned(brief), pure_python, rounds=300)
    yield ratio.figure("deciding/plain-by-python")
    yield from _every_limit()
    yield from _over_http()


def _every_limit() -> Figures:
    """The briefs the tests go through: those that fit alone, then all with every way out."""
    briefs = [random_brief(seed, lens_id=None) for seed in range(BRIEFS)]
    fit = [brief for brief in briefs if plan(brief).conflict is None]
    alone = [_by_python(brief, ask=False) for brief in fit]
    yield _middle(alone).figure("deciding/fitting-by-python")
    every = [_by_python(brief, ask=True) for brief in briefs]
    yield _middle(every).figure("deciding/every-way-out-by-python")
    worst = max(every, key=lambda point: point.value)
    yield worst.figure("deciding/worst-by-python")


def _planned(brief: Brief, *, ask: bool = False) -> None:
    """Plan with nothing remembered of the brief."""
    plan(replace(brief), ask=ask).trades  # noqa: B018 - they are looked for when first read


def _by_python(brief: Brief, *, ask: bool) -> Ratio:
    """The best of three in turn: a hiccup is not the brief's."""
    pairs = [(seconds(lambda: _planned(brief, ask=ask)), seconds(pure_python)) for _ in range(3)]
    return ratio_of(pairs)


def _middle(found: list[Ratio]) -> Ratio:
    """The median of some ratios, and how far the machine's own work wavered meanwhile."""
    references = sorted(ratio.reference_ms for ratio in found)
    quarter = len(references) // 4
    reference = statistics.median(references)
    spread = (references[-1 - quarter] - references[quarter]) / reference
    return Ratio(statistics.median(ratio.value for ratio in found), spread, reference)


def _over_http() -> Figures:
    """Against the app in a process of its own, as people run it."""
    with serving() as url:
        fits, constants = _ask(url, FITS)
        yield median_ratio(fits, constants).figure("deciding/http-by-constant")
        collides, constants = _ask(url, COLLIDES)
        yield median_ratio(collides, constants).figure("deciding/http-ways-by-constant")
        slow = statistics.quantiles(fits, n=100)[98] / statistics.median(fits)
        yield Figure("deciding/http-slowest-by-median", slow, spread=0.0)


def _ask(url: str, brief: Mapping[str, Any]) -> tuple[list[float], list[float]]:
    """Seconds of a bounded, steady run: plans at 20 a second, a constant answer after each."""
    plans: list[float] = []
    constants: list[float] = []
    with httpx.Client(base_url=url) as client:
        client.post("/api/plan", json=brief)
        for _ in range(REQUESTS):
            started = time.perf_counter()
            client.post("/api/plan", json=brief).raise_for_status()
            planned = time.perf_counter()
            time.sleep(0.5 / PER_SECOND)
            asked = time.perf_counter()
            client.get("/api/tones").raise_for_status()
            answered = time.perf_counter()
            plans.append(planned - started)
            constants.append(answered - asked)
            time.sleep(max(0.0, 1 / PER_SECOND - (answered - started)))
    return plans, constants
