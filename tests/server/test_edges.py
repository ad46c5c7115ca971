"""The API at its edges: whose request, how long, what is named that is not there."""

import asyncio
import unittest

from oxlen.server.local_only import MAX_BODY_BYTES
from oxlen.server.routes.pictures import plain_name
from tests.pictures.making import corners, jpeg
from tests.server.test_api import WithApp

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
            ("GET", "/api/schemas/nobody", None, 404, "no format named nobody"),
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
        self.assertEqual([one["id"] for one in lying["outings"]], [self.outing])
        await self.http.post(f"{path}/restore")
        back = (await self.http.get("/api/outings")).json()
        self.assertEqual([one["id"] for one in back[0]["sheets"]], [sheet["id"]])

    async def test_sheets_stand_in_the_order_they_came(self):
        titles = ["third", "first", "second"]
        for title in titles:
            path = f"/api/outings/{self.outing}/sheets"
            await self.http.post(path, json={"title": title})
        listed = (await self.http.get(f"/api/outings/{self.outing}")).json()["sheets"]
        self.assertEqual([one["title"] for one in listed], titles)


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
