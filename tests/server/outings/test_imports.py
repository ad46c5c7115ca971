"""Files imported by a worker: bounded while they are unpacked, checked part by part, stoppable."""

import asyncio
import bz2
import copy
import io
import json
import struct
import unittest
import zipfile
import zlib
from unittest import mock

from oxlen.core.errors import ArchiveError, BadInput
from oxlen.formats.json_stream import JsonList
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.unpacking import unpacked
from oxlen.server import import_jobs
from oxlen.store.outings import outing
from oxlen.store.sheets import sheets_of
from oxlen.store.takes import takes_of
from oxlen.takes.outing_in import take_in_outing
from tests.in_library import NOW
from tests.server.outings.test_outing_files import Carrying, zipped


def claiming(name, data, *, claims):
    """A zip whose entry is packed by bzip2 and claims to be shorter than it is."""
    packed = bz2.compress(data)
    head = struct.pack(
        "<HHHHHIIIHH", 46, 0, 12, 0, 0, zlib.crc32(data), len(packed), claims, len(name), 0
    )
    local = b"PK\3\4" + head + name + packed
    central = b"PK\1\2" + struct.pack("<H", 46) + head + struct.pack("<HHHII", 0, 0, 0, 0, 0) + name
    end = struct.pack("<HHHHIIH", 0, 0, 1, 1, len(central), len(local), 0)
    return local + central + b"PK\5\6" + end


def deflated(name, data):
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(name, data)
    return made.getvalue()


class Bombs(Carrying):
    async def test_what_unpacks_to_more_than_it_may_is_refused_and_never_unpacked(self):
        bombs = {
            "bzip2": claiming(b"outing.json", bytes(60_000_000), claims=1000),
            "deflate": deflated("outing.json", bytes(70_000_000)),
            "sidecar": claiming(b"a.xmp", bytes(60_000_000), claims=1000),
        }
        for name, data in bombs.items():
            self.assertLess(len(data), 100_000)
            for path in ("/api/outing-files", "/api/logbook/file"):
                with self.subTest(name, path=path):
                    refused = await self.http.post(path, content=data)
                    self.assertIn(refused.status_code, (200, 422), refused.text)
        locked = io.BytesIO(zipped({"outing.json": b"{}"}))
        with zipfile.ZipFile(locked) as archive:
            (info,) = archive.infolist()
            info.flag_bits |= 1
            with self.assertRaisesRegex(ArchiveError, "password"):
                unpacked(archive, info, most_bytes=100)
        with (
            zipfile.ZipFile(io.BytesIO(bombs["deflate"])) as archive,
            self.assertRaisesRegex(ArchiveError, "over 1 MB"),
        ):
            unpacked(archive, archive.infolist()[0], most_bytes=1_000_000)


class Parts(Carrying):
    async def contents(self):
        path = await self.carried()
        with zipfile.ZipFile(path) as archive:
            return {name: archive.read(name) for name in archive.namelist()}

    async def imported(self, change):
        """What comes of the outing file with its list changed."""
        files = await self.contents()
        reported = json.loads(files["outing.json"])
        change(reported)
        path = self.folder / "changed.zip"
        path.write_bytes(zipped({**files, "outing.json": json.dumps(reported).encode()}))
        return take_in_outing(self.other, path, now=NOW)

    async def test_each_bad_part_is_left_out_and_named_and_every_view_opens(self):
        def spoil(told):
            told["outing"] |= {"date": "2027-02-30", "time_zone": "Europe"}
            (sheet,) = told["sheets"]
            (take,) = sheet["takes"]
            take |= {"settings": {}, "plan": 0, "taken_at": "never"}
            sheet["plans"] = [{"plan": {}}]
            told["sheets"].append({**copy.deepcopy(sheet), "uid": "1" * 32, "body": {"a": 1}})
            told["phones"] = [{"id": "mine"}]

        done = await self.imported(spoil)
        for words in ("2027-02-30", "Europe", "a slip", "settings", "Sheet 2", "Phone 1"):
            with self.subTest(words):
                self.assertTrue(any(words in note for note in done.notes), done.notes)
        with self.other.reader() as connection:
            kept = outing(connection, done.outing_id)
            (sheet,) = sheets_of(connection, done.outing_id)
            (take,) = takes_of(connection, sheet.id)
        self.assertEqual((kept.date, kept.time_zone), (None, None))
        self.assertEqual((take.plan_id, take.taken_at), (None, None))
        self.assertEqual(set(json.loads(take.settings).values()), {None})
        far = await self.imported(
            lambda reported: reported["outing"].update(date="9999-12-31", uid="2" * 32)
        )
        self.assertIn("9999-12-31", far.notes[0])

    async def test_a_damaged_entry_is_named_and_the_rest_comes_in(self):
        files = await self.contents()
        path = self.folder / "outing.zip"
        whole = path.read_bytes()
        name = next(file for file in files if file.startswith("pictures/"))
        at = whole.index(files[name]) + 40
        path.write_bytes(whole[:at] + bytes([whole[at] ^ 0xFF]) + whole[at + 1 :])
        done = take_in_outing(self.other, path, now=NOW)
        self.assertEqual((done.new_sheets, done.new_pictures), (1, 1))
        self.assertIn("damaged in the file", done.notes[0])

    async def test_an_imported_phone_never_stands_beside_a_shipped_one(self):
        profile = shipped_profile("wherry-3").model_dump(mode="json")
        done = await self.imported(lambda reported: reported.update(phones=[profile]))
        self.assertIn("id of an example phone", done.notes[0])


class Jobs(Carrying):
    async def test_a_long_import_tells_how_far_it_is_and_can_be_stopped(self):
        text = {"written_as": "oxlen-logbook/1", "takes": []}
        new = {"sha256": "0" * 64, "state": "new"}
        text["takes"] = [new] * 200_000  # still under way when a busy machine asks to stop
        with mock.patch.object(import_jobs, "SOON_S", 0.0):
            sent = await self.http.post("/api/logbook/file", content=json.dumps(text).encode())
            begun = sent.json()
            self.assertEqual(begun["state"], "working", begun)
            path = f"/api/imports/{begun['id']}"
            stopped = await self.http.delete(path)
            for _ in range(1200):
                if stopped.json()["state"] != "working":
                    break
                await asyncio.sleep(0.05)
                stopped = await self.http.get(path)
        self.assertEqual(stopped.json()["state"], "cancelled")
        self.assertEqual((await self.http.get("/api/imports/999")).status_code, 404)
        incoming = self.library.folder / "incoming"
        for _ in range(200):  # it is tidied up a moment after it has ended
            if not any(incoming.iterdir()):
                break
            await asyncio.sleep(0.05)
        self.assertEqual(list(incoming.iterdir()), [])

    async def test_a_failure_after_the_answer_is_told_when_it_is_asked_for(self):
        with mock.patch.object(import_jobs, "SOON_S", 0.0):
            looked = await self.http.post("/api/outing-files", content=b"PK nothing")
        number = looked.json().get("id")
        for _ in range(200):
            if looked.status_code == 422:
                break
            await asyncio.sleep(0.05)
            looked = await self.http.get(f"/api/imports/{number}")
        self.assertEqual(looked.status_code, 422)
        self.assertIn("not a complete outing file", looked.json()["detail"])


class Lists(unittest.TestCase):
    def test_items_come_one_by_one_and_the_rest_afterwards(self):
        for text in (
            '{"a": 1, "takes": [1, {"b": [2]} , "x"], "z": {"takes": [9]}}',
            ' {"takes":[1,{"b":[2]},"x"],"a":1,"z":{"takes":[9]}} ',
        ):
            found = JsonList(text, "takes", what="It")
            self.assertEqual(list(found), [1, {"b": [2]}, "x"])
            self.assertEqual(found.others, {"a": 1, "z": {"takes": [9]}})

    def test_what_is_no_json_is_no_json_here_either(self):
        for text in (
            "",
            "[1]",
            "{",
            '{"takes": [1,]}',
            '{"takes": [1] ',
            '{"takes": [1]}x',
            '{"a": 1,}',
            '{"takes": 1}',
            "{}",
        ):
            with self.subTest(text), self.assertRaises(BadInput):
                list(JsonList(text, "takes", what="It"))
