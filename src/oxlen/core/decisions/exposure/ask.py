"""What may be asked of the exposure: what holds it, what moves, lamps, use, filters, strategy."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Annotated, Any, Literal

from oxlen.core.ask import Ask, Checked, Choices, Quantity, Several, Text
from oxlen.core.constants import SNR_ACCEPTABLE, SNR_EXCELLENT
from oxlen.core.decisions.exposure.motion_ask import FrozenMotion, ShownMotion, known
from oxlen.core.decisions.exposure.scene_ask import Closeup, Drawing, Land, Sky, Travel
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.dial import SeriesPart
from oxlen.core.errors import BadInput
from oxlen.core.hold.hand import Support
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.kit.phone_words import FileFormat
from oxlen.core.kit.uses import USES, use_of
from oxlen.core.motion.flicker import mains_pulse_hz
from oxlen.core.motion.less_light import nd_stops

DRIVER_HZ = 480.0
"""A usual rate of a lamp's driver, to begin with."""
OWN_SNR = 20.0
"""A floor of one's own starts here."""


@dataclass(frozen=True)
class Hold(Checked):
    """A burst with the chance wanted of one sharp frame, own stabiliser stops, risk taken."""

    burst: Annotated[int, Quantity(1, 200, "frames", label="Burst")] = 1
    chance: Annotated[float, Quantity(0.01, 0.999, "", label="Chance of sharp")] = 0.9
    stabiliser_stops: Annotated[float, Quantity(0, 10, "stops", label="Stabiliser")] | None = None
    risk_stops: Annotated[float, Quantity(0, 15, "stops", label="Risk accepted")] = 0.0


@dataclass(frozen=True)
class Lamps(Checked):
    """A pulsing lamp, on the mains or by its driver's own rate; the share of pulsing accepted."""

    mains_hz: Annotated[Literal[50, 60], Choices({"50": "50 Hz", "60": "60 Hz"})] | None = None
    driver_hz: (
        Annotated[float, Quantity(1, 100_000, "Hz", label="Driver", usual=DRIVER_HZ)] | None
    ) = None
    tolerance: Annotated[float, Quantity(0.001, 1, "share", label="Flicker accepted")] = 0.05

    def check(self) -> None:
        """One rate, not two."""
        if (self.mains_hz is None) == (self.driver_hz is None):
            raise BadInput("say either mains_hz or driver_hz", "mains_hz")

    @property
    def pulse_hz(self) -> float:
        """Pulses a second."""
        if self.mains_hz is not None:
            return float(mains_pulse_hz(float(self.mains_hz)))
        return self.driver_hz or 1.0

    @property
    def label(self) -> str:
        """What pulses, in words."""
        if self.mains_hz is not None:
            return f"lamps on {self.mains_hz} Hz mains"
        return f"a lamp pulsing at {self.pulse_hz:g} Hz"


Snr = Literal["excellent", "acceptable", "any"]
SNR_WORDS = {"excellent": SNR_EXCELLENT, "acceptable": SNR_ACCEPTABLE, "any": None}
SNR_CHOICES = {
    "any": "Any noise",
    "acceptable": f"Acceptable, {SNR_ACCEPTABLE:g}",
    "excellent": f"Excellent, {SNR_EXCELLENT:g}",
}


@dataclass(frozen=True)
class Output(Checked):
    """Where the picture will be seen: a usual use or a size, and the SNR asked of the subject."""

    use: (
        Annotated[
            str,
            Text(40),
            Choices(
                {use.id: f"{use.name}, {use.width_px} × {use.height_px}" for use in USES},
                "Output",
            ),
        ]
        | None
    ) = None
    width_px: Annotated[float, Quantity(16, 100_000, "px", label="Width")] | None = None
    height_px: Annotated[float, Quantity(16, 100_000, "px", label="Height")] | None = None
    snr: (
        Annotated[Snr, Choices(SNR_CHOICES, "Noise allowed")]
        | Annotated[float, Quantity(0.5, 1000, "", label="SNR wanted", usual=OWN_SNR)]
    ) = "acceptable"

    def check(self) -> None:
        """A use that is known."""
        if self.use is not None:
            known(use_of, self.use, "use")

    def in_force(self, name: str) -> Any:
        """A field's value, or the use's own where it is left open."""
        if name in ("width_px", "height_px") and getattr(self, name) is None:
            return float(getattr(use_of(self.use or "screen"), name))
        return getattr(self, name)

    @property
    def snr_floor(self) -> float | None:
        """The SNR asked of the subject; None when any will do."""
        return SNR_WORDS[self.snr] if isinstance(self.snr, str) else self.snr

    @cached_property
    def size_px(self) -> tuple[float, float]:
        """Width and height it is seen at."""
        return self.in_force("width_px"), self.in_force("height_px")

    @cached_property
    def pixels(self) -> float:
        """Pixels of the output."""
        width, height = self.size_px
        return width * height

    @property
    def short_side_px(self) -> float:
        """The output's shorter side."""
        return min(self.size_px)


IsoStrategy = Literal["floor", "ceiling", "shutter_first", "steady"]
ExposureAim = Literal["centre", "highlights", "dark", "silhouette", "split"]
ISO_STRATEGIES: Mapping[str, str] = {
    "floor": "Floor",
    "ceiling": "Ceiling",
    "shutter_first": "Shutter first",
    "steady": "Safe shutter",
}
EXPOSURE_AIMS: Mapping[str, str] = {
    "centre": "Meter at mid",
    "highlights": "Hold highlights",
    "dark": "Keep night dark",
    "silhouette": "Silhouette",
    "split": "Between sky and foreground",
}
DARKEST_STOPS = 20.0
"""What a phone makes of hardly any light is no picture past this."""


@dataclass(frozen=True)
class Strategy(Checked):
    """How to decide where experienced people differ: the ISO strategy with its cap, the aim.

    Without an ISO strategy, motion that must freeze or show puts the shutter first, a still scene
    handheld keeps the shutter well inside what the hand holds, and on a support the lowest ISO
    decides. `iso_fixed` leaves ISO where it is, and the shutter follows; `shutter_s` is the one
    asked for by name. With `let_clip` the brightest detail is given up: it neither guards nor
    decides the exposure. `lift_stops` exposes darker by so much, for lifting in development.
    `white_share` is how much of the frame may clip where bright detail is to be kept.
    Spots in `given_up` (by `kept.spot_key`) may land anywhere; with `grainy_dark` the darkest
    detail keeps its tone, not its SNR. `darker_stops` is how much darker than wanted is accepted.
    """

    iso: Annotated[IsoStrategy, Choices(ISO_STRATEGIES, "ISO")] | None = None
    iso_cap: Annotated[float, Quantity(1, 1e7, "ISO", label="ISO cap")] | None = None
    exposure: Annotated[ExposureAim, Choices(EXPOSURE_AIMS, "Exposure aim")] = "centre"
    shutter_s: Annotated[float, Quantity(1e-6, 1e5, "s", label="Shutter wanted")] | None = None
    let_clip: bool = False
    iso_fixed: Annotated[float, Quantity(1, 1e7, "ISO", label="ISO fixed")] | None = None
    lift_stops: Annotated[float, Quantity(0, 6, "stops", label="Lifted in development")] = 0.0
    white_share: Annotated[float, Quantity(0.0001, 1, "of the frame", label="May clip")] = 0.02
    given_up: Annotated[tuple[Annotated[str, Text(90)], ...], Several(20)] = ()
    grainy_dark: bool = False
    darker_stops: Annotated[
        float, Quantity(0, DARKEST_STOPS, "stops", label="Darker than wanted")
    ] = 0.0


SUPPORT_WORDS: Mapping[str, str] = {
    "handheld": "handheld",
    "braced": "braced",
    "tripod": "tripod",
}
FORMAT_WORDS: Mapping[str, str] = {"processed": "Processed", "raw": "RAW", "both": "Both"}

SUPPORT: Ask[Support] = Ask(
    "support", Annotated[Support, Choices(SUPPORT_WORDS, "Support")], "handheld", label="Support"
)
FORMAT: Ask[FileFormat] = Ask(
    "format", Annotated[FileFormat, Choices(FORMAT_WORDS, "Save as")], "processed", label="Save as"
)
STRATEGY: Ask[Strategy] = Ask("strategy", Strategy, Strategy(), label="Strategy", formerly="school")
MOTION: Ask[tuple[FrozenMotion, ...]] = Ask(
    "motion",
    Annotated[tuple[FrozenMotion, ...], Several(8)],
    (),
    label="Freeze motion",
    entry=FrozenMotion("walker"),
)
LOOKS: Ask[tuple[ShownMotion, ...]] = Ask(
    "looks",
    Annotated[tuple[ShownMotion, ...], Several(8)],
    (),
    label="Motion blur",
    entry=ShownMotion("sluice"),
)
LAMPS: Ask[Lamps | None] = Ask(
    "flicker", Lamps | None, None, label="Lamps", entry=Lamps(driver_hz=DRIVER_HZ)
)
OUTPUT: Ask[Output] = Ask(
    "output", Output, Output(snr="any"), label="Output size", sheet_default=Output()
)
LENS_FILTERS: Ask[tuple[LensFilter, ...]] = Ask(
    "glass",
    Annotated[tuple[LensFilter, ...], Several(6)],
    (),
    label="Filters",
    entry=LensFilter("ND 64", 64.0),
    in_brief=False,
)
HOLD: Ask[Hold] = Ask("hold", Hold, Hold(), label="Hold")
SKY: Ask[Sky | None] = Ask("sky", Sky | None, None, label="Stars", entry=Sky())
LAND: Ask[Land | None] = Ask("land", Land | None, None, label="Night foreground", entry=Land())
DRAWING: Ask[Drawing | None] = Ask(
    "drawing", Drawing | None, None, label="Lamp drawing", entry=Drawing()
)
CLOSEUP: Ask[Closeup | None] = Ask(
    "closeup", Closeup | None, None, label="Close up", entry=Closeup()
)
TRAVEL: Ask[Travel | None] = Ask("travel", Travel | None, None, label="Travelling", entry=Travel())
EXPOSURE_PART = SeriesPart("exposure", "Exposure: lens, ISO, shutter, support, filters")
ASKS = (
    SUPPORT,
    FORMAT,
    STRATEGY,
    MOTION,
    LOOKS,
    LAMPS,
    OUTPUT,
    LENS_FILTERS,
    HOLD,
    SKY,
    LAND,
    DRAWING,
    CLOSEUP,
    TRAVEL,
)


def iso_strategy(brief: Brief) -> IsoStrategy:
    """The ISO strategy in force: the one chosen, or the one that what is asked for calls for."""
    strategy = brief[STRATEGY]
    if strategy.iso is not None:
        return strategy.iso
    moves = bool(brief[MOTION]) or bool(brief[LOOKS]) or brief[TRAVEL] is not None
    if moves or strategy.shutter_s:
        return "shutter_first"
    return "steady" if brief[SUPPORT] == "handheld" else "floor"


def under_stars(brief: Brief) -> bool:
    """Whether it is a picture of the night sky, or a part of one."""
    return brief[SKY] is not None or brief[LAND] is not None


def motion_asked(brief: Brief) -> bool:
    """Whether movement was described; where it was not, no blur of it is known."""
    stated = (brief[SKY], brief[DRAWING], brief[TRAVEL])
    return bool(brief[MOTION]) or bool(brief[LOOKS]) or any(answer is not None for answer in stated)


def glass_stops(brief: Brief) -> float:
    """Stops that the filters on the lens take together."""
    return float(sum(nd_stops(lens_filter.factor) for lens_filter in brief[LENS_FILTERS]))


def is_panned(brief: Brief) -> bool:
    """Whether the phone follows a mover."""
    return any(motion.pan is not None for motion in brief[MOTION])
