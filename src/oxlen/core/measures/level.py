"""Meter offset, the kelvin dial and the weight of files: means of a few readings."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.measures.measured import Figure, Measured, Plot, Series

Numbers = NDArray[np.float64]
MOST_OFFSET_STOPS, MOST_DIAL_MIRED = 2.0, 60.0
CAST_DOUBT_MIRED = 3.5
"""A cast in a processed file is known no better than this, and less the larger it is."""
LEVEL_DOUBT_STOPS = 0.03
"""A patch's level in a processed file is known no better."""


def meter_offset(
    read_ev100: Sequence[float], known_ev100: float, known_plus_minus_stops: float
) -> Measured:
    """What the phone's readings lack to the light that is known, in stops. [ISO2720]

    `read_ev100` are readings of a grey card from its pictures, without any offset.
    """
    values = _some(read_ev100)
    offset = known_ev100 - float(values.mean())
    doubt = math.hypot(known_plus_minus_stops, _of_mean(values), LEVEL_DOUBT_STOPS)
    doubts = []
    if abs(offset) > MOST_OFFSET_STOPS:
        doubts.append(
            f"{offset:+.1f} stops is a lot. Was the card in the same light and the spot only on "
            "the card?"
        )
    return Measured(
        (Figure("meter_offset_stops", offset, doubt, unit="stops"),),
        f"Its pictures read {abs(offset):.2f} stop{'s' if abs(offset) >= 1.995 else ''} "
        f"{'less' if offset > 0 else 'more'} light than the meter.",
        plot=_dots("light read, EV100", values, known_ev100),
        doubts=tuple(doubts),
    )


def kelvin_dial(casts_mired: Sequence[float], expected_mired: Sequence[float]) -> Measured:
    """How far the dial is off, in mired: casts seen on grey less those its setting should give.

    Positive where the dial's number renders warmer than it says.
    """
    values = _some([a - b for a, b in zip(casts_mired, expected_mired, strict=True)])
    off = float(values.mean())
    doubt = math.hypot(_of_mean(values), CAST_DOUBT_MIRED)
    doubts = []
    if abs(off) > MOST_DIAL_MIRED:
        doubts.append(f"{off:+.0f} mired is a lot. Is the lamp's kelvin value certain?")
    return Measured(
        (Figure("white.offset_mired", off, doubt, unit="mired"),),
        f"The dial is {abs(off):.0f} mired {'warmer' if off > 0 else 'colder'} than it shows.",
        plot=_dots("dial's error, mired", values, 0.0),
        doubts=tuple(doubts),
    )


def file_weight(megabytes: Sequence[float], *, kind: str) -> Measured:
    """Megabytes of a frame: the middle one of several, and how they spread."""
    values = _some(megabytes)
    middle = float(np.median(values))
    return Measured(
        (Figure(f"files.{kind}_mb", middle, _of_the_next(values), unit="MB"),),
        f"A {'RAW' if kind == 'raw' else 'processed'} frame has {middle:.1f} MB.",
        plot=_dots("MB", values, middle),
    )


def battery(start_percent: float, end_percent: float, minutes: float) -> Measured:
    """Battery in percent a minute of shooting; phones tell their charge in whole percent."""
    used = start_percent - end_percent
    if used <= 0 or minutes <= 0:
        raise BadInput("The battery level must drop during the measurement.", "battery")
    rate = used / minutes
    return Measured(
        (Figure("handling.battery_percent_per_min", rate, 1 / minutes, unit="%/min"),),
        f"Shooting uses {rate:.2g} % a minute. A full battery lasts {100 / rate:.0f} min.",
        plot=Plot(
            "minutes", "charge, %", (Series("charge", (0, minutes), (start_percent, end_percent)),)
        ),
    )


def _some(values: Sequence[float]) -> np.ndarray[tuple[int], np.dtype[np.float64]]:
    if not values:
        raise BadInput("Add pictures to measure.", "files")
    return np.asarray(values, dtype=np.float64)


def _of_mean(values: np.ndarray[tuple[int], np.dtype[np.float64]]) -> float:
    """Twice the standard error of a mean; of one reading alone nothing is known."""
    return 2 * float(values.std(ddof=1)) / math.sqrt(values.size) if values.size > 1 else 0.0


def _of_the_next(values: Numbers) -> float:
    """How far the next one may be off their middle: nineteen in twenty, of a few. [JCGM100]"""
    few = values.size
    if few < 2:
        return 0.0
    return float(values.std(ddof=1) * _student_t(few - 1) * math.sqrt(1 + 1 / few))


def _student_t(freedom: int) -> float:
    """Half-width of Student's t that holds nineteen in twenty, in spreads. [ABRAMOWITZ1964]

    Their 26.7.5: 4 % short with three degrees of freedom, 10 % with two, nearly half with one.
    """
    z = 1.959964
    first = (z**3 + z) / (4 * freedom)
    second = (5 * z**5 + 16 * z**3 + 3 * z) / (96 * freedom**2)
    return float(z + first + second)


def _dots(y_label: str, values: Numbers, level: float) -> Plot:
    count = tuple(float(k + 1) for k in range(len(values)))
    line = Series("", (1.0, float(len(values))), (level, level), is_line=True)
    return Plot("picture", y_label, (Series("readings", count, tuple(values.tolist())), line))
