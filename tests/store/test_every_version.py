"""Libraries of every version of the schema: backed up before the upgrade, opened, restored."""

import hashlib
import json
import sqlite3
import tempfile
import unittest
from pathlib import Path

from oxlen.store.backup import write_backup
from oxlen.store.check import findings_in
from oxlen.store.connect import connect
from oxlen.store.library import Library, open_library
from oxlen.store.migrate import migrate, schema_version, shipped_migrations
from oxlen.store.outings import outings
from oxlen.store.pictures import kept_picture
from oxlen.store.restore import restore_backup
from oxlen.store.sheets import sheets_of
from tests.cli.test_commands import oxlen

BODY = {"title": "Tarred hull", "phone": "wherry-3"}
CONTENT = b"a picture, by its content alone"
SHA = hashlib.sha256(CONTENT).hexdigest()


class EveryVersion(unittest.TestCase):
    def library_of(self, folder, version):
        """A library as that version of the schema kept it, from the first one on."""
        (folder / "pictures" / SHA[:2]).mkdir(parents=True)
        (folder / "pictures" / SHA[:2] / SHA).write_bytes(CONTENT)
        shipped = shipped_migrations()
        connection = connect(folder / "oxlen.db")
        migrate(connection, {1: shipped[1]})
        connection.execute(
            "INSERT INTO outing (title, created_at) VALUES ('Haul-out', '2026-01-01T00:00:00')"
        )
        connection.execute(
            "INSERT INTO sheet (outing_id, position, revision, version, changed_at)"
            " VALUES (1, 0, 1, 1, '2026-01-01T00:00:00')"
        )
        connection.execute(
            "INSERT INTO sheet_revision VALUES (1, 1, ?, 'new', '2026-01-01T00:00:00')",
            (json.dumps(BODY),),
        )
        connection.execute(
            "INSERT INTO picture VALUES (?, 'hull.jpg', ?, '{}', '2026-01-01T00:00:00')",
            (SHA, len(CONTENT)),
        )
        migrate(connection, {n: sql for n, sql in shipped.items() if n <= version})
        self.assertEqual(schema_version(connection), version)
        connection.close()
        return Library(folder)

    def test_each_is_backed_up_before_its_upgrade_opens_and_comes_back(self):
        newest = max(shipped_migrations())
        for version in range(1, newest + 1):
            with self.subTest(version), tempfile.TemporaryDirectory() as root:
                folder = Path(root) / "data"
                folder.mkdir()
                library = self.library_of(folder, version)
                self.assertEqual([finding.words for finding in findings_in(library)], [])
                made = write_backup(library, Path(root) / "before.zip")
                self.assertEqual((made.pictures, made.gaps), (1, ()))
                self.assertEqual(self.version(folder), version)  # looked at, and left as it was
                self.assert_whole(open_library(folder))
                self.assertEqual(self.version(folder), newest)
                restore_backup(Path(root) / "again", Path(root) / "before.zip")
                self.assert_whole(open_library(Path(root) / "again"))

    def version(self, folder):
        with sqlite3.connect(folder / "oxlen.db") as connection:
            return connection.execute("PRAGMA user_version").fetchone()[0]

    def assert_whole(self, library):
        with library.reader() as connection:
            (outing,) = outings(connection)
            (sheet,) = sheets_of(connection, outing.id)
            self.assertEqual(
                (outing.title, json.loads(sheet.body)["title"]), ("Haul-out", "Tarred hull")
            )
            self.assertEqual(kept_picture(connection, SHA).file_name, "hull.jpg")
        self.assertEqual(library.picture_path(SHA).read_bytes(), CONTENT)


class OlderDataOnTheCommandLine(EveryVersion):
    test_each_is_backed_up_before_its_upgrade_opens_and_comes_back = None

    def test_check_and_backup_work_before_the_first_start_and_others_say_what_to_do(self):
        with tempfile.TemporaryDirectory() as root:
            folder = Path(root) / "data"
            folder.mkdir()
            self.library_of(folder, 3)
            checked = oxlen("check", "--data", folder)
            self.assertEqual((checked.returncode, checked.stderr), (0, ""), checked.stdout)
            saved = oxlen("backup", Path(root) / "b.zip", "--data", folder)
            self.assertEqual((saved.returncode, saved.stderr), (0, ""))
            out = oxlen("outing-file", "Haul-out", Path(root) / "o.zip", "--data", folder)
            self.assertEqual(out.returncode, 2, out.stderr)
            self.assertIn("Start Oxlen once", out.stderr)
            self.assertEqual(self.version(folder), 3)
