"""The exposure map as data: every pair of steps with what it would mean, nothing left to decide."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from oxlen.core.constants import SNR_ACCEPTABLE, SNR_EXCELLENT
from oxlen.core.decisions.exposure.ask import FORMAT, OUTPUT, glass_stops
from oxlen.core.decisions.framework.limit import Limit
from oxlen.core.decisions.plan import Plan
from oxlen.core.decisions.sequence.ask import frames_averaged
from oxlen.core.decisions.solver.conflict import tightest_bounds
from oxlen.core.decisions.solver.grid import Pairs, is_near
from oxlen.core.decisions.solver.predict import Prediction, predict
from oxlen.core.decisions.solver.snr import iso_ceiling, output_gain, subject_tone_stops
from oxlen.core.kit.ladder import snap
from oxlen.core.labels import shutter_label, stops_label
from oxlen.core.light.exposure import shutter_for_ev100
from oxlen.core.light.placement import headroom_at_iso
from oxlen.core.sensor.noise import darkest_usable_stops
from oxlen.formats.sheet.file import StepsByHand

CONTOUR_STOPS = np.arange(-9.0, 3.01, 0.5)
"""How far off the wanted exposure the noise contours are followed."""


class ShutterStep(BaseModel):
    """A shutter step, its words, and the blur it gives whatever the ISO."""

    value_s: float
    label: str
    blur_px: float
    blur_share: float
    streak_share: float | None


class IsoStep(BaseModel):
    """An ISO step with its ends of the tone rail: clipping, and the tone where SNR is 10."""

    value: float
    label: str
    headroom_stops: float
    floor_stops: float | None


class MapPoint(BaseModel):
    """A place on the map, not necessarily on the steps."""

    shutter_s: float
    iso: float


class Contour(BaseModel):
    """Where the subject has one SNR, brighter pictures on its right."""

    snr: float
    points: list[MapPoint]


class NoiseWord(BaseModel):
    """What people call a picture from an SNR on."""

    from_snr: float
    word: str


NOISE_WORDS = [
    NoiseWord(from_snr=SNR_EXCELLENT, word="clean"),
    NoiseWord(from_snr=SNR_ACCEPTABLE, word="low noise"),
    NoiseWord(from_snr=0.0, word="grainy"),
]


class ExposureMap(BaseModel):
    """Steps, and per pair (rows ISO, columns shutter) residual, SNR, clipping and limits broken.

    `broken` is a bit mask over `limit_ids`; `diagonal` lists [row, column] of the pairs within
    half a step of the wanted exposure, shortest shutter first, `path` the nearest of them for each
    shutter, `planned` and `by_hand` the pair of the slip and the one chosen by hand. `line` is the
    wanted exposure across the map, `open` the stretch of it that every limit leaves.
    """

    shutters: list[ShutterStep]
    isos: list[IsoStep]
    residual_stops: list[list[float]]
    residual_words: dict[str, str]
    snr_subject: list[list[float]]
    noise_words: list[NoiseWord]
    clipped_share: list[list[float]] | None
    clipped_share_most: list[list[float]] | None
    broken: list[list[int]]
    limit_ids: list[str]
    diagonal: list[list[int]]
    path: list[list[int]]
    planned: list[int] | None
    by_hand: list[int] | None
    half_step_stops: float
    line: list[MapPoint] | None
    open: list[MapPoint] | None
    contours: list[Contour]


def exposure_map(plan: Plan, by_hand: StepsByHand | None = None) -> ExposureMap:
    """The map of a plan, with the steps chosen by hand if there are any."""
    search, ladder = plan.search, plan.brief.mode.manual
    shape = (len(ladder.iso), len(ladder.shutter_s))
    limit_ids = list(search.broken)
    bits = sum(
        (search.broken[limit_id].astype(int) << bit for bit, limit_id in enumerate(limit_ids)),
        start=np.zeros(search.pairs.row.shape, dtype=int),
    )
    near = search.pairs.where(is_near(search.pairs, ladder.half_step_stops))
    order = np.lexsort((near.row, near.column))
    predicted = predict(search.problem, search.pairs)
    residual = np.round(search.pairs.residual_stops, 2) + 0.0
    return ExposureMap(
        shutters=_shutter_steps(plan, predicted),
        isos=_iso_steps(plan),
        residual_stops=residual.reshape(shape).tolist(),
        residual_words=_over_under_words(float(np.abs(residual).max())),
        snr_subject=np.round(predicted.snr_subject, 1).reshape(shape).tolist(),
        noise_words=NOISE_WORDS,
        clipped_share=_grid(predicted.clipped_share, shape),
        clipped_share_most=_grid(predicted.clipped_share_most, shape),
        broken=bits.reshape(shape).tolist(),
        limit_ids=limit_ids,
        diagonal=np.column_stack([near.row, near.column])[order].tolist(),
        path=_path(near),
        planned=None if plan.slip is None else _place(plan, plan.slip.iso, plan.slip.shutter_s),
        by_hand=None if by_hand is None else _place(plan, by_hand.iso, by_hand.shutter_s),
        half_step_stops=ladder.half_step_stops,
        line=_stretch(plan, [limit for limit in search.limits if limit.is_device]),
        open=_stretch(plan, search.limits) if plan.window else None,
        contours=_contours(plan),
    )


def _path(near: Pairs) -> list[list[int]]:
    """For each shutter the pair nearest the wanted exposure, shortest first."""
    order = np.lexsort((np.abs(near.residual_stops), near.column))
    columns = near.column[order]
    first = order[np.flatnonzero(np.diff(columns, prepend=-1))]
    path: list[list[int]] = np.column_stack([near.row[first], near.column[first]]).tolist()
    return path


def _place(plan: Plan, iso: float, shutter_s: float) -> list[int]:
    """Row and column of the steps nearest to a pair."""
    ladder = plan.brief.mode.manual
    row = ladder.iso.index(snap(iso, ladder.iso).value)
    return [row, ladder.shutter_s.index(snap(shutter_s, ladder.shutter_s).value)]


def _grid(values: NDArray[np.float64] | None, shape: tuple[int, int]) -> list[list[float]] | None:
    if values is None:
        return None
    grid: list[list[float]] = np.round(values, 4).reshape(shape).tolist()
    return grid


def _stretch(plan: Plan, limits: Sequence[Limit]) -> list[MapPoint] | None:
    """Ends of the wanted exposure between the shutter and ISO bounds of some limits."""
    bounds = tightest_bounds(limits)
    shutter_times_iso = _shutter_times_iso(plan, 0.0)
    shortest = max(bounds.shutter_min.low or 0.0, shutter_times_iso / (bounds.iso_max.high or 1.0))
    longest = min(bounds.shutter_max.high or 0.0, shutter_times_iso / (bounds.iso_min.low or 1.0))
    if shortest > longest:
        return None
    return [
        MapPoint(shutter_s=float(t), iso=float(shutter_times_iso / t)) for t in (shortest, longest)
    ]


def _shutter_times_iso(plan: Plan, brighter_stops: float) -> float:
    """Shutter (s) times ISO of the wanted exposure, or of one brighter, filter counted."""
    dialled = plan.search.aim.ev100 - glass_stops(plan.brief) - brighter_stops
    return float(shutter_for_ev100(dialled, plan.brief.lens.f_number, 1.0))


def _contours(plan: Plan) -> list[Contour]:
    """Lines of one SNR of the subject: the two of ISO 12232, and the floor that was asked for."""
    brief = plan.brief
    subject = subject_tone_stops(plan.search.problem) or 0.0
    wanted = {SNR_ACCEPTABLE, SNR_EXCELLENT, brief[OUTPUT].snr_floor or SNR_ACCEPTABLE}
    return [_contour(plan, snr, subject) for snr in sorted(wanted)]


def _contour(plan: Plan, snr: float, subject_stops: float) -> Contour:
    points = []
    for brighter in CONTOUR_STOPS:
        iso = iso_ceiling(plan.brief, subject_stops + float(brighter), snr)
        if iso > 0:
            shutter_s = _shutter_times_iso(plan, float(brighter)) / iso
            points.append(MapPoint(shutter_s=shutter_s, iso=iso))
    return Contour(snr=snr, points=points)


def _shutter_steps(plan: Plan, predicted: Prediction) -> list[ShutterStep]:
    steps = plan.brief.mode.manual.shutter_s
    streaks = predicted.streak_share
    return [
        ShutterStep(
            value_s=float(t),
            label=shutter_label(float(t)),
            blur_px=round(float(predicted.blur_px[column]), 3),
            blur_share=round(float(predicted.blur_share[column]), 6),
            streak_share=None if streaks is None else round(float(streaks[column]), 4),
        )
        # The first row holds every shutter once, in order.
        for column, t in enumerate(steps)
    ]


def _iso_steps(plan: Plan) -> list[IsoStep]:
    brief, mode = plan.brief, plan.brief.mode
    isos = mode.manual.iso_array
    headroom = mode.headroom_stops(brief[FORMAT])
    tops = np.atleast_1d(headroom_at_iso(headroom, iso=isos, base_iso=mode.sensor.base_iso))
    floors = np.atleast_1d(
        darkest_usable_stops(
            mode.sensor,
            iso=isos,
            read_noise_e=mode.read_noise_at(isos),
            frames=frames_averaged(brief),
            output_gain=output_gain(brief),
        )
    )
    return [
        IsoStep(
            value=float(iso),
            label=f"{iso:g}",
            headroom_stops=float(top),
            floor_stops=None if np.isnan(floor) else float(floor),
        )
        for iso, top, floor in zip(isos, tops, floors, strict=True)
    ]


def _over_under_words(largest: float) -> dict[str, str]:
    """Words for every tenth of a stop over or under, so that dragging can say them."""
    tenths = range(-round(largest * 10), round(largest * 10) + 1)
    return {str(t): _words(t / 10) for t in tenths}


def _words(stops: float) -> str:
    if stops == 0:
        return "on the planned exposure"
    return f"{stops_label(stops)} {'brighter' if stops > 0 else 'darker'} than planned"
