"""Pictures sent again under their mark, as a phone does when an answer was lost."""

import numpy as np

from tests.pictures.making import exif, jpeg
from tests.server.test_api import WithApp


def picture(level):
    codes = np.full((60, 80, 3), level, dtype=np.uint8)
    return jpeg(codes, exif(iso=100, shutter=(1, 50)))


class SentAgain(WithApp):
    async def send(self, path, level, **asked):
        return await self.http.post(
            path, params={"name": "creek.jpg", **asked}, content=picture(level)
        )

    async def sheets(self):
        return (await self.http.get(f"/api/outings/{self.outing}")).json()["sheets"]

    async def test_a_new_sheet_is_made_once_a_mark(self):
        path, before = f"/api/outings/{self.outing}/pictures", len(await self.sheets())
        first = await self.send(path, 118, mark="sent-twice-1")
        again = await self.send(path, 118, mark="sent-twice-1")
        self.assertEqual((first.status_code, again.status_code), (201, 201))
        self.assertEqual(first.json()["sheet"]["id"], again.json()["sheet"]["id"])
        self.assertEqual(len(await self.sheets()), before + 1)
        other = await self.send(path, 118, mark="sent-twice-2")
        self.assertNotEqual(first.json()["sheet"]["id"], other.json()["sheet"]["id"])

    async def test_a_sheet_begun_by_questions_is_made_once_a_mark(self):
        path, before = f"/api/outings/{self.outing}/situations", len(await self.sheets())
        begun = {"situation": "water", "answers": {}}
        made = [
            (await self.http.post(path, params={"mark": mark}, json=begun)).json()["id"]
            for mark in ("begun-once-1", "begun-once-1", "begun-once-2")
        ]
        self.assertEqual(made[0], made[1])
        self.assertNotEqual(made[0], made[2])
        self.assertEqual(len(await self.sheets()), before + 2)
        newest = await self.http.post(
            "/api/situations", params={"mark": "begun-once-2"}, json=begun
        )
        self.assertEqual(newest.json()["id"], made[2])

    async def test_a_reading_sent_again_does_not_undo_what_followed(self):
        made = await self.http.post(f"/api/outings/{self.outing}/sheets", json={"title": "Gate"})
        path = f"/api/sheets/{made.json()['id']}/picture"
        dark = (await self.send(path, 60, mark="first-reading")).json()["sheet"]
        light = (await self.send(path, 180, mark="later-reading")).json()["sheet"]
        self.assertNotEqual(dark["body"]["picture"], light["body"]["picture"])
        again = (await self.send(path, 60, mark="first-reading")).json()["sheet"]
        self.assertEqual(again["body"]["picture"], light["body"]["picture"])
        self.assertEqual(again["version"], light["version"])

    async def test_what_waited_for_another_library_is_refused_and_nothing_is_kept(self):
        made = (
            await self.http.post(f"/api/outings/{self.outing}/sheets", json={"title": "Gate"})
        ).json()
        outing = (await self.http.get(f"/api/outings/{self.outing}")).json()
        rows = (
            (f"/api/sheets/{made['id']}/picture", made["uid"], "sheet"),
            (f"/api/outings/{self.outing}/pictures", outing["uid"], "outing"),
        )
        for path, uid, what in rows:
            with self.subTest(what):
                got = await self.send(path, 118, uid="of-another")
                self.assertEqual(got.status_code, 404)
                self.assertIn(f"The {what} of this picture is not here.", got.text)
                self.assertEqual((await self.send(path, 118, uid=uid)).status_code, 201)
