"""An outing carried to another Oxlen: nothing doubled, newer states kept, bad files named."""

import io
import json
import tempfile
import zipfile
from pathlib import Path
from unittest import mock

import httpx

from oxlen.store.library import open_library
from oxlen.store.outings import outings
from oxlen.store.series import series_of_outing
from oxlen.store.sheets import sheet, sheets_of
from oxlen.store.takes import takes_of
from oxlen.takes.outing_in import take_in_outing
from oxlen.takes.outing_out import write_outing
from tests.cli.test_commands import oxlen
from tests.in_library import NOW
from tests.one_app import app_on
from tests.pictures.making import corners, exif, jpeg
from tests.server.test_api import WithApp

LATER = "2031-01-01T00:00:00+00:00"


class Carrying(WithApp):
    """An outing with a picture and a take, and another library to carry it to."""

    async def asyncSetUp(self):
        await super().asyncSetUp()
        made = await self.http.post(
            f"/api/outings/{self.outing}/pictures?name=hull.jpg", content=jpeg(corners())
        )
        self.sheet = made.json()["sheet"]
        path = f"/api/sheets/{self.sheet['id']}/takes?name=take.jpg"
        await self.http.post(path, content=jpeg(corners(40, 50)))
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.other = open_library(self.folder / "other")

    async def carried(self):
        answer = await self.http.get(f"/api/outings/{self.outing}/file")
        self.assertEqual(answer.status_code, 200)
        path = self.folder / "outing.zip"
        path.write_bytes(answer.content)
        return path

    def there(self):
        """Outings, sheets and takes of the other library."""
        with self.other.reader() as connection:
            found = outings(connection)
            sheets = [name for each in found for name in sheets_of(connection, each.id)]
            return found, sheets, [t for name in sheets for t in takes_of(connection, name.id)]


class OutingFiles(Carrying):
    async def test_a_series_arrives_once_with_its_sheets_and_what_it_locks(self):
        reading = {"id": "a", "source": {"kind": "ev", "ev100": 9}}
        made = await self.http.post(
            f"/api/outings/{self.outing}/sheets", json={"title": "Tin 1", "readings": [reading]}
        )
        start = {"title": "Tins", "new_titles": ["Tin 2", "Tin 3"], "locked": ["exposure", "white"]}
        await self.http.post(f"/api/sheets/{made.json()['id']}/series", json=start)
        path = await self.carried()
        for _ in range(2):
            take_in_outing(self.other, path, now=NOW)
        found, sheets, _ = self.there()
        with self.other.reader() as connection:
            [series] = series_of_outing(connection, found[0].id)
        titles = {name.id: json.loads(name.body)["title"] for name in sheets}
        self.assertEqual([titles[name] for name in series.sheet_ids], ["Tin 1", "Tin 2", "Tin 3"])
        self.assertEqual((series.title, series.locked), ("Tins", ("exposure", "white")))
        self.assertEqual(titles[series.lead_id], "Tin 1")

    async def test_carried_twice_it_is_there_once_with_pictures_and_takes(self):
        path = await self.carried()
        first = take_in_outing(self.other, path, now=NOW)
        self.assertEqual((first.new_sheets, first.new_pictures, first.new_takes), (1, 2, 1))
        again = take_in_outing(self.other, path, now=NOW)
        self.assertFalse(again.new_outing)
        self.assertEqual((again.new_sheets, again.changed_sheets, again.same_sheets), (0, 0, 1))
        self.assertEqual((again.new_pictures, again.new_takes, again.notes), (0, 0, []))
        (outing,), (kept,), (take,) = self.there()
        self.assertEqual(outing.title, "Haul-out")
        self.assertEqual(json.loads(kept.body), self.sheet["body"])
        self.assertTrue(self.other.picture_path(take.sha256).is_file())
        self.assertTrue(self.other.preview_path(take.sha256).is_file())

    async def test_the_newer_state_holds_and_can_be_undone_the_older_is_told(self):
        take_in_outing(self.other, await self.carried(), now=NOW)
        body = {**self.sheet["body"], "title": "Hull at dusk"}
        edit = {"version": self.sheet["version"], "label": "title", "body": body}
        await self.http.put(f"/api/sheets/{self.sheet['id']}", json=edit)
        path = await self.carried()
        with self.other.writer() as connection:
            connection.execute("UPDATE sheet SET changed_at = '2020-01-01T00:00:00+00:00'")
        done = take_in_outing(self.other, path, now=LATER)
        self.assertEqual((done.changed_sheets, done.new_takes), (1, 0))
        _, (kept,), _ = self.there()
        self.assertIn("Hull at dusk", kept.body)
        self.assertTrue(kept.can_undo)
        with self.other.writer() as connection:
            text = kept.body.replace("Hull at dusk", "Mine")
            connection.execute("UPDATE sheet_revision SET body = ? WHERE number = 2", (text,))
        reported = take_in_outing(self.other, path, now=LATER)
        self.assertIn("“Mine” was changed here later", reported.notes[0])
        self.assertIn("Mine", self.there()[1][0].body)

    async def test_brackets_keep_their_frames_and_the_slip_they_were_shot_by(self):
        sun = {"id": "a", "source": {"kind": "ev", "ev100": 13.0}}
        made = await self.http.post(
            f"/api/outings/{self.outing}/sheets",
            json={
                "title": "Sun",
                "scene": "white-hull-sun",
                "readings": [sun],
                "frames": {"combine": "bracket"},
            },
        )
        number = made.json()["id"]
        shot = (await self.http.post(f"/api/sheets/{number}/bench-shot", json={})).json()
        take_in_outing(self.other, await self.carried(), now=NOW)
        _, sheets, takes = self.there()
        mine = [take for take in takes if take.sheet_id == sheets[1].id]
        self.assertEqual(len(mine), len(shot))
        self.assertEqual(
            [(name.shot_on, name.sequence_frames) for name in mine],
            [(name["shot_on"], name["frames"]) for name in shot],
        )
        self.assertIsNotNone(mine[0].plan_id)

    async def test_over_http_it_comes_into_an_empty_oxlen_and_bad_files_are_told(self):
        path = await self.carried()
        transport = httpx.ASGITransport(app_on(self.other))
        async with httpx.AsyncClient(transport=transport, base_url="http://127.0.0.1") as http:
            came = await http.post("/api/outing-files", content=path.read_bytes())
            self.assertEqual(came.status_code, 201, came.text)
            done = came.json()["outing"]
            self.assertEqual((done["new_sheets"], done["new_pictures"]), (1, 2))
            for words, data in (
                ("not a complete outing file", b"PK nothing"),
                ("not a complete outing file", of_a_later_zip()),
                ("not an outing file", zipped({"other.json": b"{}"})),
                ("another version", zipped({"outing.json": b'{"format": "oxlen-outing/9"}'})),
            ):
                with self.subTest(words):
                    refused = await http.post("/api/outing-files", content=data)
                    self.assertIn(refused.status_code, (400, 422))
                    self.assertIn(words, refused.json()["detail"])

    async def test_a_picture_that_is_not_what_its_name_says_is_left_out_and_named(self):
        path = await self.carried()
        with zipfile.ZipFile(path) as archive:
            files = {name: archive.read(name) for name in archive.namelist()}
        wrong = f"pictures/{self.sheet['body']['picture']}"
        path.write_bytes(zipped({**files, wrong: jpeg(corners(20, 30))}))
        done = take_in_outing(self.other, path, now=NOW)
        self.assertIn("not what the outing file says", done.notes[0])
        _, (kept,), takes = self.there()
        self.assertIsNone(json.loads(kept.body)["picture"])
        self.assertEqual(len(takes), 1)

    async def test_the_commands_write_it_and_take_it_in(self):
        path = self.folder / "haul.zip"
        home = self.library.folder
        out = oxlen("outing-file", "haul-OUT", path, "--data", home)
        self.assertEqual(
            (out.returncode, out.stdout),
            (
                0,
                f"{path}: “Haul-out”, 1 sheet, 2 pictures"
                " without location, names and serial numbers.\n",
            ),
        )
        back = oxlen("outing-in", path, "--data", self.other.folder)
        self.assertEqual(back.returncode, 0)
        self.assertIn("1 new sheet, 0 changed", back.stdout)
        nowhere = oxlen("outing-file", "Nowhere", path, "--data", home)
        self.assertNotEqual(nowhere.returncode, 0)
        self.assertIn("There is no outing “Nowhere”", nowhere.stderr)

    async def test_places_and_serial_numbers_stay_here_unless_they_are_asked_for(self):
        reported = jpeg(corners(50, 70), exif(t42033="SERIAL-4711"))
        self.assertIn(b"SERIAL-4711", reported)
        path = f"/api/sheets/{self.sheet['id']}/takes?name=told.jpg"
        await self.http.post(path, content=reported)
        clean = (await self.http.get(f"/api/outings/{self.outing}/file")).content
        self.assertNotIn(b"SERIAL-4711", clean)
        whole = await self.http.get(f"/api/outings/{self.outing}/file?with_identity=true")
        self.assertIn(b"SERIAL-4711", whole.content)
        # There and back again: the copy is known as the picture it was made from.
        file = self.folder / "clean.zip"
        file.write_bytes(clean)
        take_in_outing(self.other, file, now=NOW)
        (there,) = self.there()[0]
        back = self.folder / "back.zip"
        write_outing(self.other, there.id, back)
        for name in (file, back):
            done = take_in_outing(self.library, name, now=NOW)
            self.assertEqual((done.new_takes, done.new_pictures, done.notes), (0, 0, []))

    async def test_what_cannot_be_cleaned_is_named_and_stays_here(self):
        with mock.patch("oxlen.takes.outing_out.without_identity", return_value=None):
            done = take_in_outing(self.other, await self.carried(), now=NOW)
        self.assertEqual((done.new_pictures, done.new_takes), (0, 0))
        self.assertRegex(done.notes[0], "hull.jpg|take.jpg")
        self.assertIn("could not be removed", done.notes[0])


class SentOnce(WithApp):
    async def test_a_take_or_an_edit_sent_again_under_its_mark_is_done_once(self):
        made = await self.http.post(f"/api/outings/{self.outing}/sheets", json={"title": "Creek"})
        sheet_id = made.json()["id"]
        path = f"/api/sheets/{sheet_id}/takes?name=a.jpg&mark=p-first-0001"
        for _ in range(2):
            answer = await self.http.post(path, content=jpeg(corners()))
            self.assertEqual((answer.status_code, len(answer.json())), (201, 1))
        # A take never becomes what its sheet meters, not even the first one.
        now = (await self.http.get(f"/api/sheets/{sheet_id}")).json()
        self.assertIsNone(now["body"]["picture"])
        edit = {
            "version": now["version"],
            "label": "title",
            "body": {**now["body"], "title": "Creek at dusk"},
            "mark": "p-edit-00001",
        }
        for _ in range(2):
            kept = await self.http.put(f"/api/sheets/{sheet_id}", json=edit)
            self.assertEqual((kept.status_code, kept.json()["version"]), (200, now["version"] + 1))
        clash = await self.http.put(
            f"/api/sheets/{sheet_id}", json={**edit, "mark": "p-other-0001"}
        )
        self.assertEqual(clash.json()["code"], "edit-clash")

    async def test_what_both_changed_is_asked_for_and_the_rest_put_together(self):
        made = (
            await self.http.post(f"/api/outings/{self.outing}/sheets", json={"title": "Creek"})
        ).json()
        before, path = made["body"], f"/api/sheets/{made['id']}"
        theirs = {**before, "title": "Theirs", "support": "tripod"}
        await self.http.put(path, json={"version": 1, "label": "x", "body": theirs})
        mine = {**before, "title": "Mine", "intent": "The gate sharp"}
        asked = {"before": before, "mine": mine}
        found = (await self.http.post(f"{path}/merge", json=asked)).json()
        self.assertEqual([clashe["path"] for clashe in found["clashes"]], [["title"]])
        body = found["body"]
        self.assertEqual((body["title"], body["intent"]), ("Theirs", "The gate sharp"))
        self.assertEqual((body["support"], found["version"]), ("tripod", 2))
        settled = await self.http.post(f"{path}/merge", json={**asked, "keep_mine": [["title"]]})
        self.assertEqual(settled.json()["body"]["title"], "Mine")
        with self.library.reader() as connection:
            self.assertEqual(sheet(connection, made["id"]).version, 2)


def zipped(files):
    """A zip of files by name."""
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w") as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    return made.getvalue()


def of_a_later_zip():
    """A zip that needs a version of the format nobody has."""
    made = bytearray(zipped({"outing.json": b"{}"}))
    made[made.index(b"PK\x01\x02") + 6] = 255
    return bytes(made)
