"""What a phone does by itself: its compensation scale, merged captures, night mode and flash."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Automatic:
    """What the phone's automatic side offers; None where it has nothing of the kind.

    `wide_range_stops` is the room above mid that merging its own frames adds, `night_frames` how
    many it merges in the dark, `flash_guide_m` the distance times f-number its flash lights at
    ISO 100.
    """

    compensation_step_stops: float = 1 / 3
    compensation_most_stops: float = 2.0
    wide_range_stops: float | None = None
    night_frames: int | None = None
    flash_guide_m: float | None = None

    def compensation(self, wanted_stops: float) -> float:
        """The step of the compensation scale nearest to so many stops, within its ends.

        >>> f"{Automatic().compensation(-0.9):.2f} {Automatic().compensation(5.0):.1f}"
        '-1.00 2.0'
        """
        most, step = self.compensation_most_stops, self.compensation_step_stops
        return round(min(max(wanted_stops, -most), most) / step) * step + 0.0
