"""How the settings of takes differ from those of the first, in words."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from oxlen.core.labels import shutter_label, signed, stops_label

SAME_STOPS = 0.05


@dataclass(frozen=True)
class TakenWith:
    """What a take was shot with; None where its file does not say."""

    iso: float | None = None
    shutter_s: float | None = None
    f_number: float | None = None
    white_k: float | None = None
    lens: str = ""
    is_raw_too: bool = False


def differences(first: TakenWith, other: TakenWith) -> list[str]:
    """What was set differently than for the first; empty where nothing was.

    >>> differences(TakenWith(50, 0.01), TakenWith(100, 0.01))
    ['ISO 100 instead of 50: 1.0 stop more', 'Total: 1.0 stop brighter']
    """
    return list(_differences(first, other))


def _differences(first: TakenWith, other: TakenWith) -> Iterator[str]:
    if other.lens and first.lens and other.lens != first.lens:
        yield f"{other.lens} instead of {first.lens}"
    steps = (
        ("ISO", first.iso, other.iso, "{:g}".format),
        ("", first.shutter_s, other.shutter_s, shutter_label),
    )
    brighter = 0.0
    for name, first_value, two, label in steps:
        if first_value is None or two is None:
            continue
        stops = math.log2(two / first_value)
        if abs(stops) >= SAME_STOPS:
            brighter += stops
            more = "more" if stops > 0 else "less"
            how = f"{stops_label(stops)} {more}"
            yield f"{name} {label(two)} instead of {label(first_value)}: {how}".strip()
    if first.f_number and other.f_number and first.f_number != other.f_number:
        stops = 2 * math.log2(first.f_number / other.f_number)
        brighter += stops
        yield f"f/{other.f_number:g} instead of f/{first.f_number:g}: {signed(stops)} stops"
    if abs(brighter) >= SAME_STOPS:
        yield f"Total: {stops_label(brighter)} {'brighter' if brighter > 0 else 'darker'}"
    if first.white_k and other.white_k and first.white_k != other.white_k:
        side = "warmer" if other.white_k > first.white_k else "cooler"
        yield f"White balance {other.white_k:.0f} K instead of {first.white_k:.0f} K: {side}"
    if other.is_raw_too != first.is_raw_too:
        yield "With RAW" if other.is_raw_too else "Without RAW"
