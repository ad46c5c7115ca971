"""Registry entries of holding still, and of the phone's steps."""

from __future__ import annotations

from typing import Any

from oxlen.core.compute.computation import Computation
from oxlen.core.hold import hand
from oxlen.core.hold.keeper import fit_keepers
from oxlen.core.kit.ladder import snap


def _hand(f35: float, stab: float) -> dict[str, Any]:
    return {"t_max": hand.hand_limit_s(f35, stab)}


def _keep_one(q: float, n: float) -> dict[str, Any]:
    return {"p": hand.keep_one_of(q, n)}


def _burst(q: float, p: float) -> dict[str, Any]:
    return {"n": hand.burst_size_needed(q, p)}


def _keepers(t: list[float], f35: list[float], kept: list[float]) -> dict[str, Any]:
    fit = fit_keepers(t, f35, [int(k) if k in (0, 1) else -1 for k in kept])
    if fit is None:
        return {"a": None, "b": None, "x90": None, "t90_at_first_f35": None}
    return {
        "a": fit.a,
        "b": fit.b_per_stop,
        "x90": fit.x90,
        "t90_at_first_f35": fit.limit_s(f35[0]),
    }


def _snap(wanted: float, ladder: list[float]) -> dict[str, Any]:
    found = snap(wanted, ladder)
    return {"value": found.value, "residual_stops": found.residual_stops}


HOLD: tuple[Computation, ...] = (
    Computation(
        "handheld_limit",
        "Longest shutter a hand holds still",
        "t_max = 2^stab/f35",
        source="handheld rule: Ray, Applied Photographic Optics; stabiliser stops as CIPA DC-011",
        inputs={"f35": "mm (35 mm equivalent)", "stab": "stops"},
        outputs={"t_max": "s"},
        work=_hand,
    ),
    Computation(
        "keep_one_of_n",
        "Chance of at least one sharp frame in a burst",
        "P = 1 − (1 − q)^n",
        source="binomial distribution",
        inputs={"q": "share sharp", "n": "frames"},
        outputs={"p": "share"},
        work=_keep_one,
    ),
    Computation(
        "burst_size_needed",
        "Frames needed for one to be sharp",
        "smallest n with 1 − (1 − q)^n ≥ p",
        source="binomial distribution",
        inputs={"q": "share sharp", "p": "wanted share"},
        outputs={"n": "frames"},
        work=_burst,
    ),
    Computation(
        "logistic_keeper",
        "Your own hand limit, from past takes",
        "P(kept) = 1/(1 + exp(−(a + b·x))), x = log2(t·f35); x90 = (ln 9 − a)/b",
        source="logistic regression by maximum likelihood (Cox 1958)",
        inputs={"t": "list of s", "f35": "list of mm", "kept": "list of 0/1"},
        outputs={"a": "-", "b": "per stop", "x90": "log2(s mm)", "t90_at_first_f35": "s"},
        work=_keepers,
    ),
)

STEPS: tuple[Computation, ...] = (
    Computation(
        "ladder_snap",
        "Nearest step the phone offers",
        "least |log2(step/wanted)|; residual = log2(step/wanted)",
        source="phone profile",
        inputs={"wanted": "s or ISO", "ladder": "list"},
        outputs={"value": "as wanted", "residual_stops": "stops"},
        work=_snap,
    ),
)
