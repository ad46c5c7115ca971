"""Saved on this phone: migrations, revisions, the bin, pictures, backup and restore."""

import json
import sqlite3
import tempfile
import time
import unittest
import zipfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from unittest import mock

from oxlen.core.errors import ArchiveError, BadInput, EditClash, NotFound
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.sheet.preset import PresetFile
from oxlen.store import outings, sheets
from oxlen.store.backup import write_backup
from oxlen.store.connect import connect
from oxlen.store.kept_files import kept_files
from oxlen.store.kit import phones, presets
from oxlen.store.library import hold_lock, open_library
from oxlen.store.migrate import migrate, schema_version, shipped_migrations
from oxlen.store.restore import restore_backup
from oxlen.takes.importing import onto_new_sheet, onto_sheet, remake_preview, take_in
from tests.pictures.making import corners, jpeg

NOW = "2026-10-03T08:00:00+00:00"


class InMemory(unittest.TestCase):
    def setUp(self):
        self.connection = connect(":memory:")
        self.addCleanup(self.connection.close)
        migrate(self.connection)

    def outing(self):
        return outings.add_outing(
            self.connection, title="Haul-out", place="slip", light_window="", now=NOW
        )

    def sheet(self, body="{}"):
        return sheets.add_sheet(self.connection, self.outing(), body, now=NOW)

    def edit(self, sheet_id, body, version):
        sheets.edit_sheet(
            self.connection, sheet_id, body=body, label="edit", from_version=version, now=NOW
        )


class Migrations(InMemory):
    def test_applied_once_and_numbered(self):
        self.assertEqual(schema_version(self.connection), max(shipped_migrations()))
        self.assertEqual(migrate(self.connection), schema_version(self.connection))

    def test_a_failing_migration_leaves_nothing_behind(self):
        steps = {
            **shipped_migrations(),
            90: "CREATE TABLE half (x);\nINSERT INTO nowhere VALUES (1);",
        }
        with self.assertRaises(sqlite3.OperationalError):
            migrate(self.connection, steps)
        found = self.connection.execute("SELECT 1 FROM sqlite_master WHERE name = 'half'")
        self.assertIsNone(found.fetchone())
        self.assertNotEqual(schema_version(self.connection), 90)

    def test_data_of_a_newer_version_are_not_touched(self):
        self.connection.execute("PRAGMA user_version = 999")
        with self.assertRaisesRegex(ArchiveError, "newer"):
            migrate(self.connection)

    def test_tables_are_strict_and_keys_are_held(self):
        with self.assertRaises(sqlite3.IntegrityError):
            self.connection.execute("UPDATE sheet SET position = 'first'") if self.sheet() else None
        with self.assertRaises(sqlite3.IntegrityError):
            sheets.add_sheet(self.connection, 999, "{}", now=NOW)


class Presets(InMemory):
    def test_the_one_kept_last_comes_first_though_the_clock_was_set_back(self):
        for name, now in (
            ("first", "2026-10-03"),
            ("second", "2025-01-01"),
            ("third", "2025-01-01"),
        ):
            preset = PresetFile(id=name, name=name.title(), choices={"support": "tripod"})
            presets.keep_preset(self.connection, preset, now)
        names = [item.id for item in presets.kept_presets(self.connection)]
        self.assertEqual(names, ["third", "second", "first"])


class Sheets(InMemory):
    def test_undo_and_redo_walk_the_revisions(self):
        sheet_id = self.sheet('{"n": 0}')
        for number in (1, 2, 3):
            self.edit(sheet_id, json.dumps({"n": number}), number)
        for step, want in ((-1, 2), (-1, 1), (1, 2), (-1, 1), (-1, 0)):
            sheets.step_sheet(self.connection, sheet_id, step, now=NOW)
            self.assertEqual(json.loads(sheets.sheet(self.connection, sheet_id).body)["n"], want)
        with self.assertRaisesRegex(NotFound, "Nothing to undo"):
            sheets.step_sheet(self.connection, sheet_id, -1, now=NOW)

    def test_an_edit_after_undo_lets_the_undone_go(self):
        sheet_id = self.sheet()
        self.edit(sheet_id, '{"n": 1}', 1)
        sheets.step_sheet(self.connection, sheet_id, -1, now=NOW)
        self.edit(sheet_id, '{"n": 2}', 3)
        kept = sheets.sheet(self.connection, sheet_id)
        self.assertEqual(
            (json.loads(kept.body)["n"], kept.can_redo, kept.can_undo), (2, False, True)
        )

    def test_an_edit_from_an_older_state_is_refused(self):
        sheet_id = self.sheet()
        self.edit(sheet_id, '{"n": 1}', 1)
        with self.assertRaises(EditClash):
            self.edit(sheet_id, '{"n": 9}', 1)
        self.assertEqual(json.loads(sheets.sheet(self.connection, sheet_id).body)["n"], 1)

    def test_the_bin_gives_back(self):
        sheet_id = self.sheet()
        outing_id = sheets.sheet(self.connection, sheet_id).outing_id
        sheets.set_sheet_deleted(self.connection, sheet_id, NOW)
        self.assertEqual(sheets.sheets_of(self.connection, outing_id), [])
        self.assertEqual(len(sheets.sheets_of(self.connection, outing_id, deleted=True)), 1)
        sheets.set_sheet_deleted(self.connection, sheet_id, None)
        self.assertEqual(len(sheets.sheets_of(self.connection, outing_id)), 1)

    def test_phones(self):
        profile = shipped_profile("dabber").model_copy(update={"id": "mine"})
        phones.keep_profile(self.connection, profile, NOW)
        self.assertEqual(phones.kept_profile(self.connection, "mine"), profile)
        phones.drop_profile(self.connection, "mine", NOW)
        self.assertEqual(phones.kept_profiles(self.connection), {})
        self.assertEqual(phones.kept_profile(self.connection, "mine"), profile)
        with self.assertRaisesRegex(NotFound, "mine"):
            phones.drop_profile(self.connection, "mine", NOW)
        phones.keep_profile(self.connection, profile, NOW)
        self.assertEqual(list(phones.kept_profiles(self.connection)), ["mine"])


class WithLibrary(unittest.TestCase):
    """A library on disk with one outing."""

    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.library = open_library(self.folder / "data")
        with self.library.writer() as connection:
            self.outing = outings.add_outing(
                connection, title="Haul-out", place="", light_window="", now=NOW
            )

    def take(self, data, name="a.jpg", attach=None):
        incoming = self.library.incoming_path()
        incoming.write_bytes(data)
        attach = attach or onto_new_sheet(self.outing, name, "wherry-3", now=NOW)
        return take_in(self.library, incoming, name, now=NOW, attach=attach)


class OnDisk(WithLibrary):
    def test_the_same_picture_twice_is_kept_once(self):
        first, second = self.take(jpeg(corners())), self.take(jpeg(corners()), "b.jpg")
        self.assertEqual(first.sha256, second.sha256)
        self.assertNotEqual(first.sheet_id, second.sheet_id)
        self.assertEqual(len(list((self.library.folder / "pictures").glob("??/*"))), 1)

    def test_previews_are_remade(self):
        taken = self.take(jpeg(corners()))
        self.library.preview_path(taken.sha256).unlink()
        self.assertTrue(remake_preview(self.library, taken.sha256))
        self.assertTrue(self.library.preview_path(taken.sha256).is_file())

    def test_undo_brings_the_earlier_picture_back(self):
        first = self.take(jpeg(corners()))
        self.take(jpeg(corners() + 9), attach=onto_sheet(first.sheet_id, NOW))
        with self.library.writer() as connection:
            sheets.step_sheet(connection, first.sheet_id, -1, now=NOW)
            body = json.loads(sheets.sheet(connection, first.sheet_id).body)
        self.assertEqual(body["picture"], first.sha256)

    def test_a_failed_import_keeps_nothing(self):
        def attach(*_):
            raise NotFound("no such sheet")

        with self.assertRaises(NotFound):
            self.take(jpeg(corners()), attach=attach)
        library = open_library(self.library.folder)
        with library.reader() as connection:
            self.assertEqual(kept_files(connection), [])
        for name in ("pictures", "previews", "incoming"):
            files = [p for p in (library.folder / name).rglob("*") if p.is_file()]
            self.assertEqual(files, [], name)

    def test_backup_and_restore(self):
        taken = self.take(jpeg(corners()))
        archive = self.folder / "kept.zip"
        self.assertEqual(write_backup(self.library, archive).pictures, 1)
        other = self.folder / "other"
        self.assertEqual(restore_backup(other, archive).pictures, 1)
        restored = open_library(other)
        with restored.reader() as connection:
            self.assertEqual(sheets.sheet(connection, taken.sheet_id).outing_id, self.outing)
        same = restored.picture_path(taken.sha256).read_bytes()
        self.assertEqual(same, self.library.picture_path(taken.sha256).read_bytes())

    def test_a_damaged_backup_changes_nothing(self):
        self.take(jpeg(corners()))
        good = self.folder / "good.zip"
        write_backup(self.library, good)
        whole = good.read_bytes()
        flipped = bytearray(whole)
        flipped[whole.index(jpeg(corners())[:64]) + 700] ^= 255
        foreign = self.folder / "foreign.zip"
        with zipfile.ZipFile(foreign, "w") as archive:
            archive.writestr(
                "manifest.json",
                json.dumps(
                    {
                        "format": "oxlen-backup/1",
                        "sha256": {"oxlen.db": "0" * 64, "../evil": "1" * 64},
                    }
                ),
            )
            archive.writestr("oxlen.db", b"")
            archive.writestr("../evil", b"x")
        rows = {
            "cut": whole[: len(whole) // 2],
            "flipped": bytes(flipped),
            "no zip": b"words",
            "foreign": foreign.read_bytes(),
        }
        before = self.library.database.read_bytes()
        for name, data in rows.items():
            bad = self.folder / f"{name}.zip"
            bad.write_bytes(data)
            with self.subTest(name), self.assertRaisesRegex(ArchiveError, "nothing was changed"):
                restore_backup(self.library.folder, bad)
        self.assertEqual(self.library.database.read_bytes(), before)
        self.assertFalse((self.folder / "evil").exists())
        with self.library.reader() as connection:
            self.assertEqual(len(sheets.sheets_of(connection, self.outing)), 1)

    def test_no_restore_under_a_running_app(self):
        archive = self.folder / "kept.zip"
        write_backup(self.library, archive)
        with hold_lock(self.library.folder), self.assertRaisesRegex(BadInput, "Another Oxlen"):
            restore_backup(self.library.folder, archive)

    def test_writers_on_a_slow_disk_wait_in_turn_and_none_is_refused(self):
        # Together they write for longer than SQLite allows one of them to wait.
        def write(number):
            with self.library.writer() as slow:
                outings.add_outing(slow, title=f"o{number}", place="", light_window="", now=NOW)
                time.sleep(0.3)

        with mock.patch("oxlen.store.connect.BUSY_TIMEOUT_S", 0.5), ThreadPoolExecutor() as pool:
            list(pool.map(write, range(6)))
        with self.library.reader() as connection:
            self.assertEqual(len(outings.outings(connection)), 7)

    def test_readers_do_not_mind_that_the_log_goes_as_they_look(self):
        log = self.library.database.with_name("oxlen.db-wal")
        self.assertFalse(log.exists())
        with mock.patch.object(Path, "exists", return_value=True), self.library.reader() as reader:
            self.assertEqual(reader.execute("SELECT 1").fetchone()[0], 1)

    def test_a_writer_whose_turn_never_comes_is_refused_in_the_end(self):
        with (
            mock.patch("oxlen.store.library.WRITE_TURN_S", 0.05),
            self.library.writer(),
            self.assertRaisesRegex(sqlite3.OperationalError, "locked"),
            self.library.writer(),
        ):
            self.fail("two wrote at once")
