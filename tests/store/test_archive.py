"""Backups that are not what they say, and restores that stop half-way: nothing is lost."""

import hashlib
import json
import sqlite3
import threading
import unittest
import zipfile
from pathlib import Path
from unittest import mock

from oxlen.core.errors import ArchiveError
from oxlen.store import outings, pictures, sheets
from oxlen.store.archive import restore_backup, write_backup
from oxlen.store.library import open_library
from tests.pictures.making import corners, jpeg
from tests.store.test_store import WithLibrary


class Backups(WithLibrary):
    def setUp(self):
        super().setUp()
        self.take(jpeg(corners()))
        self.good = self.folder / "good.zip"
        write_backup(self.library, self.good)

    def titles(self, folder=None):
        library = self.library if folder is None else open_library(folder)
        with library.reader() as connection:
            return [one.title for one in outings.outings(connection)]

    def changed(self, change_database=None, **change):
        """The good backup with its database, its manifest or its names changed."""
        with zipfile.ZipFile(self.good) as whole:
            files = {name: whole.read(name) for name in whole.namelist()}
        manifest = json.loads(files.pop("manifest.json"))
        if change_database is not None:
            path = self.folder / "inside.db"
            path.write_bytes(files["oxlen.db"])
            with sqlite3.connect(path) as connection:
                connection.executescript(change_database)
            connection.close()
            files["oxlen.db"] = path.read_bytes()
        for name in change.get("without", ()):
            found = next(full for full in files if full.startswith(name))
            del files[found], manifest["sha256"][found]
        files |= change.get("files", {})
        manifest["sha256"] = {n: hashlib.sha256(data).hexdigest() for n, data in files.items()}
        manifest |= change.get("manifest", {})
        made = self.folder / "changed.zip"
        with zipfile.ZipFile(made, "w") as packed:
            packed.writestr("manifest.json", json.dumps(manifest))
            for name, data in files.items():
                packed.writestr(name, data)
        return made

    def test_each_way_of_being_wrong_is_named_and_changes_nothing(self):
        wrong = {
            "no Oxlen backup": {"manifest": {"format": "other/1"}},
            "list of contents": {"manifest": {"sha256": None}},
            "misses 1 pictures": {"without": ["pictures/"]},
            "cannot be read": {"files": {"oxlen.db": b"no database" * 500}},
            "misses rows": {"change_database": "PRAGMA foreign_keys = OFF; DELETE FROM outing;"},
            "newer": {"change_database": "PRAGMA user_version = 999;"},
            "has no place here": {"files": {"pictures/../../evil": b"x"}},
        }
        for words, how in wrong.items():
            with self.subTest(words), self.assertRaisesRegex(ArchiveError, words):
                restore_backup(self.library.folder, self.changed(**how))
            self.assertEqual(self.titles(), ["Haul-out"])
        self.assertFalse((self.folder / "evil").exists())

    def test_a_packing_nobody_knows_and_a_locked_file_are_refused(self):
        whole = self.good.read_bytes()
        # Byte 8 of a central header holds the flags (bit 0: locked), byte 10 the packing.
        for offset, value in ((8, 1), (10, 99)):
            made = bytearray(whole)
            at = made.index(b"PK\x01\x02")
            while at >= 0:
                made[at + offset] = value
                at = made.find(b"PK\x01\x02", at + 4)
            odd = self.folder / "odd.zip"
            odd.write_bytes(made)
            with (
                self.subTest(offset=offset),
                self.assertRaisesRegex(ArchiveError, "not a whole Oxlen backup"),
            ):
                restore_backup(self.library.folder, odd)
            self.assertEqual(self.titles(), ["Haul-out"])

    def test_a_restore_that_stops_half_way_puts_the_old_back(self):
        with self.library.writer() as connection:
            outings.change_outing(connection, self.outing, {"title": "Later"})
        moves = Path.replace
        for stop_at in (1, 2, 4):
            count = 0

            def replace(path, target, stop_at=stop_at):
                nonlocal count
                if Path(target).parent == self.library.folder:
                    count += 1
                    if count == stop_at:
                        raise OSError("the disk went away")
                return moves(path, target)

            with (
                self.subTest(stop_at=stop_at),
                mock.patch.object(Path, "replace", replace),
                self.assertRaises(OSError),
            ):
                restore_backup(self.library.folder, self.good)
            self.assertEqual(self.titles(self.library.folder), ["Later"])
        self.assertEqual(restore_backup(self.library.folder, self.good), 1)
        self.assertEqual(self.titles(self.library.folder), ["Haul-out"])

    def test_an_older_database_is_brought_up_to_date(self):
        older = self.changed(
            "ALTER TABLE phone DROP COLUMN removed_at; DROP TABLE glass; DROP TABLE preset;"
            "DROP TABLE take; DROP TABLE sequence; DROP TABLE plan;"
            "ALTER TABLE outing DROP COLUMN latitude_deg;"
            "ALTER TABLE outing DROP COLUMN longitude_deg;"
            "ALTER TABLE outing DROP COLUMN date; ALTER TABLE outing DROP COLUMN time_zone;"
            "PRAGMA user_version = 1;"
        )
        restored = self.folder / "older"
        restore_backup(restored, older)
        with open_library(restored).reader() as connection:
            self.assertEqual(connection.execute("SELECT count(*) FROM preset").fetchone()[0], 0)
            self.assertEqual(len(sheets.sheets_of(connection, self.outing)), 1)

    def test_a_backup_taken_while_pictures_come_in_is_whole(self):
        done = threading.Event()

        def keep_taking():
            for shade in range(12):
                self.take(jpeg(corners() + shade + 1))
            done.set()

        worker = threading.Thread(target=keep_taking)
        worker.start()
        counts = []
        while not done.is_set() or not counts:
            made = self.folder / f"while-{len(counts)}.zip"
            write_backup(self.library, made)
            place = self.folder / f"restored-{len(counts)}"
            counts.append(restore_backup(place, made))
            with open_library(place).reader() as connection:
                self.assertEqual(len(pictures.kept_hashes(connection)), counts[-1])
        worker.join()
        self.assertEqual(counts, sorted(counts))


if __name__ == "__main__":
    unittest.main()
