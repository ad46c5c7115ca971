"""The long time of a sheet over HTTP: the ways, one taken, water measured from two takes."""

import cv2
import numpy as np

from tests.core.measures.test_measured_flow import water
from tests.pictures.making import exif, jpeg
from tests.server.test_api import WithApp
from tests.stacking.frames import codes_of

LIGHT = [{"id": "a", "name": "Water", "source": {"kind": "ev", "ev100": 8.0}}]
SOFT = [{"subject": "sluice", "look": "soft"}]


class LongTime(WithApp):
    async def asyncSetUp(self):
        await super().asyncSetUp()
        await self.sheet(looks=SOFT)

    async def sheet(self, **body):
        made = {"title": "Sluice", "phone": "wherry-3", "readings": LIGHT, "support": "tripod"}
        path = f"/api/outings/{self.outing}/sheets"
        self.sheet_id = (await self.http.post(path, json={**made, **body})).json()["id"]
        self.path = f"/api/sheets/{self.sheet_id}"

    async def test_a_way_is_taken_and_can_be_undone(self):
        time = (await self.http.get(f"{self.path}/long-time")).json()
        self.assertGreater(time["wanted_high_s"], time["wanted_low_s"])
        glass = next(way for way in time["ways"] if way["id"] == "glass")
        self.assertTrue(glass["reaches"])
        taken = (await self.http.post(f"{self.path}/long-time/glass")).json()
        slip = taken["answer"]["plan"]["slip"]
        self.assertAlmostEqual(slip["shutter_s"], glass["elapsed_s"], delta=1e-6)
        self.assertEqual(len(taken["body"]["glass"]), 1)
        back = (await self.http.post(f"{self.path}/undo")).json()
        self.assertEqual(back["body"]["glass"], [])
        gone = await self.http.post(f"{self.path}/long-time/none-such")
        self.assertEqual(gone.status_code, 404)

    async def test_without_light_or_look_it_says_so(self):
        await self.sheet(readings=[], looks=SOFT)
        self.assertEqual((await self.http.get(f"{self.path}/long-time")).status_code, 422)
        await self.sheet()
        time = (await self.http.get(f"{self.path}/long-time")).json()
        self.assertEqual((time["ways"], time["lanes"]), ([], []))

    async def test_water_is_measured_from_two_takes_and_used(self):
        first = cv2.resize(water(20, size=(600, 800)), None, fx=1, fy=1)
        matrix = np.array([[1.0, 0, 8.0], [0, 1.0, 3.0]])
        second = cv2.warpAffine(first, matrix, (800, 600), borderMode=cv2.BORDER_REFLECT)
        ids = []
        for number, light in enumerate((first, second)):
            tags = exif(
                iso=50, shutter=(1, 100), t36867="2026:10:03 19:00:00", t37521=f"{5 * number}0"
            )
            content = jpeg(codes_of(light), tags)
            took = await self.http.post(f"{self.path}/takes?name=w{number}.jpg", content=content)
            ids.append(took.json()[-1]["id"])
        asked = {"takes": ids, "x": 0.5, "y": 0.5, "r": 0.25, "length_m": 2.0, "length_share": 0.25}
        found = await self.http.post(f"{self.path}/flow", json=asked)
        self.assertEqual(found.status_code, 200, found.text)
        reported = found.json()
        # 8.5 px of 800 in half a second, the frame 8 m wide; ripples of 20 px.
        self.assertAlmostEqual(reported["apart_s"], 0.5)
        self.assertAlmostEqual(reported["speed_m_s"], np.hypot(8, 3) / 800 / 0.5 * 8, delta=0.02)
        self.assertAlmostEqual(reported["ripple_m"], 0.2, delta=0.04)
        await self.http.post(f"{self.path}/flow", json={**asked, "keep": True})
        look = (await self.http.get(self.path)).json()["body"]["looks"][0]
        self.assertAlmostEqual(look["speed_m_s"], reported["speed_m_s"], delta=0.01)
        self.assertEqual(look["subject"], "sluice")

    async def test_what_cannot_be_measured_is_said(self):
        asked = {"takes": [1, 2], "x": 0.5, "y": 0.5, "distance_m": 4.0}
        foreign = await self.http.post(f"{self.path}/flow", json=asked)
        self.assertEqual(foreign.json()["field"], "takes")
        plain = jpeg(np.full((300, 400, 3), 90), exif(iso=50))
        other = jpeg(np.full((300, 400, 3), 91), exif(iso=50))
        for name, data in (("a.jpg", plain), ("b.jpg", other)):
            took = await self.http.post(f"{self.path}/takes?name={name}", content=data)
        asked["takes"] = [take["id"] for take in took.json()]
        untimed = await self.http.post(f"{self.path}/flow", json=asked)
        self.assertIn("have no times", untimed.json()["detail"])
        reported = await self.http.post(f"{self.path}/flow", json={**asked, "apart_s": 0.5})
        self.assertIn("too little texture", reported.json()["detail"])
