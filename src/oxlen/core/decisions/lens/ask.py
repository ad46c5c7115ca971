"""What may be asked of the lens: which one, in which mode, and how large things shall be."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from oxlen.core.ask import Ask, Checked, Quantity
from oxlen.core.decisions.framework.camera import ANY_LENS, LENS, MODE

__all__ = ["ANY_LENS", "FRAMING", "LENS", "MODE", "Framing"]

Metres = Annotated[float, Quantity(0.05, 1e6, "m", label="Subject at")]


@dataclass(frozen=True)
class Framing(Checked):
    """How large things shall be: distances and sizes in metres, shares of the frame's height.

    With `subject_m` and `subject_share` each lens has its own distance; otherwise `distance_m` is
    at the chosen lens, and others move to keep the subject's size. `background_m` is how
    far it is behind the subject.
    """

    distance_m: Metres = 3.0
    background_m: Annotated[float, Quantity(0, 1e6, "m", label="Background behind")] = 20.0
    subject_m: Annotated[float, Quantity(0.001, 1e5, "m", label="Subject's height")] | None = None
    subject_share: Annotated[float, Quantity(0.001, 20, "× frame", label="Subject")] | None = None
    background_size_m: (
        Annotated[float, Quantity(0.001, 1e6, "m", label="Background's height")] | None
    ) = None
    background_share: (
        Annotated[float, Quantity(0.001, 20, "× frame", label="Background")] | None
    ) = None


FRAMING: Ask[Framing | None] = Ask(
    "framing", Framing | None, None, label="Framing", entry=Framing()
)
