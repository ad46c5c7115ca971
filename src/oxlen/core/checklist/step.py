"""One step of a run."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Part = Literal["care", "set_up", "steady", "dial", "compose", "expose", "shoot", "look", "put_back"]
"""In working order; `expose` is ISO and shutter where a test frame was dialled before them."""


@dataclass(frozen=True)
class RunStep:
    """One thing to do; `value` is what to dial, in large, `detail` what must be known besides.

    `wait_s` is counted down before going on, `expose_s` counted up while the shutter is open;
    `frames` shots follow one another every `every_s` seconds. Every `remind_s` a sound, and no
    light, says to look after them.
    """

    id: str
    part: Part
    text: str
    value: str = ""
    detail: str = ""
    wait_s: float | None = None
    expose_s: float | None = None
    frames: int = 1
    every_s: float | None = None
    remind_s: float | None = None
