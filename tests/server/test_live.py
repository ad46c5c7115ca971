"""The live camera over HTTP: frames read and forgotten, cameras and their curves kept."""

import base64
import unittest

import numpy as np

from tests.core.live.test_preview_curve import Preview
from tests.pictures.making import exif, jpeg
from tests.server.test_api import WithApp

CAN = {"shutter_s": {"low": 0.001, "high": 0.01, "can_set": True}, "photo": True}


def frame(level, size=(120, 160)):
    codes = np.full((*size, 3), level, dtype=np.uint8)
    return base64.b64encode(jpeg(codes)).decode()


class Live(WithApp):
    async def sheet(self):
        body = {"title": "Wall", "phone": "wherry-3", "lens": "main"}
        path = f"/api/outings/{self.outing}/sheets"
        return (await self.http.post(path, json=body)).json()["id"]

    async def read(self, sheet, **more):
        page = self._testMethodName.replace("_", "-")[-40:]
        asked = {"frame": frame(118), "number": 1, "page": page, **more}
        return await self.http.post(f"/api/live/sheets/{sheet}", json=asked)

    async def test_a_frame_of_known_exposure_has_light_and_a_slip_and_leaves_nothing(self):
        sheet = await self.sheet()
        before = (await self.http.get(f"/api/sheets/{sheet}")).json()
        spots = [{"id": "a", "x": 0.5, "y": 0.5, "role": "subject"}]
        settings = {"iso": 100, "shutter_s": 0.02}
        view = (await self.read(sheet, settings=settings, spots=spots)).json()
        # Code 118 is mid; f/1.8, 1/50 s and ISO 100 expose for log2(1.8² · 50) = EV 7.34.
        self.assertAlmostEqual(view["readings"][0]["ev100"], 7.34, delta=0.05)
        wanted = view["dial"]["wanted"]
        exposed = np.log2(view["dial"]["f_number"] ** 2 / wanted["shutter_s"])
        self.assertAlmostEqual(exposed - np.log2(wanted["iso"] / 100), 7.34, delta=0.34)
        after = (await self.http.get(f"/api/sheets/{sheet}")).json()
        self.assertEqual(before, after)

    async def test_a_frame_that_came_late_is_not_read(self):
        sheet = await self.sheet()
        self.assertEqual((await self.read(sheet, number=7)).status_code, 200)
        self.assertEqual((await self.read(sheet, number=6)).status_code, 204)
        self.assertEqual((await self.read(sheet, number=1, page="p-2")).status_code, 200)

    async def test_what_is_no_small_frame_is_refused(self):
        sheet = await self.sheet()
        large = frame(90, size=(700, 900))
        nothing = base64.b64encode(b"no picture").decode()
        heavy = base64.b64encode(b"x" * 41_000).decode()
        for number, bad in enumerate((large, nothing, heavy), start=1):
            answer = await self.read(sheet, frame=bad, number=number)
            self.assertEqual(answer.status_code, 422, answer.text)
            self.assertEqual(answer.headers["content-type"], "application/problem+json")

    async def test_a_camera_is_kept_with_what_it_can_do_and_its_curve(self):
        seen = {"name": "This phone’s browser", "phone": "wherry-3", "can": CAN}
        view = (await self.http.put("/api/cameras/c-1", json=seen)).json()
        there = {ability["name"] for ability in view["abilities"] if ability["is_there"]}
        self.assertEqual(there, {"Set the shutter", "Take whole photos"})
        steps = self.curve_steps()
        answer = await self.http.post("/api/cameras/c-1/curve", json={"steps": steps})
        self.assertEqual(answer.status_code, 200, answer.text)
        self.assertLess(answer.json()["curve_plus_minus_stops"], 0.15)
        # Seen again, the curve stays; the light of a frame then follows it.
        await self.http.put("/api/cameras/c-1", json=seen)
        sheet, more = await self.sheet(), {"settings": {"iso": 100, "shutter_s": 0.02}}
        assumed = (await self.read(sheet, **more)).json()
        measured = (await self.read(sheet, number=2, camera="c-1", **more)).json()
        self.assertLess(measured["plus_minus_stops"], assumed["plus_minus_stops"] - 0.1)
        self.assertIn("measured", measured["why"])
        self.assertEqual((await self.http.delete("/api/cameras/c-1")).status_code, 204)
        self.assertEqual((await self.http.get("/api/cameras")).json(), [])

    def curve_steps(self):
        """A still scene of 9 by 12 cells through a phone of known curve."""
        phone, found = Preview(4), []
        for step in phone.steps(np.arange(-4, 4.1, 0.75)):
            cells = np.array(step.codes, dtype=np.uint8).reshape(9, 12)
            codes = np.repeat(np.repeat(np.kron(cells, np.ones((12, 12)))[..., None], 3, -1), 1, 0)
            picture = base64.b64encode(jpeg(codes.astype(np.uint8))).decode()
            shutter_s = 0.01 * 2.0**step.stops
            found.append({"shutter_s": shutter_s, "iso": 100, "frame": picture})
        return found

    async def test_a_measured_focus_corrects_what_the_camera_is_set_to(self):
        sheet = await self.sheet()
        body = {"name": "Phone", "phone": "wherry-3", "can": CAN}
        await self.http.put("/api/cameras/c-1", json=body)
        for point in (
            {"distance_m": None, "set_dioptres": 0.3},
            {"distance_m": 1.0, "set_dioptres": 1.3},
        ):
            kept = await self.http.post("/api/cameras/c-1/focus-points", json=point)
        self.assertEqual(kept.json()["focus_words"], "Focus measured at infinity and 1 m.")
        wanted = {"focus_dioptres": 0.5}
        asked = {"wanted": wanted, "got": {"focus_dioptres": 0.8}, "camera": CAN, "key": "c-1"}
        lines = (await self.http.post("/api/live/dialled", json=asked)).json()["lines"]
        self.assertEqual(lines[0]["got"], "2 m")
        missing = await self.http.post("/api/cameras/c-9/focus-points", json=point)
        self.assertEqual(missing.status_code, 404)
        self.assertEqual((await self.read(sheet, camera="c-1")).status_code, 200)

    async def test_a_picture_of_the_camera_app_is_a_known_light_and_is_not_kept(self):
        sheet = await self.sheet()
        wall = np.full((120, 160, 3), 118, dtype=np.uint8)
        mid = jpeg(wall, exif(shutter=(1, 50)))
        path = f"/api/live/sheets/{sheet}/known?name=wall.jpg"
        known = (await self.http.post(path, content=mid)).json()
        self.assertAlmostEqual(known["ev100"], 7.34, delta=0.05)
        refused = await self.http.post(path, content=jpeg(wall, exif(iso=None, shutter=None)))
        self.assertEqual(refused.status_code, 422)
        self.assertIn("wall.jpg does not tell its exposure", refused.json()["detail"])
        # A phone's picture is larger than any other request may be.
        grain = np.random.default_rng(30).integers(60, 180, (1200, 1600, 3))
        large = jpeg(grain, exif(shutter=(1, 50)))
        self.assertGreater(len(large), 2_000_000)
        self.assertEqual((await self.http.post(path, content=large)).status_code, 200)
        after = (await self.http.get(f"/api/sheets/{sheet}")).json()
        self.assertIsNone(after["body"]["picture"])

    async def test_what_was_dialled_is_compared_with_the_slip(self):
        asked = {
            "wanted": {"iso": 50, "shutter_s": 0.01, "white_k": 5000},
            "got": {"iso": 50, "shutter_s": 0.005},
            "camera": CAN,
        }
        view = (await self.http.post("/api/live/dialled", json=asked)).json()
        self.assertAlmostEqual(view["brighter_stops"], -1.0)
        self.assertEqual(view["words"], "As set, frames are 1.0 stop darker.")
        self.assertEqual([line["is_set"] for line in view["lines"]], [False, False, False])


if __name__ == "__main__":
    unittest.main()
