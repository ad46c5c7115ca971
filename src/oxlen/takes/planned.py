"""What a take is compared with: its slip, its spots, and what was expected of them."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.light.meter import Spot
from oxlen.core.review.take_seen import PlannedSpot, TakeSettings

MAINS_PULSES_HZ = (100.0, 120.0)


@dataclass(frozen=True)
class PlannedTake:
    """What a take is compared with: slip, spots with their places, and what is expected of the
    hand.

    `spots` and `planned` are by name; the first spot is the one that matters most. `hand_px` counts
    in pixels of a file `frame_px` wide, of the take's own where that is None. Blur is looked for
    at `sharp_at`, else at the first spot; a cast at `neutral`. `white_share` of the frame was to
    clip, and the first spot to be as clean as `snr` a pixel; `is_firm` says that nobody held
    the phone, `pulse_hz` how the lamps pulse: on the mains, where nothing is known.
    `glass_stops` is what the filter on the lens takes. `is_total` says that the file states the
    total time of many frames, and
    `focuses_elsewhere` that it is focused on something none of its spots is on.
    """

    slip: TakeSettings
    planned: tuple[PlannedSpot, ...]
    spots: tuple[Spot, ...]
    hand_px: float = 0.0
    metered_by_picture: bool = True
    frame_px: int | None = None
    sharp_at: Spot | None = None
    neutral: Spot | None = None
    white_share: float | None = None
    snr: float | None = None
    is_firm: bool = False
    focuses_elsewhere: bool = False
    pulse_hz: tuple[float, ...] = MAINS_PULSES_HZ
    is_total: bool = False
    glass_stops: float = 0.0
