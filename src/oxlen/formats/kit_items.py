"""Lamps and clip-on lenses as they are written: models of the core's own records."""

from __future__ import annotations

from typing import TYPE_CHECKING

from oxlen.core.kit.clip_on import ClipOn
from oxlen.core.kit.lamp import Lamp
from oxlen.formats.plan.asked import AskFile, model_of

if TYPE_CHECKING:

    class LampFile(AskFile):
        """A lamp as its owner knows it."""

    class ClipOnFile(AskFile):
        """A clip-on lens: its power, and the lens it goes over."""
else:
    LampFile = model_of(Lamp)
    ClipOnFile = model_of(ClipOn)
