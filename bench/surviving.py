"""Kill the app without warning during 100 imports and edits; count what was lost."""

from __future__ import annotations

import io
import os
import random
import re
import signal
import subprocess
import sys
import tempfile
import threading
from collections.abc import Iterator
from pathlib import Path

import httpx
import numpy as np
from PIL import Image

from oxlen.core.errors import NotFound
from oxlen.store.library import open_library
from oxlen.store.pictures import kept_hashes
from oxlen.store.sheets import sheet

WANTED, PER_ROUND = 100, 25


def figures() -> Iterator[tuple[str, float, float]]:
    """(name, count measured, count wanted at most)."""
    lost = orphans = broken = asked = rounds = 0
    generator = random.Random(11)
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        while asked < WANTED:
            promised, count = _round(folder, asked, generator.uniform(0.1, 0.8))
            asked, rounds = asked + count, rounds + 1
            library = open_library(folder)
            with library.reader() as connection:
                check = connection.execute("PRAGMA integrity_check").fetchone()[0]
                broken += check != "ok"
                known = set(kept_hashes(connection))
                for sheet_id, version in promised.items():
                    try:
                        lost += sheet(connection, sheet_id).version < version
                    except NotFound:
                        lost += 1
            files = {path.name for path in (folder / "pictures").glob("??/*")}
            orphans += len(files ^ known) + len(list((folder / "incoming").iterdir()))
    yield f"committed sheets lost in {asked} imports and edits with {rounds} kills", lost, 0
    yield "databases that fail integrity_check", broken, 0
    yield "orphan pictures after the next start", orphans, 0


def _round(folder: Path, first: int, kill_after_s: float) -> tuple[dict[int, int], int]:
    """Import and edit until the process is killed; which version each sheet was promised."""
    environment = {**os.environ, "PYTHONPATH": str(Path(__file__).parents[1] / "src")}
    process = subprocess.Popen(
        [sys.executable, "-m", "oxlen", "serve", "--no-browser", "--port", "0", "--data", folder],
        stdout=subprocess.PIPE,
        text=True,
        env=environment,
    )
    assert process.stdout is not None
    found = re.search(r"http://[\d.:]+", process.stdout.readline())
    assert found is not None
    timer = threading.Timer(kill_after_s, process.send_signal, [signal.SIGKILL])
    timer.start()
    promised: dict[int, int] = {}
    count = 0
    try:
        with httpx.Client(base_url=found.group()) as client:
            outing = client.post("/api/outings", json={"title": "Kill"}).json()["id"]
            for picture in range(PER_ROUND):
                count += 1
                _import_and_edit(client, outing, first + picture, promised=promised)
    except httpx.HTTPError:
        pass
    timer.join()
    process.wait()
    process.stdout.close()
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
