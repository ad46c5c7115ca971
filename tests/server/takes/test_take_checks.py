"""A bench take compared with its slip over HTTP and on the command line; the correction."""

import json
import tempfile
from pathlib import Path

import cv2
import numpy as np

from tests.cli.test_commands import oxlen
from tests.pictures.making import corners, exif, jpeg
from tests.server.test_api import WithApp


class TakeChecks(WithApp):
    async def sheet_of(self, pixels, **body):
        """A sheet whose picture has a spot in each corner it can be read by."""
        made = await self.http.post(
            f"/api/outings/{self.outing}/pictures?name=plan.jpg", content=jpeg(pixels)
        )
        sheet = made.json()["sheet"]
        spots = [
            {"id": "wall", "name": "Wall", "x": 0.25, "y": 0.75, "r": 0.05},
            {"id": "sky", "name": "Sky", "role": "keep-bright", "x": 0.75, "y": 0.75, "r": 0.05},
        ]
        edit = {
            "version": sheet["version"],
            "label": "spots",
            "body": {**sheet["body"], "spots": spots, **body},
        }
        return (await self.http.put(f"/api/sheets/{sheet['id']}", json=edit)).json()

    async def checked(self, sheet, pixels, block):
        path = f"/api/sheets/{sheet['id']}/takes?name=take.jpg"
        took = (await self.http.post(path, content=jpeg(pixels, block))).json()
        found = await self.http.get(f"/api/takes/{took[-1]['id']}/check")
        self.assertEqual(found.status_code, 200, found.text)
        return found.json()

    async def test_a_take_in_less_light_gets_the_slip_for_it(self):
        sheet = await self.sheet_of(corners())
        slip = sheet["answer"]["plan"]["slip"]
        shot = exif(iso=round(slip["iso"]), shutter=(1, round(1 / slip["shutter_s"])))
        found = await self.checked(sheet, corners() // 2, shot)
        self.assertAlmostEqual(found["settings_off"]["shutter_stops"], 0, delta=0.01)
        self.assertEqual({spot["name"] for spot in found["spots"]}, {"Wall", "Sky"})
        darker = [spot["unexplained_stops"] for spot in found["spots"]]
        self.assertTrue(all(levels < -0.6 for levels in darker), darker)
        self.assertLess(found["next"]["light_stops"], -0.6)
        shift = found["patch"]["light_shift_stops"]
        self.assertAlmostEqual(shift, found["next"]["light_stops"], delta=0.06)
        gathered = found["next"]["shutter_s"] * found["next"]["iso"]
        self.assertGreater(gathered, 1.4 * slip["shutter_s"] * slip["iso"])
        # Taken, the sheet plans for that light and its slip is the one that was promised.
        body = {**sheet["body"], **found["patch"]}
        edit = {"version": sheet["version"], "label": "correction from a take", "body": body}
        after = (await self.http.put(f"/api/sheets/{sheet['id']}", json=edit)).json()
        corrected = after["answer"]["plan"]["slip"]
        self.assertAlmostEqual(corrected["shutter_s"] / found["next"]["shutter_s"], 1, delta=0.3)

    async def test_a_place_nobody_focused_on_may_lie_out_of_focus(self):
        draw = np.random.default_rng(4)
        plain = cv2.blur(draw.uniform(30, 220, (480, 640)).astype(np.float32), (2, 2))
        soft = plain.copy()
        # Round the first spot alone, as something behind what is sharp.
        disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (5, 5)).astype(np.float32)
        spread = cv2.filter2D(plain, -1, disc / disc.sum())
        soft[260:460, 60:260] = spread[260:460, 60:260]
        texture, take = (np.dstack([levels] * 3).astype(np.uint8) for levels in (plain, soft))
        for focus, is_known in (
            ({"on": "Wall", "distance_m": 2.0}, True),
            ({"on": "the cleat", "distance_m": 1.0, "strategy": "by_hand"}, False),
        ):
            with self.subTest(focus):
                sheet = await self.sheet_of(texture, focus=focus, support="tripod")
                slip = sheet["answer"]["plan"]["slip"]
                shot = exif(iso=round(slip["iso"]), shutter=(1, round(1 / slip["shutter_s"])))
                found = await self.checked(sheet, take, shot)
                reported = any("Out of focus" in levels for levels in found["verdict"])
                self.assertEqual(reported, is_known, found["verdict"])

    async def test_shot_at_other_settings_in_other_light_the_new_slip_leads(self):
        sheet = await self.sheet_of(corners())
        found = await self.checked(sheet, corners(), exif(iso=3200, shutter=(1, 10)))
        self.assertGreater(found["settings_off"]["iso_stops"], 3)
        # So much more exposure and the same picture: the light is less, and the slip too short.
        self.assertEqual(found["next"]["one_change"], "Dial the new slip.")
        self.assertLess(found["next"]["light_stops"], -3)
        self.assertIn("Shot at different settings", found["verdict"][1])

    async def test_the_command_prints_the_same_fields(self):
        sheet = await self.sheet_of(corners())
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        plan, take = Path(folder.name) / "plan.json", Path(folder.name) / "take.jpg"
        plan.write_text(json.dumps(sheet["answer"]["plan"]))
        take.write_bytes(jpeg(corners(), exif(iso=50, shutter=(1, 100))))
        spot = "Wall=0.25,0.75,0.05"
        done = oxlen("check-take", take, "--plan", plan, "--spot", spot)
        self.assertEqual(done.returncode, 0, done.stderr)
        reported = json.loads(done.stdout)
        self.assertEqual([levels["name"] for levels in reported["spots"]], ["Wall"])
        self.assertIn("from the take alone", reported["notes"][0])
        self.assertIn("slip", reported["next"])

    async def test_total_time_of_many_frames_is_no_reading_of_the_light(self):
        sheet = await self.sheet_of(corners())
        found = await self.checked(sheet, corners() // 2, exif(iso=50, shutter=(900, 1)))
        self.assertEqual((found["light"], found["patch"]), ("unknown", {}))
        self.assertIsNone(found["settings_off"]["shutter_stops"])
        self.assertIn("total time of many stacked frames", " ".join(found["notes"]))

    async def test_a_kept_take_becomes_a_preset_for_light_like_its_own(self):
        sheet = await self.sheet_of(corners(), support="tripod")
        path = f"/api/sheets/{sheet['id']}/takes?name=take.jpg"
        took = (await self.http.post(path, content=jpeg(corners()))).json()[-1]
        for name in ("quay-wall", "quay-wall-2"):
            kept = await self.http.post(
                f"/api/takes/{took['id']}/preset", json={"name": "Quay wall"}
            )
            self.assertEqual(kept.status_code, 201, kept.text)
            preset = kept.json()["preset"]
            self.assertEqual((preset["id"], preset["choices"]["support"]), (name, "tripod"))
        low, high = preset["light_ev100"]
        self.assertAlmostEqual(high - low, 2.0)
