"""The frames a drawing is drawn over: which strokes, in which colour, and the sounds that lead."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from oxlen.core.decisions.exposure.scene_ask import Drawing
from oxlen.core.motion.drawing import LampColour
from oxlen.core.motion.strokes import Strokes


@dataclass(frozen=True)
class Cue:
    """A moment of the rehearsal: seconds from the start, what happens, and the sound it has."""

    at_s: float
    words: str
    sound: str


@dataclass(frozen=True)
class DrawnPass:
    """What is drawn in one frame: its strokes, the lamp's colour, how long, and its cues."""

    strokes: Strokes
    colour: LampColour
    draws_s: float
    cues: tuple[Cue, ...]


def drawn_passes(drawing: Drawing, shutter_s: float | None) -> tuple[DrawnPass, ...]:
    """A drawing frame by frame, each with its margins; colours follow each other in turn.

    `shutter_s` closes each frame, where there is one.
    """
    return tuple(
        DrawnPass(
            part,
            drawing.colours[place % len(drawing.colours)],
            drawing.part_s(part),
            cues=tuple(_cues(drawing, part, shutter_s)),
        )
        for place, part in enumerate(drawing.in_parts)
    )


def _cues(drawing: Drawing, strokes: Strokes, shutter_s: float | None) -> Iterator[Cue]:
    """Sounds of the rehearsal and of the run: lamp on and off for each stroke, sharp corners."""
    speed = drawing.hand_m_s / drawing.height_m
    at = drawing.margin_s
    yield Cue(0.0, "The shutter opens", "open")
    corners = strokes.corners()
    for number, stroke in enumerate(strokes.lit):
        begins = at
        yield Cue(at, "Lamp on" if number == 0 else f"Lamp on, stroke {number + 1}", "on")
        for along, of in corners:
            if int(of) == number:
                yield Cue(drawing.margin_s + float(along) / speed, "Corner", "corner")
        at = begins + float(np.hypot(*np.diff(stroke, axis=0).T).sum()) / speed
        yield Cue(at, "Lamp off", "off")
        if number + 1 < len(strokes.lit):
            at += float(np.hypot(*(strokes.lit[number + 1][0] - stroke[-1]))) / speed
    yield Cue(at + drawing.margin_s, "Stand still", "still")
    if shutter_s is not None:
        yield Cue(max(shutter_s, at), "The shutter closes", "end")
