"""The steps of developing a picture, as numbers anyone can use."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.units import require_between


@dataclass(frozen=True)
class Gradient:
    """Light above a slanting edge changed by so many stops, fading over a share of the height.

    The edge is at `height_share` from the top in the middle and falls to the right by `tilt_deg`.
    """

    height_share: float
    stops: float
    tilt_deg: float = 0.0
    fade_share: float = 0.15


@dataclass(frozen=True)
class Oval:
    """Light within an oval changed by so many stops, fading to its rim; shares of the sides."""

    x: float
    y: float
    across: float
    down: float
    stops: float


@dataclass(frozen=True)
class Recipe:
    """How a picture is developed.

    `white_k` and `tint_duv` name the light that is to be neutral, None = as the file has it.
    `shadows_stops` lifts dark tones, `highlights_stops` brings bright ones down; `black_share` of
    mid becomes black; `crop` is left, top, right, bottom in shares; `level_deg` turns it clockwise.
    The last three run from 0 to 1.
    """

    exposure_stops: float = 0.0
    white_k: float | None = None
    tint_duv: float = 0.0
    shadows_stops: float = 0.0
    highlights_stops: float = 0.0
    black_share: float = 0.0
    crop: tuple[float, float, float, float] = (0.0, 0.0, 1.0, 1.0)
    level_deg: float = 0.0
    gradient: Gradient | None = None
    oval: Oval | None = None
    local_contrast: float = 0.0
    sharpening: float = 0.3
    noise_reduction: float = 0.0

    def __post_init__(self) -> None:
        for name in ("exposure_stops", "shadows_stops", "highlights_stops"):
            require_between(name, getattr(self, name), low=-6, high=6, unit="stops")
        require_between("level_deg", self.level_deg, low=-20, high=20, unit="°")
        for name in ("local_contrast", "sharpening", "noise_reduction"):
            require_between(name, getattr(self, name), low=0, high=1)
        left, top, right, bottom = self.crop
        require_between("crop width", right - left, low=0.05, high=1)
        require_between("crop height", bottom - top, low=0.05, high=1)
