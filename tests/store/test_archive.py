"""Backups that are not what they say, and restores that stop half-way: nothing is lost."""

import hashlib
import json
import shutil
import sqlite3
import threading
import unittest
import zipfile
from pathlib import Path
from unittest import mock

from oxlen.core.errors import ArchiveError
from oxlen.store import outings
from oxlen.store.backup import write_backup
from oxlen.store.kept_files import kept_files
from oxlen.store.library import open_library
from oxlen.store.restore import restore_backup
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
            return [outing.title for outing in outings.outings(connection)]

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
            "misses 1 picture;": {"without": ["pictures/"]},
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

    def test_a_restore_stopped_anywhere_leaves_the_old_or_the_new_library_whole(self):
        with self.library.writer() as connection:
            outings.change_outing(connection, self.outing, {"title": "Later"})
        left = []
        for stop_at in range(1, 40):
            folder = self.folder / f"stop-{stop_at}"
            shutil.copytree(self.library.folder, folder)
            if not stopped(stop_at, lambda folder=folder: restore_backup(folder, self.good)):
                break
            # The start after that may be stopped as well, anywhere.
            again = self.folder / f"again-{stop_at}"
            shutil.copytree(folder, again)
            stopped(1 + stop_at % 3, lambda again=again: open_library(again))
            for place in (folder, again):
                titles = self.titles(place)
                with self.subTest(stop_at=stop_at):
                    self.assertIn(titles, (["Later"], ["Haul-out"]))
                    self.assertEqual(unfinished(place), [])
                left.append(titles[0])
        self.assertEqual(self.titles(folder), ["Haul-out"])
        # Before the one rename that decides it is the old library, after it the new one.
        self.assertEqual(sorted(left, reverse=True), left)
        self.assertEqual(set(left), {"Later", "Haul-out"})

    def test_what_was_replaced_is_kept_until_the_next_restore(self):
        for title in ("Later", "Latest"):
            with self.library.writer() as connection:
                outings.change_outing(connection, self.outing, {"title": title})
            restore_backup(self.library.folder, self.good)
            (before,) = self.library.folder.glob("before-*")
            self.assertEqual(self.titles(before), [title])
            self.assertEqual(self.titles(), ["Haul-out"])

    def test_a_picture_that_is_gone_or_rotten_is_named_and_the_rest_is_saved(self):
        other, third = (self.take(jpeg(corners() + shade)) for shade in (3, 6))
        rotten = self.library.picture_path(other.sha256)
        data = bytearray(rotten.read_bytes())
        data[len(data) // 2] ^= 1
        rotten.write_bytes(data)
        self.library.picture_path(third.sha256).unlink()
        made = self.folder / "gaps.zip"
        saved = write_backup(self.library, made)
        self.assertEqual(saved.pictures, 1)
        self.assertEqual(
            {gap.sha256: gap.trouble for gap in saved.gaps},
            {other.sha256: "damaged", third.sha256: "missing"},
        )
        place = self.folder / "elsewhere"
        restored = restore_backup(place, made)
        self.assertEqual(restored.gaps, saved.gaps)
        self.assertEqual(self.titles(place), ["Haul-out"])
        self.assertFalse(open_library(place).picture_path(other.sha256).exists())

    def test_a_backup_that_would_not_fit_is_refused_before_it_is_unpacked(self):
        small = shutil.disk_usage(self.folder)._replace(free=50_000_100)
        with (
            mock.patch.object(shutil, "disk_usage", return_value=small),
            self.assertRaisesRegex(ArchiveError, "MB to spare; nothing was changed"),
        ):
            restore_backup(self.library.folder, self.good)
        self.assertEqual(unfinished(self.library.folder), [])

    def test_packed_anew_it_is_still_good_and_bad_packing_is_refused(self):
        with zipfile.ZipFile(self.good) as whole:
            files = {name: whole.read(name) for name in whole.namelist()}
        for packing in (zipfile.ZIP_DEFLATED, zipfile.ZIP_BZIP2, zipfile.ZIP_LZMA):
            made = self.folder / f"packed-{packing}.zip"
            with zipfile.ZipFile(made, "w", packing) as packed:
                for name, data in files.items():
                    packed.writestr(name, data)
            self.assertEqual(restore_backup(self.folder / f"from-{packing}", made).pictures, 1)
            spoilt = bytearray(made.read_bytes())
            for at in range(len(spoilt) // 8, len(spoilt) // 8 + 400):
                spoilt[at] ^= 0x55
            made.write_bytes(spoilt)
            with self.subTest(packing), self.assertRaisesRegex(ArchiveError, "nothing was changed"):
                restore_backup(self.library.folder, made)
            self.assertEqual(self.titles(), ["Haul-out"])

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
            counts.append(restore_backup(place, made).pictures)
            with open_library(place).reader() as connection:
                self.assertEqual(len(kept_files(connection)), counts[-1])
        worker.join()
        self.assertEqual(counts, sorted(counts))


class Stopped(BaseException):
    """The process ends here, as if it were killed: nothing cleans up."""


def stopped(at, work):
    """Do something that is killed just before its n-th rename or folder; whether it was."""
    count = 0

    def counted(real):
        def call(*arguments, **options):
            nonlocal count
            count += 1
            if count >= at:
                raise Stopped
            return real(*arguments, **options)

        return call

    with (
        mock.patch.object(Path, "replace", counted(Path.replace)),
        mock.patch.object(Path, "mkdir", counted(Path.mkdir)),
        mock.patch.object(Path, "unlink", counted(Path.unlink)),
        mock.patch.object(shutil, "rmtree", return_value=None),
    ):
        try:
            work()
        except Stopped:
            return True
    return False


def unfinished(folder):
    """What restores left behind in a folder that has been opened since."""
    return [path.name for path in folder.iterdir() if path.name.startswith(("restoring-", "swap"))]


if __name__ == "__main__":
    unittest.main()
