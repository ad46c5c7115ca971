"""Kill the app, backups and restores without warning; count what was lost."""

from __future__ import annotations

import io
import os
import random
import shutil
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

import httpx
import numpy as np
from PIL import Image

from bench.running import started
from oxlen.core.errors import NotFound
from oxlen.store.backup import write_backup
from oxlen.store.check import findings_in
from oxlen.store.library import Library, open_library
from oxlen.store.restore import restore_backup
from oxlen.store.sheets import every_sheet, sheet

APP_KILLS, BACKUP_KILLS, RESTORE_KILLS = 40, 30, 40
PER_ROUND = 25
SOURCE = Path(__file__).parents[1] / "src"


@dataclass
class Lost:
    """What was found missing or left over after kills."""

    kills: int = 0
    sheets: int = 0
    empty: int = 0
    faults: int = 0
    done: dict[str, int] = field(default_factory=dict)


def figures() -> Iterator[tuple[str, float, float]]:
    """(name, count measured, count wanted at most)."""
    lost, generator = Lost(), random.Random(11)
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        _kill_apps(folder / "data", lost, generator)
        _kill_backups(folder / "data", folder / "backup.zip", lost, generator=generator)
        _kill_restores(folder / "data", folder / "other.zip", lost, generator=generator)
    assert lost.done["imports and edits"] > APP_KILLS, "hardly anything was done before the kills"
    done = ", ".join(f"{count} {what}" for what, count in lost.done.items())
    yield f"committed sheets lost in {lost.kills} kills ({done})", lost.sheets, 0
    yield "libraries found empty", lost.empty, 0
    yield "faults and leftovers after the next start", lost.faults, 0


def _kill_apps(folder: Path, lost: Lost, generator: random.Random) -> None:
    asked = 0
    for _ in range(APP_KILLS):
        promised, count = _round(folder, asked, generator.uniform(0.8, 2.5))
        asked, lost.kills = asked + count, lost.kills + 1
        _look_over(folder, lost, promised)
    lost.done["imports and edits"] = asked


def _look_over(folder: Path, lost: Lost, promised: dict[int, int]) -> None:
    """Open the library as the next start does, and hold it against what was promised."""
    library = open_library(folder)
    with library.reader() as connection:
        for sheet_id, version in promised.items():
            try:
                lost.sheets += sheet(connection, sheet_id).version < version
            except NotFound:
                lost.sheets += 1
    found = [finding.words for finding in findings_in(library)]
    lost.faults += len(found)
    print(*found, sep="\n", end="\n" if found else "", flush=True)


def _round(folder: Path, first: int, kill_after_s: float) -> tuple[dict[int, int], int]:
    """Import and edit until the process is killed; which version each sheet was promised."""
    app = started(folder)
    timer = threading.Timer(kill_after_s, app.process.kill)
    promised: dict[int, int] = {}
    count = 0
    try:
        outing = app.client.post("/api/outings", json={"title": "Kill"}).json()["id"]
        timer.start()
        for picture in range(PER_ROUND):
            count += 1
            _import_and_edit(app.client, outing, first + picture, promised=promised)
    except httpx.HTTPError:
        pass
    timer.join()
    app.process.wait()
    if app.process.stdout is not None:
        app.process.stdout.close()
    return promised, count


def _import_and_edit(
    client: httpx.Client, outing: int, number: int, *, promised: dict[int, int]
) -> None:
    pixels = np.random.default_rng(number).integers(0, 255, (90, 120, 3), dtype=np.uint8)
    buffer = io.BytesIO()
    Image.fromarray(pixels).save(buffer, "JPEG")
    path = f"/api/outings/{outing}/pictures?name=p{number}.jpg"
    view = client.post(path, content=buffer.getvalue()).json()["sheet"]
    promised[view["id"]] = view["version"]
    body = {**view["body"], "support": "tripod"}
    edit = {"version": view["version"], "label": "edit", "body": body}
    promised[view["id"]] = client.put(f"/api/sheets/{view['id']}", json=edit).json()["version"]


def _kill_backups(folder: Path, target: Path, lost: Lost, *, generator: random.Random) -> None:
    """A backup is there whole or not at all, and nothing of it is left beside it."""
    whole = _took_s("backup", target, folder)
    for _ in range(BACKUP_KILLS):
        target.unlink(missing_ok=True)
        _killed("backup", target, folder, after_s=generator.uniform(0.1, whole))
        lost.kills += 1
        if target.exists():
            with tempfile.TemporaryDirectory() as elsewhere:
                restore_backup(Path(elsewhere) / "data", target)
        write_backup(Library(folder), target)  # the next one sweeps
        left = [path.name for path in target.parent.glob(".*") if path != target]
        lost.faults += len(left)
        print(*left, sep="\n", end="\n" if left else "", flush=True)
    lost.done["backups"] = BACKUP_KILLS


def _kill_restores(folder: Path, target: Path, lost: Lost, *, generator: random.Random) -> None:
    """After a restore was killed the library is the old one or the new one, whole."""
    write_backup(Library(folder), target)
    here, larger, other = _sheets_in(folder), folder.parent / "grown", folder.parent / "other"
    shutil.copytree(folder, larger)
    _round(larger, 10**6, 3.0)
    grown = _sheets_in(larger)
    shutil.copytree(larger, other)
    whole = _took_s("restore", target, other)
    for _ in range(RESTORE_KILLS):
        shutil.rmtree(other)
        shutil.copytree(larger, other)
        _killed("restore", target, other, after_s=generator.uniform(0.3, 1.1) * whole)
        lost.kills += 1
        found = _sheets_in(other)
        lost.empty += not found
        lost.sheets += found not in (here, grown)
        _look_over(other, lost, {})
    lost.done["restores"] = RESTORE_KILLS


def _sheets_in(folder: Path) -> list[tuple[int, str]]:
    with open_library(folder).reader() as connection:
        return [(one.id, one.body) for one in every_sheet(connection)]


def _command(*words: object) -> subprocess.Popen[bytes]:
    environment = {**os.environ, "PYTHONPATH": str(SOURCE)}
    command = [sys.executable, "-m", "oxlen", *map(str, words)]
    return subprocess.Popen(
        command, env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
    )


def _took_s(what: str, target: Path, folder: Path) -> float:
    began = time.monotonic()
    _command(what, target, "--data", folder).wait()
    return time.monotonic() - began


def _killed(what: str, target: Path, folder: Path, *, after_s: float) -> None:
    process = _command(what, target, "--data", folder)
    time.sleep(after_s)
    process.kill()
    process.wait()
