"""A library of one's own for tests of sheets: empty, or with the demo in it."""

import tempfile
import unittest
from pathlib import Path

from oxlen.demo.seed import seed_demo
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.metering.picture_cache import PictureCache
from oxlen.store.library import Library, open_library
from oxlen.store.outings import add_outing, outings
from oxlen.store.sheets import sheet, sheets_of
from oxlen.takes.importing import onto_new_sheet, take_in

NOW = "2026-10-03T08:00:00+00:00"


class InLibrary(unittest.TestCase):
    """A library with one outing, and a room to meter its pictures in."""

    library: Library
    room: PictureCache
    outing: int

    @classmethod
    def setUpClass(cls):
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.library = open_library(Path(folder.name))
        cls.room = PictureCache(cls.library)
        cls.addClassCleanup(cls.room.close)
        cls.fill()

    @classmethod
    def fill(cls):
        """Put in what the tests start from."""
        with cls.library.writer() as connection:
            cls.outing = add_outing(
                connection, title="Haul-out", place="slip", light_window="", now=NOW
            )

    def body_of(self, sheet_id):
        with self.library.reader() as connection:
            return read_sheet(sheet(connection, sheet_id).body)

    def taken_in(self, data, name, attach=None):
        """The sheet a picture came onto, and what was noted of it."""
        incoming = self.library.incoming_path()
        incoming.write_bytes(data)
        attach = attach or onto_new_sheet(self.outing, name, "wherry-3", now=NOW)
        taken = take_in(self.library, incoming, name, now=NOW, attach=attach)
        return self.body_of(taken.sheet_id), taken


class InDemo(InLibrary):
    """The library of the demo; `bodies` are its sheets by outing."""

    bodies: list[tuple[int, SheetBody]]
    sheet_ids: dict[str, int]

    @classmethod
    def fill(cls):
        seed_demo(cls.library)
        with cls.library.reader() as connection:
            rows = [
                row for outing in outings(connection) for row in sheets_of(connection, outing.id)
            ]
            cls.bodies = [(row.outing_id, read_sheet(row.body)) for row in rows]
            cls.sheet_ids = {read_sheet(row.body).title: row.id for row in rows}
