"""A lesson in use changes every slip until it is deleted."""

import numpy as np

from oxlen.core.labels import steps_label
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.phones.learned_profile import with_learned
from oxlen.store.kit.learned import learned_of
from tests.pictures.making import exif, jpeg
from tests.server.test_api import WithApp
from tests.shot_by_hand import shot_by_hand

DIM = [{"id": "a", "name": "Oar", "source": {"kind": "ev", "ev100": 5.0}}]


class LearnedFromTakes(WithApp):
    async def asyncSetUp(self):
        await super().asyncSetUp()
        body = {"title": "Oars", "phone": "wherry-3", "readings": DIM, "support": "handheld"}
        path = f"/api/outings/{self.outing}/sheets"
        self.sheet = (await self.http.post(path, json=body)).json()
        self.path = f"/api/sheets/{self.sheet['id']}"

    def shot(self, count, stops, **how):
        shot_by_hand(self.library, self.sheet["id"], count, stops=stops, **how)

    def taught(self):
        with self.library.reader() as connection:
            return learned_of(connection, "wherry-3")

    async def slip(self):
        return (await self.http.get(self.path)).json()["answer"]["plan"]["slip"]

    async def use(self, name, use=True):
        body = {"phone": "wherry-3", "name": name, "use": use}
        return await self.http.post("/api/learned", json=body)

    async def test_before_there_are_enough_nothing_is_taken_in_use(self):
        self.shot(5, 3.0)
        found = (await self.http.get("/api/learned")).json()
        self.assertEqual([figure["value"] for figure in found["figures"]], [None, None])
        self.assertIn("From 20 takes", found["figures"][0]["words"])
        self.assertEqual((await self.use("hold_stops")).status_code, 422)
        self.assertEqual((await self.use("mood")).status_code, 422)

    async def test_a_shakier_hand_shortens_every_slip_until_it_is_let_go(self):
        self.shot(80, 0.5)
        before = await self.slip()
        reported = (await self.http.get("/api/learned")).json()
        hold = reported["figures"][0]
        self.assertAlmostEqual(hold["value"], 0.5, delta=hold["plus_minus"] + 0.1)
        self.assertIn("9 of 10 of your takes are sharp up to", hold["words"])
        self.assertEqual(reported["mistakes"][0]["words"], "camera shake")
        used = (await self.use("hold_stops")).json()["figures"][0]
        self.assertTrue(used["in_use"])
        now = await self.slip()
        self.assertLess(now["shutter_s"], 0.7 * before["shutter_s"])
        outing = (await self.http.get(f"/api/outings/{self.outing}")).json()
        listed = outing["sheets"][0]["planned"]["slip"]
        self.assertEqual(listed, steps_label(now["iso"], now["shutter_s"]))
        await self.use("hold_stops", use=False)
        self.assertEqual(await self.slip(), before)

    async def test_a_meter_that_reads_too_little_is_made_up_for(self):
        self.shot(40, 3.0, off=0.3)
        meter = (await self.use("meter_offset_stops")).json()["figures"][1]
        self.assertAlmostEqual(meter["value"], 0.3, delta=0.08)
        profile = with_learned(shipped_profile("wherry-3"), self.taught())
        self.assertAlmostEqual(profile.meter_offset_stops, 0.3, delta=0.09)
        # The phone's own file is as it was: what is taught is not measured of it.
        file = (await self.http.get("/api/kit/phones/wherry-3/file")).json()
        self.assertEqual(file["meter_offset_stops"]["value"], 0.0)
        calibration = (await self.http.get("/api/learned")).json()["calibration"]
        self.assertIn("40 predictions, 40 within their ±", calibration)

    async def test_a_take_looked_at_counts_once_and_one_on_auto_does_not(self):
        codes = np.full((60, 80, 3), 90)
        content = jpeg(codes, exif(iso=100, shutter=(1, 20)))
        path = f"{self.path}/takes?name=one.jpg"
        take = (await self.http.post(path, content=content)).json()[-1]
        for _ in range(2):
            found = await self.http.get(f"/api/takes/{take['id']}/check")
            self.assertEqual(found.status_code, 200, found.text)
        self.assertEqual((await self.http.get("/api/learned")).json()["takes"], 1)
        with self.library.writer() as connection:
            connection.execute("UPDATE take SET shot_on = 'auto'")
        self.assertEqual((await self.http.get("/api/learned")).json()["takes"], 0)

    async def test_takes_are_compared_with_the_first_and_seen_pixel_by_pixel(self):
        ids = []
        for tone, shot in (
            (90, {"iso": 100, "shutter": (1, 20)}),
            (120, {"iso": 400, "shutter": (1, 40)}),
        ):
            codes = np.full((300, 400, 3), tone)
            path = f"{self.path}/takes?name=t{tone}.jpg"
            took = await self.http.post(path, content=jpeg(codes, exif(**shot)))
            ids.append(took.json()[-1]["id"])
        reported = (await self.http.get("/api/takes-compared", params={"ids": ids})).json()
        self.assertEqual(reported[0]["differs"], [])
        self.assertEqual(
            reported[1]["differs"],
            [
                "ISO 400 instead of 100: 2.0 stops more",
                "1/40 s instead of 1/20 s: 1.0 stop less",
                "Total: 1.0 stop brighter",
            ],
        )
        self.assertEqual((reported[1]["width"], reported[1]["height"]), (400, 300))
        picture = reported[0]["take"]["picture"]
        ask = {"x": 1.0, "y": 0.0, "side_px": 128}
        detail = await self.http.get(f"/api/pictures/{picture}/detail", params=ask)
        self.assertEqual(detail.headers["content-type"], "image/jpeg")
        none = await self.http.get(f"/api/pictures/{'0' * 64}/detail", params=ask)
        self.assertEqual(none.status_code, 404)
        five = await self.http.get("/api/takes-compared", params={"ids": [1, 2, 3, 4, 5]})
        self.assertEqual(five.status_code, 422)

    async def test_the_slip_says_how_likely_it_comes_out(self):
        chance = (await self.http.get(self.path)).json()["answer"]["chance"]
        self.assertTrue(0 < chance["share"] <= chance["tested_share"] <= 0.97)
        self.assertRegex(chance["words"], r"^About \d+ of 10+ shots work\.")
