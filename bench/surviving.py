"""Kill the app, backups and restores without warning; count what was lost."""

from __future__ import annotations

import hashlib
import os
import random
import shutil
import subprocess
import sys
import tempfile
import threading
import time
from collections import Counter
from contextlib import suppress
from dataclasses import dataclass, field
from pathlib import Path

import httpx

from bench.harness.measure import Figure, Figures
from bench.harness.promises import PAIRED_FROM, Promised, Worker
from bench.harness.running import running, started
from oxlen.formats.sheet.file import SheetBody
from oxlen.store.backup import write_backup
from oxlen.store.check import findings_in
from oxlen.store.inbox import inbox
from oxlen.store.library import Library, open_library
from oxlen.store.outings import add_outing, outing
from oxlen.store.restore import restore_backup
from oxlen.store.sheets import add_sheet, every_sheet
from oxlen.store.takes import takes_of
from oxlen.takes.outing_out import write_outing

START_KILLS, APP_KILLS, BACKUP_KILLS, RESTORE_KILLS = 20, 60, 30, 40
OUTINGS_A_ROUND = 3
NOW = "2026-10-03T12:00:00+00:00"
SOURCE = Path(__file__).parents[1] / "src"


@dataclass
class Lost:
    """What was found missing or left over after kills."""

    kills: int = 0
    sheets: int = 0
    empty: int = 0
    faults: int = 0
    done: dict[str, int] = field(default_factory=dict)


def figures() -> Figures:
    """What is measured."""
    lost, generator = Lost(), random.Random(11)
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        _kill_apps(folder / "data", lost, generator)
        _kill_backups(folder / "data", folder / "backup.zip", lost, generator=generator)
        _kill_restores(folder / "data", folder / "other.zip", lost, generator=generator)
    for way in ("import", "take", "inbox", "frame", "import_outing", "pair"):
        assert lost.done[way] > 5, f"{way} was hardly done before the kills"
    done = ", ".join(f"{count} {what}" for what, count in lost.done.items())
    yield Figure("surviving/broken", lost.sheets, note=f"{lost.kills} kills; {done}")
    yield Figure("surviving/empty", lost.empty)
    yield Figure("surviving/faults", lost.faults)


def _kill_apps(folder: Path, lost: Lost, generator: random.Random) -> None:
    """Killed while it starts, from the first millisecond on, and while it does all it can."""
    done: Counter[str] = Counter()
    for _ in range(START_KILLS):
        process = _command("serve", "--no-browser", "--port", "0", "--data", folder)
        time.sleep(generator.uniform(0.0, 1.5))
        process.kill()
        process.wait()
        lost.kills += 1
        _look_over(folder, lost, Promised())
    for _ in range(APP_KILLS):
        promised, did = _round(folder, generator, generator.uniform(0.1, 3.0))
        done, lost.kills = done + did, lost.kills + 1
        _look_over(folder, lost, promised)
        _send_again(folder, lost, promised)
    lost.done |= done


def _look_over(folder: Path, lost: Lost, promised: Promised) -> None:
    """Open the library as the next start does, and compare it with what was promised."""
    library = open_library(folder)
    gone = promised.lost(library)
    found = [finding.words for finding in findings_in(library)]
    lost.sheets, lost.faults = lost.sheets + len(gone), lost.faults + len(found)
    print(*gone, *found, sep="\n", end="\n" if gone or found else "", flush=True)


def _send_again(folder: Path, lost: Lost, promised: Promised) -> None:
    """What was on its way is sent once more by its queue: each of it is there once."""
    library = Library(folder)
    with running(folder) as app:
        for path, data in promised.sent[-4:]:
            app.client.post(path, content=data).raise_for_status()
    with library.reader() as connection:
        for path, data in promised.sent[-4:]:
            sha256 = hashlib.sha256(data).hexdigest()
            if path.startswith("/api/sheets"):
                here = [take.sha256 for take in takes_of(connection, int(path.split("/")[3]))]
            else:
                here = [entry.sha256 for entry in inbox(connection)]
            if here.count(sha256) != 1:
                lost.sheets += 1
                print(f"{path} is there {here.count(sha256)} times", flush=True)


def _round(
    folder: Path, generator: random.Random, kill_after_s: float
) -> tuple[Promised, Counter[str]]:
    """Do a bit of everything until the process is killed; what was promised, and what was done."""
    with tempfile.TemporaryDirectory() as files:
        outings = [_outing_file(Path(files), number) for number in range(OUTINGS_A_ROUND)]
        app = started(folder, more=("--network", "5", "--plain", "--address", PAIRED_FROM))
        served = app.client.get("/api/network").json()["urls"]
        worker = Worker(app.client, generator, Promised(), outings, served[0])
        timer = threading.Timer(kill_after_s, app.process.kill)
        timer.start()
        with suppress(httpx.TransportError):
            worker.work()
        timer.join()
        app.process.wait()
        app.client.close()
        if app.process.stdout is not None:
            app.process.stdout.close()
    return worker.promised, worker.done


def _outing_file(folder: Path, number: int) -> tuple[str, Path]:
    """An outing with a sheet, as another Oxlen writes it; its name wherever it is carried."""
    library = open_library(folder / f"library-{number}")
    with library.writer() as connection:
        outing_id = add_outing(connection, title="Carried", now=NOW)
        body = SheetBody(title="Tarred hull", phone="wherry-3").model_dump_json()
        add_sheet(connection, outing_id, body, now=NOW)
        uid = outing(connection, outing_id).uid
    path = folder / f"outing-{number}.zip"
    write_outing(library, outing_id, path)
    return uid, path


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
    _round(larger, random.Random(5), 3.0)
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
        _look_over(other, lost, Promised())
    lost.done["restores"] = RESTORE_KILLS


def _sheets_in(folder: Path) -> list[tuple[int, str]]:
    with open_library(folder).reader() as connection:
        return [(sheet.id, sheet.body) for sheet in every_sheet(connection)]


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
