"""In which order an outing's pictures are taken, by the light each of them needs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

Span = tuple[float, float]


@dataclass(frozen=True)
class Placed:
    """A picture in the order: when it is begun (seconds since 1970 UTC), None where it fits not."""

    id: int
    begins_unix_s: float | None


def outing_order(
    windows: Sequence[tuple[int, Sequence[Span]]], *, takes_s: float, walk_s: float, from_s: float
) -> tuple[Placed, ...]:
    """An order in which each picture falls into one of its windows, if there is one.

    The one whose light goes first is taken first, not before its light has come; each takes
    `takes_s`, and between two of them is a walk. Those that fit nowhere come last. Not sure to be
    the best order there is, but no window is left while a picture that could use it waits.
    """
    waiting = [(number, sorted(spans)) for number, spans in windows]
    now, found, left = from_s, [], []
    while waiting:
        open_now = [(_chance(spans, now, takes_s), number) for number, spans in waiting]
        reported = [(window, number) for window, number in open_now if window is not None]
        left += [number for window, number in open_now if window is None]
        waiting = [job for job in waiting if job[0] not in left]
        if not reported:
            break
        # Of those whose light has come the one whose light goes first; else whichever comes first.
        ready = [entry for entry in reported if entry[0][0] <= now]
        key = min(ready, key=lambda entry: entry[0][1]) if ready else min(reported)
        (begins, _), number = key
        found.append(Placed(number, max(begins, now)))
        now = max(begins, now) + takes_s + walk_s
        waiting = [job for job in waiting if job[0] != number]
    return (*found, *(Placed(number, None) for number in left))


def _chance(spans: Sequence[Span], now: float, takes_s: float) -> Span | None:
    """When it can be begun at the earliest, and until when; None where all its light is over."""
    for begins, ends in spans:
        latest = ends - takes_s
        if latest >= max(begins, now):
            return max(begins, now), latest
    return None
