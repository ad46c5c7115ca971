"""What to know of a way to the night sky, in sentences."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from oxlen.core.labels import stops_label, time_label, two_digits

WELL_DROWNED, DROWNED = 0.05, 0.15
"""Read noise that adds less than this to the sky's own is not seen; to this, hardly."""
WORTH_STOPS, CROPS_SHARE, DRAINS_PERCENT = 0.7, 0.9, 40.0
WARMS_S = 1200.0
CORNER_RATIO, SEEN_PX = 1.3, 2.0


@dataclass(frozen=True)
class NightFigures:
    """Of a way: what its sentences are made of. `drowned_s` is the frame in which sky drowns."""

    id: str
    frames: int
    shutter_s: float
    snr: float
    wanted_snr: float
    sky_e: float
    read_excess: float
    drowned_s: float
    sky_stops: float | None
    wanted_stops: float
    elapsed_s: float
    window_s: float | None
    kept_share: float
    battery_percent: float | None
    corner_trail_px: float
    trail_px: float


def notes_of(way: NightFigures) -> Iterator[str]:
    """What to know of it, what matters most first."""
    yield from _noise(way)
    yield from _tone(way)
    if way.id == "phone":
        yield "The phone chooses the settings and saves no RAW"
    if way.id == "stack":
        yield _read_noise(way)
        yield from _set(way)
    if way.corner_trail_px > max(SEEN_PX, CORNER_RATIO * way.trail_px):
        yield (
            f"Stars trail {two_digits(way.corner_trail_px)} px in the corners, "
            f"{two_digits(way.trail_px)} in the centre"
        )


def _noise(way: NightFigures) -> Iterator[str]:
    if way.snr >= way.wanted_snr * 0.98:
        yield f"Clean enough: SNR {two_digits(way.snr)} between the stars"
        return
    yield f"Noisy: SNR {two_digits(way.snr)}, wanted {two_digits(way.wanted_snr)}"


def _tone(way: NightFigures) -> Iterator[str]:
    if way.sky_stops is None:
        return
    off = way.sky_stops - way.wanted_stops
    if way.id == "one" and off < -WORTH_STOPS:
        yield f"The sky is {stops_label(-off)} darker than wanted at the highest ISO"
    elif way.id == "one" and off > WORTH_STOPS:
        yield f"The sky is {stops_label(off)} brighter than wanted. Use a shorter shutter"
    elif way.id == "stack" and off < -WORTH_STOPS:
        yield f"Each frame looks {stops_label(-off)} too dark; it is lifted once they are stacked"
    elif way.id == "stack" and off > WORTH_STOPS:
        yield f"Each frame looks {stops_label(off)} too light; it is lowered once they are stacked"


def _read_noise(way: NightFigures) -> str:
    share = f"{100 * way.read_excess:.0f} %"
    if way.read_excess <= WELL_DROWNED:
        return (
            f"Each frame is long enough: the sky gives {two_digits(way.sky_e)} electrons a pixel "
            f"and read noise adds only {share}"
        )
    words = f"{time_label(way.drowned_s)} a frame would hide the read noise"
    if way.read_excess <= DROWNED:
        return f"Each frame is nearly long enough: read noise adds {share}; {words}"
    return f"Each frame is short for so dark a sky: read noise adds {share}; {words}"


def _set(way: NightFigures) -> Iterator[str]:
    if way.window_s is not None and way.elapsed_s > way.window_s:
        yield (f"It takes {time_label(way.elapsed_s)}; the dark lasts {time_label(way.window_s)}")
    if way.kept_share < CROPS_SHARE:
        yield (f"The sky drifts: {100 * way.kept_share:.0f} % of the width is in all frames")
    if way.elapsed_s > WARMS_S:
        yield "The sensor warms up in a long series and noise rises. Pause now and then"
    battery = way.battery_percent
    if battery is not None and battery > DRAINS_PERCENT:
        yield f"It uses {battery:.0f} % of the battery, more in the cold. Connect a power bank"
