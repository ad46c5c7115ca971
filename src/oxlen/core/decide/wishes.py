"""What a photographer may ask of a picture beyond its light: motion, lamps, use, glass, framing."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.motion.looks import Look
from oxlen.core.motion.sharpness import SharpBy
from oxlen.core.motion.subject import Mover
from oxlen.core.units import require_between, require_positive

DEFAULT_OFF_AXIS = 0.25
PAN_RESIDUAL_SHARE = 0.06
"""What a practised pan leaves of the subject's motion: our own figure, meant to be measured."""
FLICKER_TOLERANCE = 0.05
"""Share of the lamp's pulsing that may be left in a frame before bands are seen."""
SCREEN_PX = (1920, 1440)


@dataclass(frozen=True)
class Hold:
    """How it is held beyond the support: a burst, own stabiliser stops, stops of risk taken."""

    burst: int = 1
    chance: float = 0.9
    stabiliser_stops: float | None = None
    risk_stops: float = 0.0

    def __post_init__(self) -> None:
        require_between("burst", self.burst, low=1, high=200, unit="frames")
        require_between("chance", self.chance, low=0.01, high=0.999)
        require_between("risk", self.risk_stops, low=0, high=15, unit="stops")
        if self.stabiliser_stops is not None:
            require_between("stabiliser", self.stabiliser_stops, low=0, high=10, unit="stops")


@dataclass(frozen=True)
class Freeze:
    """Something that moves and must be sharp.

    `tolerance` goes with `sharp_by`: the diagonal's divisor, pixels of the file, or pixels of the
    output; None takes the usual one. `off_axis_share` is how far from the middle it is, in shares
    of the short side, for what comes straight on. With `pan_residual_share` the phone follows it.
    """

    name: str
    mover: Mover
    sharp_by: SharpBy = "circle"
    tolerance: float | None = None
    off_axis_share: float = DEFAULT_OFF_AXIS
    pan_residual_share: float | None = None

    def __post_init__(self) -> None:
        if self.tolerance is not None:
            require_positive("tolerance", self.tolerance)
        require_between("off_axis", self.off_axis_share, low=0.001, high=1)
        if self.pan_residual_share is not None:
            require_between("pan residual", self.pan_residual_share, low=0.001, high=1)


@dataclass(frozen=True)
class Show:
    """Motion that is meant to show, by the length of its streaks as shares of the short side.

    None takes the look's own shares. `width_m` and `background_stops` (its tone against what it
    passes) are for what should vanish.
    """

    name: str
    mover: Mover
    look: Look
    share_min: float | None = None
    share_max: float | None = None
    width_m: float = 1.0
    background_stops: float = -2.0

    def __post_init__(self) -> None:
        for name, value in (("share_min", self.share_min), ("share_max", self.share_max)):
            if value is not None:
                require_positive(name, value)
        require_positive("width_m", self.width_m, "m")
        require_between("background", self.background_stops, low=-12, high=12, unit="stops")

    @property
    def shares(self) -> tuple[float | None, float | None]:
        """Shortest and longest streak wanted."""
        low = self.look.share_min if self.share_min is None else self.share_min
        high = self.look.share_max if self.share_max is None else self.share_max
        return low, high


@dataclass(frozen=True)
class Flicker:
    """A pulsing lamp: pulses a second, what makes it so, and the share of pulsing accepted."""

    pulse_hz: float
    name: str
    tolerance: float = FLICKER_TOLERANCE
    mains_hz: float | None = None

    def __post_init__(self) -> None:
        require_between("pulse rate", self.pulse_hz, low=1, high=100_000, unit="Hz")
        require_between("tolerance", self.tolerance, low=0.001, high=1)


@dataclass(frozen=True)
class Output:
    """Where the picture will be seen, in pixels, and the SNR asked of its subject there."""

    width_px: float = SCREEN_PX[0]
    height_px: float = SCREEN_PX[1]
    snr_floor: float | None = None

    def __post_init__(self) -> None:
        require_between("output width", self.width_px, low=16, high=100_000, unit="px")
        require_between("output height", self.height_px, low=16, high=100_000, unit="px")
        if self.snr_floor is not None:
            require_between("SNR", self.snr_floor, low=0.5, high=1000)

    @property
    def pixels(self) -> float:
        """Pixels of the output."""
        return self.width_px * self.height_px

    @property
    def short_side_px(self) -> float:
        """The output's shorter side."""
        return min(self.width_px, self.height_px)


@dataclass(frozen=True)
class Glass:
    """A filter: what it is called, and the factor it takes the light down by (1 or more)."""

    name: str
    factor: float

    def __post_init__(self) -> None:
        require_between("factor", self.factor, low=1, high=1e7)


@dataclass(frozen=True)
class Frames:
    """Frames averaged into one picture, and the gap between them in seconds."""

    count: int = 1
    gap_s: float = 0.3

    def __post_init__(self) -> None:
        require_between("frames", self.count, low=1, high=2000)
        require_between("gap", self.gap_s, low=0, high=60, unit="s")


@dataclass(frozen=True)
class Framing:
    """How large things shall be: distances and sizes in metres, shares of the frame's height.

    With `subject_m` and `subject_share` each lens has its own distance; otherwise `distance_m` is
    where the chosen lens stands, and others move to keep the subject's size.
    """

    distance_m: float = 3.0
    background_m: float = 20.0
    subject_m: float | None = None
    subject_share: float | None = None
    background_size_m: float | None = None
    background_share: float | None = None

    def __post_init__(self) -> None:
        require_positive("distance", self.distance_m, "m")
        require_between("background", self.background_m, low=0, high=1e6, unit="m")
        for name in ("subject_m", "subject_share", "background_size_m", "background_share"):
            value = getattr(self, name)
            if value is not None:
                require_positive(name, value)
