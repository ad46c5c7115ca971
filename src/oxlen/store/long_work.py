"""Long work in a worker: how far it is, and whether it is still wanted, by files beside it."""

from __future__ import annotations

import json
import time
from dataclasses import dataclass
from pathlib import Path

from oxlen.core.errors import OxlenError

EVERY_S = 0.2


class Cancelled(OxlenError):
    """Long work that was ended by whoever asked for it; what was done by then is kept."""

    code = "cancelled"


@dataclass(frozen=True)
class Progress:
    """So many of so many parts are done."""

    done: int = 0
    all: int = 0


class ProgressReporter:
    """Says how far long work is; Cancelled once it is not wanted any more. For the worker."""

    def __init__(self, beside: Path) -> None:
        self._progress_path, self._stop = progress_path(beside), stop_path(beside)
        self._next_s = 0.0

    def tell(self, done: int, whole: int) -> None:
        """Note how far it is, a few times a second at most. Cancelled where it is to end."""
        now_s = time.monotonic()
        if now_s < self._next_s and done < whole:
            return
        self._next_s = now_s + EVERY_S
        if self._stop.exists():
            raise Cancelled("Stopped. Everything imported so far stays.")
        unfinished = self._progress_path.with_name(self._progress_path.name + ".new")
        unfinished.write_text(json.dumps({"done": done, "all": whole}), "utf-8")
        unfinished.replace(self._progress_path)


def progress_path(beside: Path) -> Path:
    """Where work on a file says how far it is."""
    return beside.with_name(beside.name + ".told")


def stop_path(beside: Path) -> Path:
    """What ends work on a file once it is there."""
    return beside.with_name(beside.name + ".stop")


def progress_of(beside: Path) -> Progress:
    """How far work on a file is."""
    try:
        return Progress(**json.loads(progress_path(beside).read_text("utf-8")))
    except (OSError, ValueError, TypeError):
        return Progress()


def tidy(beside: Path) -> None:
    """Remove a file and what was noted beside it."""
    for path in (beside, progress_path(beside), stop_path(beside)):
        path.unlink(missing_ok=True)
