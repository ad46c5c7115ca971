"""Libraries of earlier and later versions: opened, recognised, never harmed."""

import hashlib
import json
import sqlite3
import tempfile
import unittest
import zipfile
from pathlib import Path

from oxlen.core.decisions.exposure.ask import FORMAT, SUPPORT
from oxlen.core.decisions.plan import plan
from oxlen.core.errors import ArchiveError, UnreadableSheet
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.plan.brief import BriefFile
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import from_1_to_2, from_2_to_3, read_sheet
from oxlen.metering.light import measured
from oxlen.metering.picture_cache import PictureCache
from oxlen.metering.sheet_brief import brief_of_sheet
from oxlen.store.library import open_library
from oxlen.store.outings import outings
from oxlen.store.sheets import sheets_of
from oxlen.store.takes import takes_of

JUDGED_ANEW = {
    "White hull in full sun": (
        ("main", 50.0, 0.0003),
        ("main", 50.0, 0.0002),
        "a step darker: paint and rail stay below clipping by what their readings are unsure",
    ),
    "Bronze on the shed bench": (
        ("main", 50.0, 0.02),
        ("main", 50.0, 0.0333),
        "card and boards cannot both be had: each misses by as much, where the boards paid for all",
    ),
    "Sluice as a veil": (
        ("main", 50.0, 2.5),
        None,
        "ten stops too bright without a filter, which the kit has not: it says so, with ways out",
    ),
    "The sluice running": (
        ("main", 50.0, 0.5),
        ("main", 50.0, 0.4),
        "a step darker: the foam keeps its detail with what its reading is unsure",
    ),
    "Lantern evening on the quay": (
        ("main", 64.0, 0.2),
        ("main", 100.0, 0.2),
        "0.6 stop nearer to the boards as wanted; noise counted against them twice",
    ),
    "Stars over the slip": (
        ("main", 800.0, 0.3),
        None,
        "the dark sky would have been noise alone: it says so, with ways out",
    ),
}
"""Sheets whose slip is another than 0.4 gave: from what to what, and why that is better."""
BEFORE = Path(__file__).parents[1] / "library_before"


class FromBefore(unittest.TestCase):
    """The demo as version 0.4 kept it, and what 0.4 answered."""

    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        with zipfile.ZipFile(BEFORE / "demo_0_4.zip") as packed:
            packed.extractall(self.folder)

    def sheets(self):
        """Each sheet by its number: what was kept of it, what is read of it, and its brief."""
        library = open_library(self.folder)
        cache = PictureCache(library)
        self.addCleanup(cache.close)
        with library.reader() as connection:
            rows = [
                row for outing in outings(connection) for row in sheets_of(connection, outing.id)
            ]
            self.assertEqual([takes_of(connection, row.id) for row in rows], [[]] * len(rows))
        for row in rows:
            body = read_sheet(row.body)
            profile = shipped_profile(body.phone)
            light = measured(body, profile, cache)
            yield str(row.id), row.body, body, brief_of_sheet(body, profile.to_phone(), light)

    def test_every_kept_field_comes_back_as_it_was(self):
        for number, kept, body, _ in self.sheets():
            now = body.model_dump(mode="json")
            upgraded = from_2_to_3(from_1_to_2(json.loads(kept)))
            with self.subTest(number):
                self.assertGreater(len(upgraded), 3)
                for field, value in upgraded.items():
                    if field not in ("written_as", "tried_for_size"):
                        self.assert_within(value, now[field], field)

    def assert_within(self, kept, now, where):
        """All that was kept is there; what has come since may be beside it."""
        if isinstance(kept, dict):
            for name, value in kept.items():
                self.assert_within(value, now[name], f"{where}.{name}")
        elif isinstance(kept, list):
            self.assertEqual(len(kept), len(now), where)
            for place, (value, other) in enumerate(zip(kept, now, strict=True)):
                self.assert_within(value, other, f"{where}.{place}")
        else:
            self.assertEqual(now, kept, where)

    def test_every_sheet_reads_the_light_it_read_to_a_hundredth_of_a_stop(self):
        # Written by 0.4 itself, of this very library.
        before = json.loads((BEFORE / "demo_0_4_light.json").read_text("utf-8"))
        seen = set()
        for number, _, _, brief in self.sheets():
            was = before[number]
            seen.add(number)
            asked = (brief[SUPPORT], brief[FORMAT], brief.light_shift_stops)
            self.assertEqual(asked, (was["support"], was["format"], was["light_shift_stops"]))
            for then, now in zip(was["readings"], brief.readings_measured, strict=True):
                with self.subTest(was["title"], spot=then["name"]):
                    self.assertEqual((now.name, now.role), (then["name"], then["role"]))
                    self.assertAlmostEqual(now.ev100, then["ev100"], delta=0.01)
                    if now.place_stops is not None:
                        self.assertEqual(now.place_stops, then["wanted_stops"])
        self.assertEqual(seen, set(before))

    def test_slips_differ_where_the_table_says_why_and_nowhere_else(self):
        stated = json.loads((BEFORE / "demo_0_4_answers.json").read_text("utf-8"))
        for number, _, body, brief in self.sheets():
            slip, then = plan(brief).slip, stated[number]["slip"]
            now = None if slip is None else (slip.lens, slip.iso, round(slip.shutter_s, 4))
            was = (then["lens"], then["iso"], round(then["shutter_s"], 4))
            with self.subTest(body.title):
                self.assertEqual((was, now), JUDGED_ANEW.get(body.title, (was, was))[:2])

    def test_newer_data_are_refused_in_words_and_left_untouched(self):
        open_library(self.folder)
        with sqlite3.connect(self.folder / "oxlen.db") as connection:
            connection.execute("PRAGMA user_version = 999")
        connection.close()
        before = digests(self.folder)
        with self.assertRaisesRegex(ArchiveError, "newer Oxlen"):
            open_library(self.folder)
        self.assertEqual(digests(self.folder), before)


class Bodies(unittest.TestCase):
    def test_steps_held_by_hand_and_least_values_are_carried_over(self):
        saved = {
            "title": "Hull",
            "held": {"iso": 200, "shutter_s": 0.01},
            "motion": [{"subject": "walker", "speed_m_s": 0.0}],
            "school": {"iso_cap": 0.5},
        }
        upgraded = from_1_to_2(dict(saved))
        self.assertEqual(upgraded["steps_by_hand"], {"iso": 200, "shutter_s": 0.01})
        self.assertEqual(upgraded["motion"][0]["speed_m_s"], 0.001)
        self.assertEqual(upgraded["school"]["iso_cap"], 1)
        self.assertNotIn("held", upgraded)
        body = read_sheet(json.dumps(saved))
        self.assertEqual((body.steps_by_hand.iso, body.written_as), (200, "oxlen-sheet/3"))
        self.assertEqual(read_sheet(body.model_dump_json()), body)

    def test_strategies_are_read_by_their_former_name_too(self):
        """A school is a strategy since version 3: of exposure, colour, focus and file."""
        former = {"school": {"iso": "ceiling"}, "focus": {"school": "tap"}}
        former |= {"light_colour": {"school": "dial"}, "saving": {"school": "both"}}
        now = json.loads(json.dumps(former).replace("school", "strategy"))
        kept = read_sheet(json.dumps({"written_as": "oxlen-sheet/2", **former}))
        self.assertEqual(kept, SheetBody.model_validate(now))
        sent = SheetBody.model_validate({"written_as": "oxlen-sheet/2", **former})
        self.assertEqual(sent, kept)
        written = kept.model_dump_json()
        self.assertIn('"strategy":"dial"', written)
        self.assertNotIn("school", written)
        light = {"phone": "wherry-3", "readings": [{"role": "subject", "ev100": 9}]}
        briefs = [BriefFile.model_validate({**light, **asked}) for asked in (former, now)]
        self.assertEqual(*briefs)

    def test_what_cannot_be_read_says_why_and_keeps_its_text(self):
        rows = [
            ("{", "cannot be read"),
            ("[]", "cannot be read"),
            ('{"written_as": "oxlen-sheet/4"}', "newer Oxlen"),
            ('{"written_as": "tide table"}', "is not a sheet"),
            ('{"title": 7}', "title"),
            ('{"tilte": "Hull", "title": "Hull"}', "tilte"),
        ]
        for text, why in rows:
            with self.subTest(text), self.assertRaisesRegex(UnreadableSheet, why) as caught:
                read_sheet(text)
            self.assertEqual(caught.exception.text, text)


class Folders(unittest.TestCase):
    def test_names_with_signs_that_mean_something_in_an_address(self):
        for name in ("tide #3", "what?", "50%", "a b&c=d;e", "100%41"):
            with self.subTest(name), tempfile.TemporaryDirectory() as root:
                library = open_library(Path(root) / name)
                with library.reader() as connection:
                    self.assertEqual(outings(connection), [])
                self.assertEqual([path.name for path in Path(root).iterdir()], [name])


def digests(folder):
    """Every file below a folder with the digest of its content, but for SQLite's scratch files."""
    found = (path for path in sorted(folder.rglob("*")) if path.is_file())
    files = (path for path in found if path.suffix not in (".db-shm", ".db-wal"))
    return {path.name: hashlib.sha256(path.read_bytes()).hexdigest() for path in files}


if __name__ == "__main__":
    unittest.main()
