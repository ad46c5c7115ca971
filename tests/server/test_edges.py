"""The API at its edges: whose request, how long, what is named that is not there."""

import asyncio
import errno
import sqlite3
import unittest
from contextlib import suppress
from unittest import mock

import httpx

from oxlen.core.compute.registry import COMPUTATIONS
from oxlen.core.errors import OxlenError
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.metering.picture_cache import FILE_GONE
from oxlen.server.local_only import MAX_BODY_BYTES
from oxlen.server.routes.pictures import plain_name
from oxlen.store.library import Library
from oxlen.views.readings_table import readings_csv
from tests.pictures.making import corners, jpeg
from tests.server.test_api import BASE, WithApp

NOBODY = "0" * 64


class Guard(WithApp):
    async def test_names_of_this_machine_and_none_that_only_look_like_them(self):
        rows = [
            ("127.0.0.1:8710", 200),
            ("localhost", 200),
            ("[::1]:8710", 200),
            ("127.0.0.1.example", 403),
            ("localhost.example:8710", 403),
            ("example", 403),
            ("[::1", 403),
            ("", 403),
        ]
        for host, status in rows:
            with self.subTest(host=host):
                answer = await self.http.get("/api/outings", headers={"host": host})
                self.assertEqual(answer.status_code, status)
                if status == 403:
                    self.assertEqual(answer.json()["code"], "local-only")

    async def test_a_body_in_many_parts_arrives_whole_and_too_long_a_one_does_not(self):
        async def parts(text):
            for start in range(0, len(text), 1000):
                yield text[start : start + 1000].encode()

        json = {"content-type": "application/json"}
        whole = '{"title": "' + "In many parts" + '", "place": "' + "x" * 100 + '"}' + " " * 5000
        answer = await self.http.post("/api/outings", content=parts(whole), headers=json)
        self.assertEqual(answer.status_code, 201, answer.text)
        self.assertEqual(answer.json()["place"], "x" * 100)
        for length, status in ((MAX_BODY_BYTES, 201), (MAX_BODY_BYTES + 1, 413)):
            text = '{"title": "Long"}'.ljust(length)
            answer = await self.http.post("/api/outings", content=parts(text), headers=json)
            self.assertEqual(answer.status_code, status)
        self.assertIn("2 MB", answer.json()["detail"])

    async def test_pages_of_other_sites_may_not_even_ask(self):
        for headers, status in (
            ({"origin": "http://127.0.0.1:8710"}, 201),
            ({"origin": "http://127.0.0.1:9999"}, 403),
            ({"origin": "null"}, 403),
            ({"sec-fetch-site": "cross-site"}, 403),
            ({"sec-fetch-site": "same-origin"}, 201),
        ):
            with self.subTest(headers=headers):
                answer = await self.http.post("/api/outings", json={"title": "A"}, headers=headers)
                self.assertEqual(answer.status_code, status)

    async def test_a_foreign_page_gets_nothing_but_a_way_to_the_front_page(self):
        cross = {"sec-fetch-site": "cross-site"}
        rows = [
            ("/api/outings", cross, 403),
            ("/api/outings", {**cross, "sec-fetch-mode": "navigate"}, 403),
            ("/api/outings", {"sec-fetch-site": "same-site"}, 403),
            ("/assets/x.js", {**cross, "sec-fetch-mode": "no-cors"}, 403),
            ("/api/outings", {"sec-fetch-site": "same-origin"}, 200),
            ("/api/outings", {"sec-fetch-site": "none", "sec-fetch-mode": "navigate"}, 200),
        ]
        for path, headers, status in rows:
            with self.subTest(path, headers=headers):
                answer = await self.http.get(path, headers=headers)
                self.assertEqual(answer.status_code, status)
                self.assertEqual(answer.headers["x-frame-options"], "DENY")
        page = await self.http.get("/kit", headers={**cross, "sec-fetch-mode": "navigate"})
        self.assertNotEqual(page.status_code, 403)

    async def test_what_is_said_twice_is_refused(self):
        for name, values in (("host", ("127.0.0.1", "127.0.0.1")), ("origin", (BASE, "null"))):
            headers = httpx.Headers([("host", "127.0.0.1")] if name != "host" else [])
            twice = [*headers.raw, *((name.encode(), value.encode()) for value in values)]
            answer = await self.http.get("/api/outings", headers=twice)
            self.assertEqual(answer.status_code, 403, name)
            self.assertIn("twice", answer.json()["detail"])

    async def test_only_pictures_may_be_longer_than_a_request(self):
        long = b"x" * (MAX_BODY_BYTES + 1)
        for path in ("/api/outings/picture", "/api/kit/phones/pictures", "/api/x/pictures"):
            answer = await self.http.post(path, content=long)
            self.assertEqual(answer.status_code, 413, path)
            self.assertEqual(answer.headers["x-frame-options"], "DENY")

    async def test_head_answers_with_the_headers_of_a_get_and_no_body(self):
        for path in ("/", "/api/outings", "/api/no-such-thing"):
            whole, head = await self.http.get(path), await self.http.head(path)
            self.assertEqual(head.status_code, whole.status_code)
            self.assertEqual(head.headers["content-length"], whole.headers["content-length"])
            self.assertEqual(head.content, b"")


class Storage(WithApp):
    async def test_a_disk_that_does_not_take_it_is_said_in_words(self):
        rows = [
            (sqlite3.OperationalError("database or disk is full"), 507, "full"),
            (sqlite3.OperationalError("attempt to write a readonly database"), 503, "read-only"),
            (sqlite3.OperationalError("database is locked"), 503, "Something else"),
            (sqlite3.OperationalError("disk I/O error"), 503, "disk I/O error"),
            (OSError(errno.ENOSPC, "No space left on device"), 507, "full"),
            (OSError(errno.EROFS, "Read-only file system"), 503, "read-only"),
        ]
        for error, status, words in rows:
            with self.subTest(words), mock.patch.object(Library, "writer", side_effect=error):
                answer = await self.http.post("/api/outings", json={"title": "A"})
                self.assertEqual((answer.status_code, answer.json()["code"]), (status, "storage"))
                self.assertIn(words, answer.json()["detail"])
                self.assertIn("Nothing was saved", answer.json()["detail"])
        again = await self.http.post("/api/outings", json={"title": "A"})
        self.assertEqual(again.status_code, 201)

    async def test_a_fault_inside_is_a_sentence(self):
        with (
            mock.patch.object(Library, "reader", side_effect=ZeroDivisionError("inside")),
            self.assertLogs("oxlen", "ERROR"),
        ):
            answer = await self.http.get("/api/outings")
        self.assertEqual((answer.status_code, answer.json()["code"]), (500, "internal"))
        self.assertNotIn("inside\n", answer.text)
        self.assertEqual(answer.headers["x-frame-options"], "DENY")

    async def test_a_sheet_whose_picture_is_gone_still_opens(self):
        sheet = await self.sheet_with_picture()
        sha256 = sheet["body"]["picture"]
        self.library.picture_path(sha256).unlink()
        self.library.preview_path(sha256).unlink()
        await self.http.put("/api/kit/glass/x", json={"name": "X", "factor": 2})
        opened = (await self.http.get(f"/api/sheets/{sheet['id']}")).json()
        self.assertEqual(opened["answer"]["picture"]["report"]["notes"][-1], FILE_GONE)
        gone = await self.http.get(f"/api/pictures/{sha256}/preview")
        self.assertEqual(gone.status_code, 404)

    async def test_one_odd_phone_takes_nothing_down(self):
        with self.library.writer() as connection:
            connection.execute(
                "INSERT INTO phone (id, profile, changed_at) VALUES ('odd', '{\"id\": 7}', '')"
            )
        phones = (await self.http.get("/api/kit/phones")).json()
        self.assertEqual([phone["shipped"] for phone in phones], [True, True])
        (odd,) = (await self.http.get("/api/kit/unreadable")).json()
        self.assertEqual((odd["id"], odd["text"]), ("odd", '{"id": 7}'))
        made = {"title": "A", "phone": "odd"}
        refused = await self.http.post(f"/api/outings/{self.outing}/sheets", json=made)
        self.assertEqual(refused.status_code, 422)
        self.assertIn("The phone odd of your kit cannot be read", refused.json()["detail"])
        self.assertEqual((await self.http.delete("/api/kit/phones/odd")).status_code, 204)
        self.assertEqual((await self.http.get("/api/kit/unreadable")).json(), [])

    async def test_numbers_no_camera_knows_are_refused_by_name(self):
        huge = "1" + "0" * 400
        for text, field in (
            (f'{{"iso": {huge}, "shutter_s": 1, "f_number": 2}}', "iso"),
            ('{"iso": 100, "shutter_s": 1e300, "f_number": 2}', "shutter_s"),
        ):
            body = f'{{"title": "A", "by_hand": {text}}}'
            kind = {"content-type": "application/json"}
            path = f"/api/outings/{self.outing}/sheets"
            answer = await self.http.post(path, content=body, headers=kind)
            self.assertEqual((answer.status_code, answer.json()["code"]), (422, "bad-input"))
            self.assertIn(field, answer.json()["field"])
        profile = shipped_profile("wherry-3").model_dump(mode="json") | {"id": "mine"}
        for name, value in (("read_noise_e", [[50, 1e300]]), ("full_well_e", 5e-324)):
            profile["lenses"][0]["modes"][0][name] = value
            answer = await self.http.put("/api/kit/phones/mine", json=profile)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(name, answer.json()["detail"])

    def test_no_formula_breaks_on_any_number(self):
        values = (0, -1, 1e9, 1e308, 5e-324, 10**400, "x", None, [], [1e9], True, {"a": 1})
        for name, computation in COMPUTATIONS.items():
            for value in values:
                # Anything but a refusal by name is an error here.
                with self.subTest(name, value=str(value)[:12]), suppress(OxlenError):
                    computation.run(dict.fromkeys(computation.inputs, value))

    def test_words_in_a_table_are_no_formulas(self):
        row = {"id": "a", "name": "=SUM(A1)", "place": -2.5, "role": " @x", "state": "ok"}
        line = readings_csv([row]).splitlines()[1]
        self.assertEqual(line, "a,'=SUM(A1),' @x,,,,-2.5,ok")


class NotThere(WithApp):
    async def test_what_is_named_and_not_there_is_said_by_name(self):
        sheet = await self.sheet_with_picture()
        sheets = f"/api/outings/{self.outing}/sheets"
        rows = [
            ("POST", "/api/outings/999/sheets", {"title": "A"}, 404, "outing"),
            ("POST", sheets, {"phone": "tram"}, 404, "no phone named tram"),
            ("POST", sheets, {"lens": "tram"}, 404, "no lens named tram"),
            ("POST", sheets, {"picture": NOBODY}, 404, "picture"),
            ("GET", f"/api/pictures/{NOBODY}/preview", None, 404, "picture"),
            ("GET", "/api/sheets/999", None, 404, "sheet"),
            ("DELETE", "/api/sheets/999", None, 404, "sheet"),
            ("POST", "/api/sheets/999/restore", None, 404, "sheet"),
            ("POST", "/api/outings/999/restore", None, 404, "outing"),
            ("DELETE", "/api/presets/nobody", None, 404, "preset"),
            ("DELETE", "/api/kit/glass/nobody", None, 404, "filter"),
            ("GET", "/api/compute/nobody", None, 404, "computation"),
            ("GET", "/api/schemas/nobody", None, 404, "unknown format nobody"),
        ]
        for method, path, body, status, words in rows:
            with self.subTest(path=path, body=body):
                answer = await self.http.request(method, path, json=body)
                self.assertEqual(answer.status_code, status, answer.text)
                self.assertEqual(answer.headers["content-type"], "application/problem+json")
                self.assertIn(words, answer.json()["detail"].lower())
        for changed in ({"picture": NOBODY}, {"phone": "tram"}, {"lens": "tram"}):
            answer = await self.put(sheet, **changed)
            self.assertEqual(answer.status_code, 404, answer.text)
        kept = (await self.http.get(f"/api/sheets/{sheet['id']}")).json()
        self.assertEqual((kept["version"], kept["body"]), (sheet["version"], sheet["body"]))


class Outings(WithApp):
    async def test_they_are_renamed_binned_and_taken_back(self):
        path = f"/api/outings/{self.outing}"
        named = {"title": "Spring", "place": "the slip", "light_window": "dawn"}
        changed = (await self.http.patch(path, json=named)).json()
        self.assertEqual({key: changed[key] for key in named}, named)
        self.assertEqual((await self.http.get(path)).json(), changed)
        for title in ("", "x" * 121):
            answer = await self.http.patch(path, json={"title": title})
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, "title"))
        # One thing at a time: the rest stays, and an empty place is a place taken away.
        parts = ({"title": "Summer"}, {"place": ""}, {"light_window": "dusk"})
        answers = await asyncio.gather(*(self.http.patch(path, json=part) for part in parts))
        self.assertEqual({answer.status_code for answer in answers}, {200})
        after = (await self.http.get(path)).json()
        self.assertEqual(
            [after[key] for key in ("title", "place", "light_window")], ["Summer", "", "dusk"]
        )
        sheet = await self.sheet_with_picture()
        await self.http.delete(path)
        self.assertEqual((await self.http.get("/api/outings")).json(), [])
        lying = (await self.http.get("/api/bin")).json()
        self.assertEqual([outing["id"] for outing in lying["outings"]], [self.outing])
        await self.http.post(f"{path}/restore")
        back = (await self.http.get("/api/outings")).json()
        self.assertEqual([outing["id"] for outing in back[0]["sheets"]], [sheet["id"]])

    async def test_sheets_stand_in_the_order_they_came(self):
        titles = ["third", "first", "second"]
        for title in titles:
            path = f"/api/outings/{self.outing}/sheets"
            await self.http.post(path, json={"title": title})
        listed = (await self.http.get(f"/api/outings/{self.outing}")).json()["sheets"]
        self.assertEqual([outing["title"] for outing in listed], titles)


class Pictures(WithApp):
    async def test_a_preview_never_changes_under_its_name(self):
        sheet = await self.sheet_with_picture(jpeg(corners(300, 400)))
        answer = await self.http.get(f"/api/pictures/{sheet['body']['picture']}/preview")
        self.assertIn("immutable", answer.headers["cache-control"])
        self.assertEqual(answer.content[:2], b"\xff\xd8")

    async def test_readings_go_out_as_a_table(self):
        sheet = await self.sheet_with_picture(jpeg(corners(300, 400)))
        spots = [{"id": "low", "name": 'plank, "wet"', "x": 0.25, "y": 0.75, "r": 0.1}]
        await self.put(sheet, spots=spots)
        text = (await self.http.get(f"/api/sheets/{sheet['id']}/readings.csv")).text
        head, row = text.splitlines()
        self.assertEqual(head.split(",")[:4], ["id", "name", "role", "ev100"])
        self.assertTrue(row.startswith('low,"plank, ""wet""",subject,8.8'), row)


class Names(unittest.TestCase):
    def test_folders_and_what_cannot_be_printed_are_left_out(self):
        rows = [
            ("slip.jpg", "slip.jpg"),
            ("../../etc/slip.jpg", "slip.jpg"),
            ("C:\\shots\\slip.jpg", "slip.jpg"),
            ("a\x00b\x1b.jpg", "ab.jpg"),
            ("…/Rümpfe.jpg", "Rümpfe.jpg"),
            ("/", "picture"),
            ("  ", "picture"),
        ]
        for given, kept in rows:
            self.assertEqual(plain_name(given), kept)
