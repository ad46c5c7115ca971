"""Libraries of earlier and later versions: opened, told apart, never harmed."""

import hashlib
import json
import sqlite3
import tempfile
import unittest
import zipfile
from pathlib import Path

from oxlen.core.errors import ArchiveError, UnreadableSheet
from oxlen.formats.sheet_upgrades import from_1_to_2, read_sheet
from oxlen.formats.shipped_phones import shipped_profile
from oxlen.metering.picture_cache import PictureCache
from oxlen.store.library import open_library
from oxlen.store.outings import outings
from oxlen.store.sheets import sheets_of
from oxlen.store.takes import takes_of
from oxlen.views.answer import answer

BEFORE = Path(__file__).parents[1] / "library_before"


class FromBefore(unittest.TestCase):
    """The demo as version 0.4 kept it, and what 0.4 answered."""

    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        with zipfile.ZipFile(BEFORE / "demo_0_4.zip") as packed:
            packed.extractall(self.folder)

    def test_every_sheet_reads_the_light_it_read(self):
        library = open_library(self.folder)
        cache = PictureCache(library)
        self.addCleanup(cache.close)
        said = json.loads((BEFORE / "demo_0_4_answers.json").read_text("utf-8"))
        with library.reader() as connection:
            rows = [row for one in outings(connection) for row in sheets_of(connection, one.id)]
            self.assertEqual([takes_of(connection, row.id) for row in rows], [[]] * len(rows))
        self.assertEqual({str(row.id) for row in rows}, set(said))
        for row in rows:
            before = said[str(row.id)]
            now = answer(read_sheet(row.body), shipped_profile, cache)
            with self.subTest(before["title"]):
                if now.plan.slip is None:
                    self.assertIsNotNone(now.plan.conflict)
                    continue
                # Which step is chosen is a matter of judgement, which grows; the light is not.
                self.assertEqual(now.plan.slip.lens, before["slip"]["lens"])
                exposed = now.plan.slip.ev100_set, before["slip"]["ev100_set"]
                self.assertAlmostEqual(*exposed, delta=0.9)

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
        self.assertEqual((body.steps_by_hand.iso, body.written_as), (200, "oxlen-sheet/2"))
        self.assertEqual(read_sheet(body.model_dump_json()), body)

    def test_what_cannot_be_read_says_why_and_keeps_its_text(self):
        rows = [
            ("{", "cannot be read"),
            ("[]", "cannot be read"),
            ('{"written_as": "oxlen-sheet/3"}', "newer Oxlen"),
            ('{"written_as": "tide table"}', "no sheet"),
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
