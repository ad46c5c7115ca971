"""What is kept of a set while it is worked on, so that it goes on after a crash from there."""

from __future__ import annotations

import hashlib
import json
import os
from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from oxlen.stacking.ask import FrameFile, LeftOut, StackAsk
from oxlen.stacking.placing import Placed, placed_as_json, placed_from_json

STATE, SUMS, SPOOL = "state.json", "sums.npy", "frames.spool"


@dataclass
class Kept:
    """How far a stack has come: its reference, how frames align with it, and what is gathered.

    `done` are names of frames gathered by now, `row` the rows stacked after that.
    """

    key: str
    reference: str | None = None
    placed: dict[str, Placed] = field(default_factory=dict)
    left_out: dict[str, str] = field(default_factory=dict)
    aside: list[str] = field(default_factory=list)
    is_aligned: bool = False
    done: list[str] = field(default_factory=list)

    def leave_out(self, left: Sequence[LeftOut]) -> None:
        """Note files that are not used, and why."""
        self.left_out.update({frame.name: frame.why for frame in left})

    def save(self, folder: Path) -> None:
        """Keep it, all of it or nothing."""
        data = {
            **vars(self),
            "placed": {name: placed_as_json(place) for name, place in self.placed.items()},
        }
        replace_file(folder / STATE, json.dumps(data).encode())


def kept_in(folder: Path, asked: StackAsk, frames: Sequence[FrameFile]) -> Kept:
    """What a folder keeps of this very set; a beginning where it keeps none or another."""
    key = _key(asked, frames)
    try:
        data: dict[str, Any] = json.loads((folder / STATE).read_text("utf-8"))
    except (OSError, ValueError):
        data = {}
    if data.get("key") != key:
        forget(folder)
        return Kept(key)
    placed = {name: placed_from_json(place) for name, place in data.pop("placed").items()}
    return Kept(**data, placed=placed)


def forget(folder: Path) -> None:
    """Release all that was kept of a set: it is done."""
    for name in (STATE, SUMS, SPOOL):
        (folder / name).unlink(missing_ok=True)


def replace_file(path: Path, content: bytes) -> None:
    """Write a file in place of another: whoever reads it finds the one or the other."""
    part = path.with_suffix(".part")
    part.write_bytes(content)
    os.replace(part, path)  # noqa: PTH105  the one call that replaces at once


def _key(asked: StackAsk, frames: Sequence[FrameFile]) -> str:
    """Tells this set from any other: what is asked, and its files by name, length and time."""
    notes = [str(vars(asked))]
    for frame in frames:
        about = frame.path.stat()
        notes.append(f"{frame.name} {about.st_size} {about.st_mtime_ns}")
    return hashlib.sha256("\n".join(notes).encode()).hexdigest()
