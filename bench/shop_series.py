"""Planted mistakes in simulated shop series: how many are found, named, and how many made up.

`python -m bench.shop_series [SERIES]`.
"""

from __future__ import annotations

import sys
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from typing import get_args

import numpy as np

from bench.harness.measure import Figure, Figures
from oxlen.core.light.meter import Spot
from oxlen.core.series.comparing import Reason, SeriesDifference, series_difference
from oxlen.core.series.look import series_look
from oxlen.devices.standins.bench_series import GREY_PATCH, Bench, Mistake

SERIES, TAKES = 40, 20
MISTAKE_SHARE = 0.4
KINDS: tuple[Reason, ...] = ("exposure", "colour", "tilt", "scale", "sharpness", "clipped", "shift")
GREY = Spot("grey", GREY_PATCH[0], GREY_PATCH[1], r=GREY_PATCH[2])


@dataclass(frozen=True)
class ShopTake:
    """A take: what was planted in it (None: nothing), and what was found."""

    planted: Reason | None
    mistake: Mistake
    found: SeriesDifference


def planted(draw: np.random.Generator, kind: Reason) -> Mistake:
    """A mistake that a buyer would see, just over the threshold or far beyond it."""
    sign = float(draw.choice((-1.0, 1.0)))
    if kind == "exposure":
        return Mistake(stops=sign * draw.uniform(0.15, 1.0))
    if kind == "colour":
        return Mistake(mired=sign * draw.uniform(10.0, 60.0))
    if kind == "tilt":
        return Mistake(tilt_deg=sign * draw.uniform(1.0, 3.0))
    if kind == "scale":
        return Mistake(scale=1 + sign * draw.uniform(0.03, 0.1))
    if kind == "sharpness":
        return Mistake(blur_px=draw.uniform(1.2, 4.0))
    if kind == "clipped":
        return Mistake(gloss=draw.uniform(0.12, 0.3))
    return Mistake(shift=sign * draw.uniform(0.05, 0.12))


def series(seed: int, *, has_card: bool) -> Iterator[ShopTake]:
    """One series: the first take is the reference, some of the others have one mistake."""
    draw = np.random.default_rng(seed)
    bench, grey = Bench(seed), GREY if has_card else None
    reference = series_look(bench.take(0), grey)
    for number in range(1, TAKES):
        kind = KINDS[int(draw.integers(len(KINDS)))] if draw.random() < MISTAKE_SHARE else None
        mistake = Mistake() if kind is None else planted(draw, kind)
        look = series_look(bench.take(number, mistake), grey)
        yield ShopTake(kind, mistake, series_difference(look, reference))


def takes(count: int) -> list[ShopTake]:
    """Every take of so many series, with and without a grey card in turn."""
    return [take for seed in range(count) for take in series(5000 + seed, has_card=seed % 2 == 0)]


def figures() -> Figures:
    """Mistakes missed or misnamed, and good takes called off, in percent."""
    found = takes(SERIES)
    wrong = [take for take in found if take.planted]
    right = [take for take in found if not take.planted]
    missed = sum(take.found.verdict != "off" for take in wrong) / len(wrong)
    misnamed = sum(take.planted not in take.found.reasons for take in wrong) / len(wrong)
    alarms = sum(take.found.verdict != "matches" for take in right) / len(right)
    yield Figure("shop-series/missed-%", 100 * missed)
    yield Figure("shop-series/misnamed-%", 100 * misnamed)
    yield Figure("shop-series/false-alarms-%", 100 * alarms)


def main() -> int:
    """By kind: how many were planted, found, and named; what good takes were called off for."""
    found = takes(int(sys.argv[1]) if len(sys.argv) > 1 else SERIES)
    for kind in get_args(Reason):
        of_kind = [take for take in found if take.planted == kind]
        if of_kind:
            off = sum(take.found.verdict == "off" for take in of_kind)
            named = sum(kind in take.found.reasons for take in of_kind)
            more = Counter(r for take in of_kind for r in take.found.reasons if r != kind)
            print(f"{kind}: {len(of_kind)} planted, {off} found, {named} named; also {dict(more)}")
    right = [take for take in found if not take.planted]
    alarms = Counter(reason for take in right for reason in take.found.reasons)
    judged = sum(take.found.verdict != "matches" for take in right)
    print(f"good: {len(right)}, called off or not judged: {judged} {dict(alarms)}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
