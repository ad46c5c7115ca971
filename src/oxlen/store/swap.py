"""Putting a restored library in place: one rename decides, and the rest is made good later.

The restored data are whole and verified in a folder of their own. Then a note is renamed into
place that says what goes where: before that moment the old library counts, after it the new one.
Whoever opens the library next finishes what the note says, however often that is interrupted.
"""

from __future__ import annotations

import json
import os
import shutil
from pathlib import Path

from oxlen.store.places import DATABASE, INCOMING, PICTURES, PREVIEWS, STACKS

NOTE = "swap.json"
RESTORED = "restoring-"
"""Begins the name of a folder that is being unpacked; of no use when it is found left behind."""
BEFORE = "before-"
"""Begins the name of the folder that keeps what a restore replaced, until the next one."""
# The log of the old database must be gone before a new one comes under the same name.
ORDER = (f"{DATABASE}-wal", f"{DATABASE}-shm", PICTURES, PREVIEWS, INCOMING, STACKS, DATABASE)


def begin_swap(folder: Path, fresh: Path, before: str) -> None:
    """Decide for the data in `fresh`; what they replace will be kept in the folder `before`."""
    note = {"fresh": fresh.name, "before": before, "names": [p.name for p in fresh.iterdir()]}
    unfinished = folder / f"{NOTE}.unfinished"
    with unfinished.open("w", encoding="utf-8") as file:
        json.dump(note, file)
        file.flush()
        os.fsync(file.fileno())
    unfinished.replace(folder / NOTE)
    _sync(folder)


def is_swapping(folder: Path) -> bool:
    """Whether a restore has been decided and not finished."""
    return (folder / NOTE).is_file()


def finish_swap(folder: Path) -> None:
    """Move everything where the note says, if there is one; safe to be stopped and begun again."""
    if not is_swapping(folder):
        return
    note = json.loads((folder / NOTE).read_text("utf-8"))
    fresh, before = folder / note["fresh"], folder / note["before"]
    before.mkdir(exist_ok=True)
    for name in ORDER:
        here = folder / name
        waits = (fresh / name).exists()
        if here.exists() and (waits or name not in note["names"]):
            here.replace(before / name)
        if waits:
            (fresh / name).replace(here)
    _sync(folder)
    (folder / NOTE).unlink()
    shutil.rmtree(fresh, ignore_errors=True)
    for older in folder.glob(f"{BEFORE}*"):
        if older != before:
            shutil.rmtree(older, ignore_errors=True)


def sweep_restores(folder: Path) -> None:
    """Remove what restores that were stopped before they were decided left behind."""
    for leftover in folder.glob(f"{RESTORED}*"):
        shutil.rmtree(leftover, ignore_errors=True)
    (folder / f"{NOTE}.unfinished").unlink(missing_ok=True)


def _sync(folder: Path) -> None:
    """Have renames in a folder written down, so that a power cut does not undo them."""
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)
