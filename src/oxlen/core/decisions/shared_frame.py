"""Several exposures in one frame: what each of them needs, by the rule that puts them together."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from oxlen.core.decisions.plan import Plan
from oxlen.core.errors import BadInput
from oxlen.core.frames.combine import Combine

FEWEST, MOST = 2, 9
LEAST_SHARE = 0.001
"""Ten stops under the others: less of one exposure is not seen in the picture."""
RULES: tuple[Combine, ...] = ("add", "mean", "lighten", "darken")
RULE_WORDS: Mapping[Combine, str] = {
    "add": "Each frame adds its share of the light",
    "mean": "Frames with equal shares get the full exposure, larger shares a longer one",
    "lighten": "Each frame is exposed in full on a dark ground; the lighter of each place stays",
    "darken": "Each frame is exposed in full on a bright ground; the darker of each place stays",
}


@dataclass(frozen=True)
class OneExposure:
    """One of the exposures: its share of the whole, how far under one frame, and its steps.

    `residual_stops` is how much lighter the phone's step makes it than asked.
    """

    share: float
    stops: float
    iso: float
    shutter_s: float
    residual_stops: float


def shared_exposures(
    decided: Plan, rule: Combine, weights: Sequence[float]
) -> tuple[OneExposure, ...]:
    """What each of several exposures is dialled at, on the phone's steps.

    `weights` are the shares as numbers of any size. Where light is added each frame is darker by
    its share; averaged, by its share against an equal one; by the other rules each is exposed in
    full. BadInput for fewer than 2 or more than 9, a weight under a thousandth of all, or a sheet
    without a slip.
    """
    if not FEWEST <= len(weights) <= MOST:
        raise BadInput(f"Use {FEWEST} to {MOST} exposures.", "weights")
    if rule not in RULES:
        raise BadInput("Choose add, average, lighten or darken.", "rule")
    if min(weights) <= 0:
        raise BadInput("Enter a share of light for every exposure.", "weights")
    if decided.slip is None:
        raise BadInput("This sheet has no slip yet.", "readings")
    total = math.fsum(weights)
    if min(weights) < LEAST_SHARE * total:
        raise BadInput("Each exposure needs at least 1/1000 of the light.", "weights")
    even = 1 / len(weights)
    return tuple(_exposure(decided, rule, weight / total, even=even) for weight in weights)


def _exposure(decided: Plan, rule: Combine, share: float, *, even: float) -> OneExposure:
    slip, ladder = decided.slip, decided.brief.mode.manual
    assert slip is not None  # asked before
    stops = {"add": math.log2(share), "mean": math.log2(share / even)}.get(rule, 0.0)
    wanted_s = slip.shutter_s * 2.0**stops
    # A shutter gives the finest steps; where it ends the ISO has to give way.
    shutter_s = min(ladder.shutter_s, key=lambda step_s: abs(math.log2(step_s / wanted_s)))
    iso = slip.iso
    left = math.log2(wanted_s / shutter_s)
    if abs(left) > ladder.half_step_stops:
        iso = min(ladder.iso, key=lambda step: abs(math.log2(step / slip.iso) - left))
    off = math.log2(shutter_s * iso / (wanted_s * slip.iso))
    return OneExposure(share, stops, iso, shutter_s=shutter_s, residual_stops=off)
