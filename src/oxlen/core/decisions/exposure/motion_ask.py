"""What may be asked of motion: what must be sharp, and what shall show that it moves."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Annotated, Any

from oxlen.core.ask import Checked, Choices, Quantity, Text
from oxlen.core.errors import BadInput, NotFound
from oxlen.core.motion.looks import LOOKS, LookId, MotionLook, look_of
from oxlen.core.motion.presets import MOVERS, MoverPreset, mover_preset
from oxlen.core.motion.sharpness import CIRCLE_DIVISOR, OUTPUT_PIXELS, PIXELS, SharpBy
from oxlen.core.motion.subject import Mover

PAN_RESIDUAL_SHARE = 0.06
"""What a practised pan leaves of the subject's motion: our own figure, meant to be measured."""

Speed = Annotated[float, Quantity(0.001, 1000, "m/s", label="Speed")]
Distance = Annotated[float, Quantity(0.05, 1e6, "m", label="Distance")]
Direction = Annotated[float, Quantity(0, 180, "°", label="Angle")]
Name = Annotated[str, Text(60, "Name")]


@dataclass(frozen=True)
class Moving(Checked):
    """Something that moves. `subject` is a usual mover that fills in what is left out here."""

    subject: (
        Annotated[str, Text(40), Choices({mover.id: mover.name for mover in MOVERS}, "Subject")]
        | None
    ) = None
    name: Name = ""
    speed_m_s: Speed | None = None
    distance_m: Distance | None = None
    direction_deg: Direction | None = None

    def check(self) -> None:
        """A usual mover that is known, or a speed and a distance."""
        if self.subject is None and (self.speed_m_s is None or self.distance_m is None):
            raise BadInput("say a subject, or a speed_m_s and a distance_m", "subject")
        if self.subject is not None:
            known(mover_preset, self.subject, "subject")

    @property
    def usual(self) -> MoverPreset | None:
        """The usual mover it starts from, if any."""
        return None if self.subject is None else mover_preset(self.subject)

    @property
    def label(self) -> str:
        """What it is called."""
        return self.name or (self.usual.name if self.usual else "mover")

    @property
    def spoken(self) -> str:
        """What it is called within a sentence."""
        return self.name or (self.usual.spoken if self.usual else "it")

    @cached_property
    def mover(self) -> Mover:
        """The mover in numbers."""
        names = ("speed_m_s", "distance_m", "direction_deg")
        return Mover(*(float(self.in_force(name)) for name in names))

    def in_force(self, name: str) -> Any:
        """A field's value, or the usual mover's where it is left open."""
        value = getattr(self, name)
        if value is not None:
            return value
        if self.usual is not None and hasattr(self.usual, name):
            return getattr(self.usual, name)
        return {"direction_deg": 90.0, "width_m": 1.0}.get(name)


def known(find: Callable[[str], object], wanted: str, field: str) -> None:
    """BadInput, which names the field, when a table has no entry of that id."""
    try:
        find(wanted)
    except NotFound as error:
        raise BadInput(error.message.rstrip("."), field) from None


SHARP_LABELS: Mapping[SharpBy, str] = {
    "circle": "Diagonal over",
    "pixel": "Blur, px",
    "output": "Blur, px",
}
"""What the number beside a way to be sharp measures."""


@dataclass(frozen=True)
class Sharp(Checked):
    """What counts as sharp, and the diagonal's divisor, pixels of the file or of the output."""

    by: Annotated[
        SharpBy,
        Choices(
            {
                "circle": "circle of confusion",
                "pixel": "pixels of the file",
                "output": "pixels of the output",
            },
            "Sharpness",
        ),
    ] = "circle"
    value: Annotated[float, Quantity(0.1, 1e5, "", label="Sharpness")] | None = None

    def in_force(self, name: str) -> Any:
        """A field's value; the usual measure where none is given."""
        if name == "value" and self.value is None:
            return {"circle": CIRCLE_DIVISOR, "pixel": PIXELS, "output": OUTPUT_PIXELS}[self.by]
        return getattr(self, name)


@dataclass(frozen=True)
class FrozenMotion(Moving):
    """Something that moves and must be sharp.

    `off_axis` is how far from the middle it is, in shares of the short side, for what comes
    straight on. `pan` is the share of its motion that following it with the phone leaves.
    """

    sharp: Sharp = Sharp()
    off_axis: Annotated[float, Quantity(0.001, 1, "× height", label="Off centre")] = 0.25
    pan: (
        Annotated[float, Quantity(0.001, 1, "", label="Pan error", usual=PAN_RESIDUAL_SHARE)] | None
    ) = None

    @cached_property
    def followed(self) -> Mover:
        """The mover as the frame sees it: slowed to what a pan leaves of its motion."""
        mover = self.mover
        return mover if self.pan is None else replace(mover, speed_m_s=mover.speed_m_s * self.pan)


@dataclass(frozen=True)
class ShownMotion(Moving):
    """Motion that is meant to show; shares are of the frame's short side, None = the look's own.

    `width_m` and `background_stops` (its tone against what it passes) are for what should vanish.
    """

    look: Annotated[LookId, Choices({look.id: look.name for look in LOOKS}, "Look")] = "texture"
    share_min: Annotated[float, Quantity(0.001, 1000, "× height", label="Least")] | None = None
    share_max: Annotated[float, Quantity(0.001, 1000, "× height", label="Most")] | None = None
    width_m: Annotated[float, Quantity(0.001, 1e4, "m", label="Length")] | None = None
    background_stops: Annotated[float, Quantity(-12, 12, "stops", label="Background tone")] = -2.0

    @property
    def shown_as(self) -> MotionLook:
        """The look by its own figures."""
        return look_of(self.look)

    @property
    def shares(self) -> tuple[float | None, float | None]:
        """Shortest and longest streak wanted, as shares of the short side."""
        usual = self.shown_as
        low = usual.share_min if self.share_min is None else self.share_min
        high = usual.share_max if self.share_max is None else self.share_max
        return low, high

    def in_force(self, name: str) -> Any:
        """A field's value, or what the look or the usual mover has for it."""
        if name in ("share_min", "share_max"):
            return self.shares[name == "share_max"]
        return super().in_force(name)
