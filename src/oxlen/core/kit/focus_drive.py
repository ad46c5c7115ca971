"""How a lens is focused: how near it goes, its slider, and the scales measured along it."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.focus.slider import SliderScale


@dataclass(frozen=True)
class NamedScale:
    """A slider's scale, bare or with a clip-on of that name on the lens.

    `software` is what the phone ran on when it was measured.
    """

    scale: SliderScale
    clip_on: str = ""
    software: str = ""


@dataclass(frozen=True)
class FocusDrive:
    """A lens's focus: nearest distance in metres, and its slider where it can be set by hand.

    `slider_step` is what one step of it moves. Without `by_hand` the phone focuses by itself only.
    """

    closest_m: float
    by_hand: bool = True
    slider_low: float = 0.0
    slider_high: float = 1.0
    slider_step: float = 0.01
    scales: tuple[NamedScale, ...] = ()

    def scale(self, clip_on: str = "") -> SliderScale | None:
        """The scale measured with that clip-on ("" for the bare lens); None where none was."""
        named = self.named_scale(clip_on)
        return None if named is None else named.scale

    def named_scale(self, clip_on: str = "") -> NamedScale | None:
        """The same with what is known of its making."""
        return next((scale for scale in self.scales if scale.clip_on == clip_on), None)

    def snapped(self, value: float) -> float:
        """The nearest value the slider can be left at."""
        steps = round((value - self.slider_low) / self.slider_step)
        reached = self.slider_low + steps * self.slider_step
        return float(min(max(round(reached, 6), self.slider_low), self.slider_high))
