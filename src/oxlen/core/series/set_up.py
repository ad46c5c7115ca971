"""Setting a series up once: how far the phone is, what is sharp, and how large things are drawn."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from oxlen.core.focus.depth import Depth, default_circle_mm, depth_of_field, focus_between_m
from oxlen.core.focus.optics import Optics
from oxlen.core.kit.phone import Lens
from oxlen.core.lens.imaging import distance_for_size_m, drawn_size_mm
from oxlen.core.units import require_between, require_positive

MOST_STRETCH = 1.15
"""Own choice: a front drawn more than 15 % larger than the back looks bulging in a row of things.
Off by taste: 10 to 20 % are in use."""
LEAST_SHARE, MOST_SHARE = 0.1, 0.95


@dataclass(frozen=True)
class ThingSize:
    """The largest of the things (m): width, height, and depth to the farthest part that is seen.

    Of a round tin that is half of its depth.
    """

    width_m: float
    height_m: float
    depth_m: float


@dataclass(frozen=True)
class PhonePlace:
    """Where the phone goes with one lens: distance from lens to the thing's front.

    `share` is how much of the frame the front then fills, `focus_m` the distance to focus at,
    `sharp` what is then sharp, `stretch` how much larger the front is drawn than the farthest part.
    """

    lens_id: str
    share: float
    distance_m: float
    focus_m: float
    sharp: Depth
    stretch: float
    view_width_m: float
    covers_depth: bool

    @property
    def is_good(self) -> bool:
        """Whether it has the whole thing sharp and does not stretch it."""
        return self.covers_depth and self.stretch <= MOST_STRETCH


def phone_place(lens: Lens, thing: ThingSize, share: float) -> PhonePlace:
    """Where a lens draws the thing's front as a share (0.1 to 0.95) of the frame. [RAY2002]

    The longer way of the frame is across. Farther where the lens would not focus so near: the thing
    is smaller then. OutOfRange for sizes that are not positive.

    >>> from oxlen.formats.phone.shipped import shipped_profile
    >>> lens = shipped_profile("wherry-3").to_phone().lens("long")
    >>> place = phone_place(lens, ThingSize(0.10, 0.12, 0.05), 0.6)
    >>> f"{place.distance_m:.2f} m, {place.stretch:.2f}×"
    '0.56 m, 1.09×'
    """
    require_between("share", share, low=LEAST_SHARE, high=MOST_SHARE, unit="")
    require_positive("depth", thing.depth_m, "m")
    wide_mm, high_mm = lens.modes[0].sensor_mm
    front_m = max(
        distance_for_size_m(lens.focal_mm, thing.width_m, share * wide_mm),
        distance_for_size_m(lens.focal_mm, thing.height_m, share * high_mm),
    )
    nearest = None if lens.focus is None else lens.focus.closest_m
    if nearest is not None:
        front_m = max(front_m, nearest)
    back_m = front_m + thing.depth_m
    optics, circle_mm = Optics(lens.focal_mm, lens.f_number), default_circle_mm(wide_mm, high_mm)
    focus_m = focus_between_m(front_m, back_m)
    sharp = depth_of_field(optics, circle_mm, focus_m)
    return PhonePlace(
        lens_id=lens.id,
        share=max(
            drawn_size_mm(lens.focal_mm, thing.width_m, front_m) / wide_mm,
            drawn_size_mm(lens.focal_mm, thing.height_m, front_m) / high_mm,
        ),
        distance_m=front_m,
        focus_m=focus_m,
        sharp=sharp,
        stretch=back_m / front_m,
        view_width_m=wide_mm / drawn_size_mm(lens.focal_mm, 1.0, front_m),
        covers_depth=sharp.holds(front_m, back_m),
    )


def best_place(places: Sequence[PhonePlace]) -> PhonePlace:
    """The place to choose of at least one: good ones first, then the least stretch."""
    return min(places, key=lambda place: (not place.is_good, place.stretch))


def good_share(lens: Lens, thing: ThingSize) -> float | None:
    """The largest share of the frame (0.1 to 0.95) at which a lens is good; None without any."""
    for share in np.arange(MOST_SHARE, LEAST_SHARE, -0.01):
        if phone_place(lens, thing, float(share)).is_good:
            return float(share)
    return None
