"""Wishes as they are written down: motion, looks, lamps, output, glass, holding, framing."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from oxlen.core.constants import SNR_ACCEPTABLE, SNR_EXCELLENT
from oxlen.core.decide.brief import SceneTones
from oxlen.core.decide.wishes import (
    DEFAULT_OFF_AXIS,
    FLICKER_TOLERANCE,
    PAN_RESIDUAL_SHARE,
    Flicker,
    Frames,
    Framing,
    Freeze,
    Glass,
    Hold,
    Output,
    Show,
)
from oxlen.core.errors import NotFound
from oxlen.core.kit.uses import use_of
from oxlen.core.motion.flicker import mains_pulse_hz
from oxlen.core.motion.looks import LookId, look_of
from oxlen.core.motion.presets import MoverPreset, mover_preset
from oxlen.core.motion.sharpness import SharpBy
from oxlen.core.motion.subject import Mover
from oxlen.formats.phone_profile import Strict

Speed = Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)]
Distance = Annotated[float, Field(ge=0.05, le=1e6, allow_inf_nan=False)]
Direction = Annotated[float, Field(ge=0, le=180)]
ShortName = Annotated[str, Field(max_length=60)]


def _known(find: Callable[[str], object], wanted: str) -> None:
    """ValueError, which names the field, when a table has no entry of that id."""
    try:
        find(wanted)
    except NotFound as error:
        raise ValueError(error.message.rstrip(".")) from None


def _rounded(distance_m: float) -> float:
    """A distance to three figures, as one would pace it out."""
    return float(f"{distance_m:.3g}")


class MoverFile(Strict):
    """Something that moves. `subject` is a usual mover that fills in what is not said here."""

    subject: Annotated[str, Field(max_length=40)] | None = None
    name: ShortName = ""
    speed_m_s: Speed | None = None
    distance_m: Distance | None = None
    direction_deg: Direction | None = None

    @model_validator(mode="after")
    def _whole(self) -> Self:
        if self.subject is None and (self.speed_m_s is None or self.distance_m is None):
            raise ValueError("say a subject, or a speed_m_s and a distance_m")
        if self.subject is not None:
            _known(mover_preset, self.subject)
        return self

    def usual(self) -> MoverPreset | None:
        """The usual mover it starts from, if any."""
        return None if self.subject is None else mover_preset(self.subject)

    def label(self) -> str:
        """What it is called."""
        usual = self.usual()
        return self.name or (usual.name if usual else "mover")

    def mover(self) -> Mover:
        """The mover in numbers."""
        usual = self.usual()
        values = [self.speed_m_s, self.distance_m, self.direction_deg]
        kept = (usual.speed_m_s, usual.distance_m, usual.direction_deg) if usual else (1, 1, 90)
        filled = (fall if v is None else v for v, fall in zip(values, kept, strict=True))
        return Mover(*(float(value) for value in filled))


class SharpFile(Strict):
    """What counts as sharp, and the diagonal's divisor, pixels of the file or of the output."""

    by: SharpBy = "circle"
    value: Annotated[float, Field(gt=0, le=1e5)] | None = None


class MotionFile(MoverFile):
    """Something that moves and must be sharp; `pan` is the share of its motion a pan leaves."""

    sharp: SharpFile = SharpFile()
    off_axis: Annotated[float, Field(ge=0.001, le=1)] = DEFAULT_OFF_AXIS
    pan: Annotated[float, Field(ge=0.001, le=1)] | None = Field(
        default=None,
        description=f"null = not followed; a practised pan leaves {PAN_RESIDUAL_SHARE}",
    )

    def after(self, freeze: Freeze) -> MotionFile:
        """The wish with what a trade changed in it: sharpness, pan, distance."""
        return self.model_copy(
            update={
                "sharp": SharpFile(by=freeze.sharp_by, value=freeze.tolerance),
                "pan": freeze.pan_residual_share,
                "distance_m": _rounded(float(freeze.mover.distance_m)),
            }
        )

    def to_freeze(self) -> Freeze:
        """The wish as the core knows it."""
        sharp = self.sharp
        return Freeze(self.label(), self.mover(), sharp.by, sharp.value, self.off_axis, self.pan)


class LookFile(MoverFile):
    """Motion that is meant to show; shares are of the frame's short side, null = the look's own."""

    look: LookId
    share_min: Annotated[float, Field(gt=0, le=1000)] | None = None
    share_max: Annotated[float, Field(gt=0, le=1000)] | None = None
    width_m: Annotated[float, Field(gt=0, le=1e4)] | None = None
    background_stops: Annotated[float, Field(ge=-12, le=12)] = -2.0

    def after(self, show: Show) -> LookFile:
        """The wish with what a trade changed in it: the look, the distance."""
        return self.model_copy(
            update={
                "look": show.look.id,
                "share_min": show.share_min,
                "share_max": show.share_max,
                "distance_m": _rounded(float(show.mover.distance_m)),
            }
        )

    def to_show(self) -> Show:
        """The wish as the core knows it."""
        usual = self.usual()
        width = self.width_m or (usual.width_m if usual else 1.0)
        return Show(
            self.label(),
            self.mover(),
            look_of(self.look),
            self.share_min,
            self.share_max,
            width,
            self.background_stops,
        )


class FlickerFile(Strict):
    """A pulsing lamp: on the mains, or by its driver's own rate."""

    mains_hz: Literal[50, 60] | None = None
    driver_hz: Annotated[float, Field(ge=1, le=100_000)] | None = None
    tolerance: Annotated[float, Field(ge=0.001, le=1)] = FLICKER_TOLERANCE

    @model_validator(mode="after")
    def _one(self) -> Self:
        if (self.mains_hz is None) == (self.driver_hz is None):
            raise ValueError("say either mains_hz or driver_hz")
        return self

    def to_flicker(self) -> Flicker:
        """The lamp as the core knows it."""
        if self.mains_hz is not None:
            name = f"lamps on {self.mains_hz} Hz mains"
            rate = float(mains_pulse_hz(float(self.mains_hz)))
            return Flicker(rate, name, self.tolerance, float(self.mains_hz))
        rate = self.driver_hz or 1.0
        return Flicker(rate, f"a lamp driven at {rate:g} Hz", self.tolerance)


SNR_WORDS = {"excellent": SNR_EXCELLENT, "acceptable": SNR_ACCEPTABLE, "any": None}


class OutputFile(Strict):
    """Where the picture will be seen: a usual use or a size, and the SNR asked of the subject."""

    use: Annotated[str, Field(max_length=40)] | None = None
    width_px: Annotated[float, Field(ge=16, le=100_000)] | None = None
    height_px: Annotated[float, Field(ge=16, le=100_000)] | None = None
    snr: Literal["excellent", "acceptable", "any"] | Annotated[float, Field(ge=0.5, le=1000)] = (
        "acceptable"
    )

    @model_validator(mode="after")
    def _usual(self) -> Self:
        if self.use is not None:
            _known(use_of, self.use)
        return self

    def to_output(self) -> Output:
        """The output as the core knows it."""
        use = use_of(self.use or "screen")
        floor = SNR_WORDS[self.snr] if isinstance(self.snr, str) else self.snr
        return Output(self.width_px or use.width_px, self.height_px or use.height_px, floor)


class GlassFile(Strict):
    """A filter and the factor it takes the light down by."""

    name: Annotated[str, Field(min_length=1, max_length=60)]
    factor: Annotated[float, Field(ge=1, le=1e7)]

    def to_glass(self) -> Glass:
        """The filter as the core knows it."""
        return Glass(self.name, self.factor)


class NdFile(Strict):
    """Glass on the lens, and what else is at hand."""

    on: Annotated[list[GlassFile], Field(max_length=6)] = []  # noqa: RUF012  copied by Pydantic
    at_hand: Annotated[list[GlassFile], Field(max_length=40)] = []  # noqa: RUF012


class HoldFile(Strict):
    """A burst with the chance wanted of one sharp frame, own stabiliser stops, risk taken."""

    burst: Annotated[int, Field(ge=1, le=200)] = 1
    chance: Annotated[float, Field(ge=0.01, le=0.999)] = 0.9
    stabiliser_stops: Annotated[float, Field(ge=0, le=10)] | None = None
    risk_stops: Annotated[float, Field(ge=0, le=15)] = 0.0

    def to_hold(self) -> Hold:
        """The wish as the core knows it."""
        return Hold(**self.model_dump())


class FramesFile(Strict):
    """Frames averaged into one picture."""

    count: Annotated[int, Field(ge=1, le=2000)] = 1
    gap_s: Annotated[float, Field(ge=0, le=60)] = 0.3

    def to_frames(self) -> Frames:
        """The wish as the core knows it."""
        return Frames(self.count, self.gap_s)


class FramingFile(Strict):
    """How large subject and background shall be; `background_m` is how far behind it stands."""

    distance_m: Distance = 3.0
    background_m: Annotated[float, Field(ge=0, le=1e6)] = 20.0
    subject_m: Annotated[float, Field(gt=0, le=1e5)] | None = None
    subject_share: Annotated[float, Field(gt=0, le=20)] | None = None
    background_size_m: Annotated[float, Field(gt=0, le=1e6)] | None = None
    background_share: Annotated[float, Field(gt=0, le=20)] | None = None

    def to_framing(self) -> Framing:
        """The wish as the core knows it."""
        return Framing(**self.model_dump())


class TonesFile(Strict):
    """How a frame's tones are spread: bin edges in EV100, ascending, and the share in each bin."""

    edges_ev100: Annotated[list[float], Field(min_length=2, max_length=2001)]
    shares: Annotated[list[Annotated[float, Field(ge=0, le=1)]], Field(min_length=1)]
    lost_share: Annotated[float, Field(ge=0, le=1)] = 0.0

    @model_validator(mode="after")
    def _agree(self) -> Self:
        if len(self.edges_ev100) != len(self.shares) + 1:
            raise ValueError("tones need one edge more than shares")
        if sorted(set(self.edges_ev100)) != self.edges_ev100:
            raise ValueError("edges_ev100 must ascend")
        return self

    def to_tones(self) -> SceneTones:
        """The tones as the core knows them."""
        return SceneTones(tuple(self.edges_ev100), tuple(self.shares), self.lost_share)
