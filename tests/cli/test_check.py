"""`oxlen check`, and backups with gaps, as a script sees them."""

import tempfile
import unittest
from pathlib import Path

from oxlen.metering.picture_cache import FILE_GONE
from oxlen.store.library import open_library
from tests.cli.test_commands import oxlen
from tests.in_library import InLibrary
from tests.pictures.making import corners, jpeg


class Check(InLibrary):
    def setUp(self):
        _, taken = self.taken_in(jpeg(corners()), "hull.jpg")
        self.picture = self.library.picture_path(taken.sha256)
        self.whole = jpeg(corners())
        self.addCleanup(self.picture.write_bytes, self.whole)

    def check(self, *more):
        run = oxlen("check", "--data", self.library.folder, *more)
        return run.returncode, run.stdout

    def test_all_is_well(self):
        code, reported = self.check()
        self.assertEqual((code, reported.count("\n")), (0, 1))
        self.assertIn("everything is in order", reported)

    def test_a_rotten_picture_is_named_and_cannot_be_mended(self):
        self.picture.write_bytes(self.whole[:-20] + b"x" * 20)
        for more in ((), ("--mend",)):
            code, reported = self.check(*more)
            self.assertEqual(code, 1)
            self.assertIn("The picture hull.jpg is damaged", reported)

    def test_what_belongs_to_nothing_is_removed_when_asked(self):
        spare = [
            self.library.picture_path("ab" + "0" * 62),
            self.library.incoming_path(),
            self.library.preview_path("0" * 64),
            self.library.folder / "restoring-1" / "oxlen.db",
        ]
        for path in spare:
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_bytes(b"left over")
        code, reported = self.check()
        self.assertEqual((code, reported.count("--mend removes it")), (1, 4))
        self.assertTrue(all(path.exists() for path in spare))
        code, reported = self.check("--mend")
        self.assertEqual((code, reported.count("Removed.")), (0, 4))
        self.assertFalse(any(path.exists() for path in spare))

    def test_a_folder_among_the_files_is_named_and_left_alone(self):
        strangers = [self.library.folder / name / "mine" for name in ("incoming", "previews")]
        for folder in strangers:
            folder.mkdir()
            self.addCleanup(folder.rmdir)
        open_library(self.library.folder)
        for more in ((), ("--mend",)):
            code, reported = self.check(*more)
            self.assertEqual((code, reported.count("is not from Oxlen")), (1, 2))
        self.assertTrue(all(folder.is_dir() for folder in strangers))

    def test_a_sheet_that_cannot_be_read_is_named(self):
        with self.library.writer() as connection:
            (body,) = connection.execute("SELECT body FROM sheet_revision").fetchone()
            connection.execute("UPDATE sheet_revision SET body = '[]'")
        code, reported = self.check()
        self.assertEqual(code, 1)
        self.assertRegex(reported, r"Sheet \d+: This sheet cannot be read")
        with self.library.writer() as connection:
            connection.execute("UPDATE sheet_revision SET body = ?", (body,))

    def test_a_backup_says_what_it_could_not_take(self):
        self.picture.unlink()
        made = self.library.folder.parent / f"{self.library.folder.name}.zip"
        self.addCleanup(made.unlink)
        run = oxlen("backup", made, "--data", self.library.folder)
        self.assertEqual(run.returncode, 1)
        self.assertIn("Not in the backup: hull.jpg (missing).", run.stderr)
        with tempfile.TemporaryDirectory() as folder:
            run = oxlen("restore", made, "--data", folder)
            self.assertEqual(run.returncode, 1)
            self.assertIn("Not in this backup: hull.jpg (missing).", run.stderr)
        report = self.room.report(self.picture.name)
        self.assertEqual(report.notes[-1], FILE_GONE)


class Garbage(unittest.TestCase):
    def test_a_database_that_is_none_is_said_in_words_and_left_alone(self):
        with tempfile.TemporaryDirectory() as folder:
            database = Path(folder) / "oxlen.db"
            database.write_bytes(b"tide table " * 500)
            run = oxlen("check", "--data", folder)
            self.assertEqual(run.returncode, 1)
            self.assertIn("The database cannot be read", run.stdout)
            run = oxlen("backup", Path(folder) / "b.zip", "--data", folder)
            self.assertEqual((run.returncode, run.stdout), (2, ""))
            self.assertIn("The database cannot be used", run.stderr)
            self.assertEqual(database.read_bytes(), b"tide table " * 500)
            self.assertFalse(list(Path(folder).glob("b.zip*")))


if __name__ == "__main__":
    unittest.main()
