"""A logbook of a hundred thousand takes: searches, and its first page in the browser."""

from __future__ import annotations

import json
import random
import sqlite3
import tempfile
from pathlib import Path

import numpy as np

from bench.harness.measure import Figures, ratio_of, seconds
from bench.harness.serving import browsing, reference_page_s, serving
from oxlen.store.library import open_library
from oxlen.store.logbook import Search, log_entries

TAKES, SHEETS, OUTINGS = 100_000, 4000, 200
WORDS = ("hull", "paint", "slip", "mast", "sluice", "bronze", "rope", "tide", "keel", "oak", "sail")
SEARCHES = (
    Search(),
    Search("hull"),
    Search("kettle"),
    Search("hul pai"),
    Search("IMG_4711"),
    Search("sluice rope", order="rating"),
    Search("kettle", order="rating"),
    Search(filters={"outing": 7}),
    Search(filters={"sheet": 77}),
    Search(filters={"state": "kept", "iso_min": 100, "iso_max": 200}),
    Search(filters={"since": "2023-03", "until": "2023-05"}),
    Search("kettle", {"lens": "Main", "state": "kept"}, "iso"),
    Search("kettle", {"iso_min": 1600, "shutter_max_s": 0.001}, "oldest"),
    Search(filters={"shutter_min_s": 0.4, "rating": 5}, order="rating"),
    Search(filters={"lens": "none such"}),
)
"""Words few and many takes have, one filter and several, every order, and nothing found."""
ROUNDS = 8
SCAN = "SELECT sum(length(settings) + length(note)) FROM take"
"""Every take read once, as the reference."""
FIRST_ROW = """new MutationObserver(() => {
    window.rowAt ||= document.querySelector('ul[aria-label=Logbook] li') && performance.now();
}).observe(document, {childList: true, subtree: true})"""


def fill(folder: Path) -> None:
    """A library with a hundred thousand takes, their pictures by name alone."""
    draw = random.Random(1)
    with open_library(folder).writer() as connection:
        _outings(connection, draw)
        for number in range(TAKES):
            sha256 = f"{number:064x}"
            connection.execute(
                "INSERT INTO picture VALUES (?, ?, 1, '{}', '2026')",
                (sha256, f"IMG_{number}.jpg"),
            )
            day = f"20{20 + number % 7}-{1 + number % 12:02d}-{1 + number % 28:02d}T10:00:00"
            settings = {"iso": 50 * 2 ** (number % 6), "shutter_s": 1 / (2 ** (number % 12) + 1)}
            connection.execute(
                "INSERT INTO take (sheet_id, sha256, shot_on, settings, state, note, taken_at,"
                " added_at, rating, keywords, lens, situation)"
                " VALUES (?, ?, 'slip', ?, ?, ?, ?, ?, ?, ?, ?, 'still')",
                (
                    *(1 + number % SHEETS, sha256, json.dumps(settings)),
                    *(draw.choice(("new", "kept", "rejected")), " ".join(draw.sample(WORDS, 2))),
                    *(day, day, number % 6, draw.choice(WORDS), "Main" if number % 2 else "Long"),
                ),
            )


def _outings(connection: sqlite3.Connection, draw: random.Random) -> None:
    for number in range(OUTINGS):
        connection.execute(
            "INSERT INTO outing (title, place, created_at, uid)"
            " VALUES (?, 'Kettle Reach', '2026', ?)",
            (f"Outing {number} {draw.choice(WORDS)}", f"o{number}"),
        )
    for number in range(SHEETS):
        connection.execute(
            "INSERT INTO sheet (outing_id, position, revision, version, changed_at, uid)"
            " VALUES (?, ?, 1, 1, '2026', ?)",
            (1 + number % OUTINGS, number, f"s{number}"),
        )
        body = {"title": f"{' '.join(draw.sample(WORDS, 2))} {number}", "phone": "wherry-3"}
        connection.execute(
            "INSERT INTO sheet_revision VALUES (?, 1, ?, 'new', '2026')",
            (number + 1, json.dumps(body)),
        )


def figures() -> Figures:
    """What is measured."""
    with tempfile.TemporaryDirectory() as kept:
        folder = Path(kept)
        fill(folder)
        with open_library(folder).reader() as connection:
            pairs = [
                (_slow_search_s(connection), seconds(lambda: connection.execute(SCAN).fetchone()))
                for _ in range(ROUNDS)
            ]
        yield ratio_of(pairs).figure("logbook/search-by-scan")
        with serving("serve", folder) as url, browsing() as browser:
            first = []
            for _ in range(7):
                page = browser.new_context().new_page()
                page.add_init_script(FIRST_ROW)
                page.goto(f"{url}/takes")
                page.locator("ul[aria-label=Logbook] li").first.wait_for()
                first.append(
                    (float(page.evaluate("window.rowAt")) / 1000, reference_page_s(browser))
                )
        yield ratio_of(first).figure("logbook/first-page-by-page")


def _slow_search_s(connection: sqlite3.Connection) -> float:
    """The time under which 95 of 100 searches are answered."""
    times = [seconds(lambda asked=search: log_entries(connection, asked)) for search in SEARCHES]  # type: ignore[misc]
    return float(np.quantile(times, 0.95))
