"""The frontier between blur and noise: a few distinct slips, and the nearest when nothing fits."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oxlen.core.decisions.exposure.ask import glass_stops
from oxlen.core.decisions.solver.grid import Pairs, broken_masks, excess_stops, pair_off_ladder
from oxlen.core.decisions.solver.predict import Prediction, predict
from oxlen.core.decisions.solver.search import ExposureSlip, Search

MOST_ALTERNATIVES = 5
EVENLY = np.arange(MOST_ALTERNATIVES) / (MOST_ALTERNATIVES - 1)
"""Places of the alternatives between both ends, as shares of the way."""
MATTERS_STOPS = 0.01


@dataclass(frozen=True)
class Figures:
    """What one slip will give; see `Prediction`."""

    blur_px: float
    blur_share: float
    hand_px: float
    motion_px: float
    streak_share: float | None
    snr_subject: float
    snr_dark: float | None
    clipped_share: float | None


@dataclass(frozen=True)
class Alternative:
    """A slip on the frontier, its figures, and the limits it breaks."""

    slip: ExposureSlip
    figures: Figures
    broken: tuple[str, ...]


@dataclass(frozen=True)
class Compromise:
    """The slip that gives up least when every pair breaks something, and what it gives up."""

    slip: ExposureSlip
    gives_up_stops: dict[str, float]


def alternatives(search: Search) -> tuple[Alternative, ...]:
    """Three to five slips from least blur to least noise along the wanted exposure.

    Among the open pairs; when there are none, among all near the aim, with what they break.
    """
    pairs = search.open if search.open.row.size else search.near
    chosen = _spread(_one_per_shutter(pairs))
    if not chosen.row.size:
        return ()
    predicted = predict(search.problem, chosen)
    broken = broken_masks(search.limits, chosen)
    return tuple(
        Alternative(
            _slip(search, chosen.at(index)),
            figures_at(predicted, index),
            tuple(limit_id for limit_id, flags in broken.items() if flags[index]),
        )
        for index in range(chosen.row.size)
    )


def compromise(search: Search) -> Compromise | None:
    """The pair with the least total of stops beyond limits and off the aim.

    Among those that leave a picture at all; None where every one would spoil it.
    """
    pairs = search.pairs.where(search.bearable)
    if not pairs.row.size:
        return None
    beyond = [np.maximum(0.0, excess_stops(limit, pairs)) for limit in search.limits]
    given_up = np.where(np.isfinite(beyond), beyond, 0.0)
    total = given_up.sum(axis=0) + np.abs(pairs.residual_stops)
    index = int(np.lexsort((pairs.log_iso, np.round(total, 6)))[0])
    gives_up = {
        limit.id: float(stops[index])
        for limit, stops in zip(search.limits, given_up, strict=True)
        if stops[index] > MATTERS_STOPS
    }
    return Compromise(_slip(search, pairs.at(index)), gives_up)


def figures_at(prediction: Prediction, index: int) -> Figures:
    """The figures of one pair of a prediction."""

    def one(values: np.typing.NDArray[np.float64] | None) -> float | None:
        return None if values is None else float(values[index])

    return Figures(
        float(prediction.blur_px[index]),
        float(prediction.blur_share[index]),
        float(prediction.hand_px[index]),
        motion_px=float(prediction.motion_px[index]),
        streak_share=one(prediction.streak_share),
        snr_subject=float(prediction.snr_subject[index]),
        snr_dark=one(prediction.snr_dark),
        clipped_share=one(prediction.clipped_share),
    )


def figures_of_steps(search: Search, iso: float, shutter_s: float) -> Figures:
    """What any ISO and shutter (s) will give, on the phone's manual ladders or off them."""
    brief, aim = search.brief, search.aim
    pair = pair_off_ladder(
        iso,
        shutter_s,
        f_number=brief.lens.f_number,
        wanted_ev100=aim.ev100,
        glass_stops=glass_stops(brief),
    )
    return figures_at(predict(search.problem, pair), 0)


def _one_per_shutter(pairs: Pairs) -> Pairs:
    """For each shutter the ISO nearest the aim, shortest shutter first."""
    order = np.lexsort((np.abs(pairs.residual_stops), pairs.column))
    columns = pairs.column[order]
    first = np.ones(columns.size, dtype=bool)
    first[1:] = columns[1:] != columns[:-1]
    index = order[first]
    return Pairs(*(values[index] for values in vars(pairs).values()))


def _spread(pairs: Pairs) -> Pairs:
    """At most five pairs, evenly spread in stops of shutter, ends included."""
    count = pairs.row.size
    if count <= MOST_ALTERNATIVES:
        return pairs
    shortest, longest = pairs.log_shutter[0], pairs.log_shutter[-1]
    wanted = shortest + (longest - shortest) * EVENLY
    nearest = np.abs(pairs.log_shutter[:, None] - wanted).argmin(axis=0)
    index = np.asarray(sorted(set(nearest.tolist())))
    return Pairs(*(values[index] for values in vars(pairs).values()))


def _slip(search: Search, pair: Pairs) -> ExposureSlip:
    slip = search.slip(pair)
    assert slip is not None
    return slip
