"""Limits of noise: ISO ceilings of the subject and of the darkest detail to keep."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace

from oxlen.core.constants import SNR_ACCEPTABLE
from oxlen.core.decisions.exposure.ask import (
    OUTPUT,
    STRATEGY,
)
from oxlen.core.decisions.framework.brief import KEEP_DARK, Brief
from oxlen.core.decisions.framework.limit import ISO, Concern, EditedField, Limit, LimitKind
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.sequence.ask import frames_averaged
from oxlen.core.decisions.solver.conflict import Conflict
from oxlen.core.decisions.solver.kept import (
    kept_readings,
    with_given_up,
)
from oxlen.core.decisions.solver.outcome import SHOWN_STOPS
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.decisions.solver.search import Search
from oxlen.core.decisions.solver.snr import (
    NO_ISO,
    darkest_tone_stops,
    iso_ceiling,
    subject_tone_stops,
)
from oxlen.core.decisions.solver.tones import is_backdrop, spoken_spot
from oxlen.core.decisions.solving import solved
from oxlen.core.decisions.trade import Trade
from oxlen.core.labels import listed, stops_label, two_digits

WORTH_SNR = 0.97
"""An accepted floor is this much under what the slip reaches, so that rounding keeps it open."""
LEAST_SNR = 0.5


def _subject_ceiling(problem: ExposureProblem) -> Iterable[Limit]:
    """The subject is held to the SNR asked for. [ISO12232]"""
    floor, stops = problem.brief[OUTPUT].snr_floor, subject_tone_stops(problem)
    if floor is not None and stops is not None:
        yield _ceiling(NOISE, problem.brief, "the subject", stops=stops, floor=floor)


def _darkest_ceiling(problem: ExposureProblem) -> Iterable[Limit]:
    """The darkest detail to keep is held to no more than *acceptable*."""
    floor, stops = problem.brief[OUTPUT].snr_floor, darkest_tone_stops(problem)
    if floor is not None and stops is not None and not problem.brief[STRATEGY].grainy_dark:
        lower = min(floor, SNR_ACCEPTABLE)
        yield _ceiling(NOISE_DARK, problem.brief, "the darkest detail", stops=stops, floor=lower)


def _ceiling(kind: LimitKind, brief: Brief, what: str, *, stops: float, floor: float) -> Limit:
    ceiling = iso_ceiling(brief, stops, floor)
    sensor = brief.mode.sensor
    width_px, height_px = brief[OUTPUT].size_px
    return Limit(
        kind,
        ISO,
        None,
        high=ceiling,
        name="clean subject" if kind is NOISE else "clean shadows",
        high_words=f"keeping {what} clean allows {_short_iso_words(ceiling)}",
        reason=f"{what[0].upper()}{what[1:]}: SNR {floor:g} at {width_px:g} × {height_px:g} "
        f"{_iso_words(ceiling)}",
        source="ISO 12232 noise criteria",
        computation="snr_mid_and_tone",
        inputs={
            "full_well": sensor.full_well_e,
            "base_iso": sensor.base_iso,
            "iso": ceiling,
            "headroom": sensor.headroom_raw_stops,
            "read_noise": float(brief.mode.read_noise_at(ceiling)),
            "prnu": sensor.prnu_share,
            "k": min(stops, sensor.headroom_raw_stops),
            "M": frames_averaged(brief),
        },
    )


def _short_iso_words(iso: float) -> str:
    return f"ISO {iso:.2g}" if iso < 100 else f"ISO {round(iso, -1):g}"


def _iso_words(iso: float) -> str:
    if iso <= NO_ISO:
        return "at no ISO: the sensor's fixed pattern alone is too strong"
    return f"up to ISO {iso:.2g}" if iso < 100 else f"up to ISO {round(iso, -1):g}"


def _any_noise(brief: Brief, _: int = 0) -> Brief:
    return brief.asking(OUTPUT, replace(brief[OUTPUT], snr="any"))


def _accept_noise(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """First without a floor, then with just the floor that needs."""
    brief, output = search.brief, search.brief[OUTPUT]
    wanted = output.snr_floor
    if conflict is None or wanted is None:
        return
    trial = solved(Offer("", "", "", brief=_any_noise(brief), tier=Tier.ACCEPTING), search)
    if trial is None:
        return
    figures = (trial.figures.snr_subject, trial.figures.snr_dark or trial.figures.snr_subject)
    floor = max(LEAST_SNR, round(min(figures) * WORTH_SNR, 1))
    if floor >= wanted:
        return

    def reworded(trade: Trade) -> Trade:
        return replace(trade, cost=f"ISO {trade.slip.iso:g}; you asked for SNR {wanted:g}")

    accepted = brief.asking(OUTPUT, replace(output, snr=floor))
    text = f"Accept noise up to SNR {floor:g}"
    yield Offer("accept_noise", text, "", brief=accepted, tier=Tier.ACCEPTING, reword=reworded)


def _floor_in_force(brief: Brief, _: int) -> float:
    return brief[OUTPUT].snr_floor or SNR_ACCEPTABLE


def _let_dark_go(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """The darkest detail grainy, or black: it never decides over all the rest."""
    brief = search.brief
    dark = [reading for reading in kept_readings(brief) if reading.role == KEEP_DARK]
    dark = [placed for placed in dark if not is_backdrop(brief, placed)]
    if conflict is None or not dark or len(dark) == len(kept_readings(brief)):
        return
    name = listed([spoken_spot(placed) for placed in dark])
    if any(limit.kind is NOISE_DARK for limit in search.limits):
        grainy = brief.asking(STRATEGY, replace(brief[STRATEGY], grainy_dark=True))
        yield Offer(
            "grainy",
            f"Let {name} be noisy",
            "",
            brief=grainy,
            tier=Tier.GIVING_UP,
            reword=_grainy_reworded,
        )
    yield Offer(
        "black",
        f"Let {name} go black",
        "",
        brief=with_given_up(brief, *dark),
        tier=Tier.GIVING_UP,
        reword=_black_reworded,
    )


def _grainy_reworded(trade: Trade) -> Trade:
    snr = trade.figures.snr_dark
    cost = "" if snr is None else f"SNR {two_digits(snr)} there, {SNR_ACCEPTABLE:g} looks clean"
    return replace(trade, cost=cost)


def _black_reworded(trade: Trade) -> Trade | None:
    """How dark the darkest lands; not offered where it keeps its tone all the same."""
    spots = [spot_outcome for spot_outcome in trade.outcome if spot_outcome.role == KEEP_DARK]
    worst = min(spots, key=lambda spot: spot.misses_stops)
    if worst.misses_stops > -SHOWN_STOPS:
        return replace(trade, cost="its noise is not limited")
    by = stops_label(worst.misses_stops)
    return replace(trade, cost=f"{by} darker than wanted, no reliable detail")


_EDITED = (EditedField(OUTPUT, ("snr",), _floor_in_force),)
NOISE = LimitKind(
    "noise",
    Concern.NOISE,
    _subject_ceiling,
    edited_by=_EDITED,
    dropped=_any_noise,
    accepted=_accept_noise,
)
NOISE_DARK = LimitKind(
    "noise_dark",
    Concern.NOISE,
    _darkest_ceiling,
    edited_by=_EDITED,
    dropped=lambda brief, _: brief.asking(STRATEGY, replace(brief[STRATEGY], grainy_dark=True)),
    accepted=_let_dark_go,
)
