"""A library of one's own for tests of sheets: empty, or with the demo in it."""

import tempfile
import unittest
from pathlib import Path

from oxlen.sheets.body import SheetBody

from oxlen.demo.seed import seed_demo
from oxlen.sheets.importing import onto_new_sheet, take_in
from oxlen.sheets.metering import MeterRoom
from oxlen.store.library import open_library
from oxlen.store.outings import add_outing, outings
from oxlen.store.sheets import sheet, sheets_of

NOW = "2026-10-03T08:00:00+00:00"


class InLibrary(unittest.TestCase):
    """A library with one outing, and a room to meter its pictures in."""

    @classmethod
    def setUpClass(cls):
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.library = open_library(Path(folder.name))
        cls.room = MeterRoom(cls.library)
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
            return SheetBody.model_validate_json(sheet(connection, sheet_id).body)

    def taken_in(self, data, name, attach=None):
        """The sheet a picture came onto, and what was noted of it."""
        incoming = self.library.incoming_path()
        incoming.write_bytes(data)
        attach = attach or onto_new_sheet(self.outing, name, "wherry-3", NOW)
        taken = take_in(self.library, incoming, name, now=NOW, attach=attach)
        return self.body_of(taken.sheet_id), taken


class InDemo(InLibrary):
    """The library of the demo; `bodies` are its sheets by outing."""

    @classmethod
    def fill(cls):
        seed_demo(cls.library)
        with cls.library.reader() as connection:
            cls.bodies = [
                (outing.id, SheetBody.model_validate_json(row.body))
                for outing in outings(connection)
                for row in sheets_of(connection, outing.id)
            ]
