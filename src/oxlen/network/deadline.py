"""When serving ends: by the clock on the wall and by one that nothing can set back."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

Clock = Callable[[], datetime]
Seconds = Callable[[], float]


def seconds_awake_or_asleep() -> float:
    """Seconds of a clock that never runs backwards and goes on while the computer sleeps."""
    return time.clock_gettime(getattr(time, "CLOCK_BOOTTIME", time.CLOCK_MONOTONIC))


@dataclass(frozen=True)
class Deadline:
    """The end of a time by both clocks: setting the one on the wall does not lengthen it."""

    until: datetime
    until_s: float

    @classmethod
    def in_minutes(cls, minutes: float, clock: Clock, seconds: Seconds) -> Deadline:
        """So many minutes from now."""
        now = clock().astimezone(UTC)
        return cls(now + timedelta(minutes=minutes), seconds() + 60.0 * minutes)

    def is_over(self, clock: Clock, seconds: Seconds) -> bool:
        """Whether either clock has reached it."""
        return clock().astimezone(UTC) >= self.until or seconds() >= self.until_s
