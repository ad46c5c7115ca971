"""Dry runs over the API: scenes and own pictures, what they say, files, shots on the bench."""

import base64
import io
import json

import numpy as np
import tifffile
from PIL import Image

from oxlen.core.light.exposure import luminance_cd_m2
from oxlen.core.light.tone import srgb_to_linear
from oxlen.core.simulate.capture import scene_luminance
from oxlen.formats.scene_file import shipped_scene
from tests.pictures.making import corners, exif, jpeg
from tests.server.test_api import WithApp

EV_11 = {"kind": "ev", "ev100": 11.5}
SPOT = {"id": "hull", "x": 0.42, "y": 0.545, "role": "subject", "place": -1.0}


class DryRuns(WithApp):
    async def scene_sheet(self, scene="yard-overcast", **more):
        body = {
            "title": "Hull, tarred",
            "scene": scene,
            "readings": [{"id": "a", "source": {"kind": "ev", "ev100": 11.5}}],
            **more,
        }
        answer = await self.http.post(f"/api/outings/{self.outing}/sheets", json=body)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    async def run_dry(self, sheet, **query):
        answer = await self.http.get(f"/api/sheets/{sheet['id']}/dry-run", params=query)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer, json.loads(answer.headers["x-oxlen-figures"])

    async def test_a_stop_more_light_is_seen_in_the_frame(self):
        sheet = await self.scene_sheet()
        means = []
        for shutter_s in (1 / 500, 1 / 250, 1 / 125):
            answer, figures = await self.run_dry(sheet, iso=50, shutter_s=shutter_s)
            codes = np.asarray(Image.open(io.BytesIO(answer.content)))
            self.assertEqual(codes.shape, (720, 960, 3))
            self.assertTrue(figures["from_scene"])
            self.assertAlmostEqual(sum(figures["shares"]), 1, places=3)
            means.append(codes.mean())
        self.assertEqual(means, sorted(means))
        self.assertGreater(means[2], 1.3 * means[0])

    async def test_every_file_is_seen_with_its_shadows_lifted(self):
        sheet = await self.scene_sheet()
        path = f"/api/sheets/{sheet['id']}/files-compared"
        means = {}
        for lift in (0, 2):
            found = (
                await self.http.get(path, params={"x": 0.4, "y": 0.5, "lift_stops": lift})
            ).json()
            names = [(file["mode"], file["name"]) for file in found["files"]]
            self.assertEqual(len(names), 5)
            for file in found["files"]:
                code = base64.b64decode(file["image"].split(",")[1])
                means[lift, file["mode"], file["name"]] = self.mean_light(code)
        for mode, name in names:
            self.assertGreater(means[2, mode, name], 2.5 * means[0, mode, name])
        by_name = {file["name"]: file for file in found["files"] if file["mode"] == names[0][0]}
        merged, single = by_name["Merged RAW"]["snr_subject"], by_name["RAW"]["snr_subject"]
        # Six frames: up to the square root of six, less what fixed pattern keeps.
        self.assertTrue(1.5 < merged / single <= 6**0.5, merged / single)
        every = next(file for file in found["files"] if file["mode"] == names[2][0])
        self.assertGreater(every["detail_px"], by_name["RAW"]["detail_px"])
        self.assertEqual([file["name"] for file in found["files"] if file["chosen"]], ["Processed"])

    def mean_light(self, code):
        pixels = np.asarray(Image.open(io.BytesIO(code))) / 255
        return float(np.mean(srgb_to_linear(pixels)))

    async def test_lamps_in_motion_draw_their_way_the_longer_the_shutter(self):
        sheet = await self.scene_sheet("lantern-evening")
        widths = []
        # The same light, so that the lanterns' edges are alike: four stops less, four longer.
        for iso, shutter_s in ((800, 1 / 60), (50, 1 / 4)):
            query = {"iso": iso, "shutter_s": shutter_s, "kind": "png"}
            answer, _ = await self.run_dry(sheet, **query)
            codes = np.asarray(Image.open(io.BytesIO(answer.content)), int).max(axis=2)
            # The lantern in the middle, some 42 px wide, and the lamp rowed on the right.
            lantern = codes[284, 430:550] > 180
            lamp = codes[355:375, 690:780].max(axis=0) > 180
            widths.append((int(lantern.sum()), int(lamp.sum())))
        self.assertAlmostEqual(widths[0][0], 42, delta=6)
        self.assertGreater(widths[1][0], widths[0][0] + 4)
        self.assertGreater(widths[1][1], widths[0][1] + 2)

    async def test_coarse_is_small_and_like_the_full(self):
        sheet = await self.scene_sheet()
        coarse, _ = await self.run_dry(sheet, quality="coarse")
        full, _ = await self.run_dry(sheet)
        small, whole = (Image.open(io.BytesIO(x.content)) for x in (coarse, full))
        self.assertEqual(small.size, (320, 240))
        shrunk = np.asarray(whole.resize(small.size, Image.Resampling.BOX), float)
        self.assertLess(np.abs(shrunk - np.asarray(small, float)).mean(), 6)

    async def test_auto_raw_and_shores_are_other_frames(self):
        sheet = await self.scene_sheet("lantern-evening")
        seen = {
            key: (await self.run_dry(sheet, **query))[0].content
            for key, query in {
                "slip": {},
                "auto": {"chooser": "auto"},
                "raw": {"rendition": "raw"},
                "marks": {"marks": True},
            }.items()
        }
        self.assertEqual(len(set(seen.values())), 4)

    async def test_its_blur_and_noise_are_the_plans(self):
        sheet = await self.scene_sheet()
        reported = sheet["answer"]["plan"]
        _, slip = await self.run_dry(sheet, quality="coarse")
        for name in ("blur_px", "blur_share", "snr_subject"):
            self.assertAlmostEqual(slip[name], reported["figures"][name], places=6, msg=name)
        iso, shutter_s = reported["slip"]["iso"], reported["slip"]["shutter_s"]
        query = {"quality": "coarse", "iso": 4 * iso, "shutter_s": shutter_s / 4}
        _, shorter = await self.run_dry(sheet, **query)
        # The hand's blur goes with time; noise with the square root of the light, or worse.
        self.assertAlmostEqual(shorter["blur_px"], slip["blur_px"] / 4, places=6)
        self.assertLess(shorter["snr_subject"], slip["snr_subject"] / 1.9)

    async def test_where_nothing_fits_the_frame_is_named_a_compromise(self):
        # So clean a subject on so large a print wants an ISO under the lowest: no step is left.
        sheet = await self.scene_sheet(
            "bronze-bench",
            lens="long",
            readings=[{"id": "a", "source": {"kind": "ev", "ev100": 7.8}}],
            output={"use": "print-a4", "snr": "excellent"},
        )
        _, tried = await self.run_dry(sheet, quality="coarse")
        _, dragged = await self.run_dry(sheet, quality="coarse", iso=50, shutter_s=0.1)
        _, auto = await self.run_dry(sheet, quality="coarse", chooser="auto")
        self.assertEqual(
            [x["chooser"] for x in (tried, dragged, auto)], ["compromise", "slip", "auto"]
        )

    async def test_a_slip_that_misses_the_exposure_is_named_a_compromise_too(self):
        # A hand in moonlight: the longest shutter at the highest ISO stays stops too dark.
        dark = [{"id": "a", "source": {"kind": "ev", "ev100": -4}}]
        sheet = await self.scene_sheet("lantern-evening", readings=dark)
        self.assertIsNotNone(sheet["answer"]["plan"]["conflict"])
        _, figures = await self.run_dry(sheet, quality="coarse")
        self.assertEqual(figures["chooser"], "compromise")

    async def test_from_a_picture_what_it_cannot_tell_is_said(self):
        codes = corners().copy()
        codes[:40] = 255
        sheet = await self.sheet_with_picture(jpeg(codes))
        answer, figures = await self.run_dry(sheet, iso=100, shutter_s=0.001)
        self.assertFalse(figures["from_scene"])
        self.assertGreater(figures["source_lost_share"], 0.05)
        self.assertEqual(answer.headers["content-type"], "image/jpeg")
        darker, brighter = [
            (await self.run_dry(sheet, iso=100, shutter_s=t))[1]["clipped_share"]
            for t in (0.001, 0.05)
        ]
        self.assertGreater(brighter, darker)

    async def test_files_to_keep(self):
        sheet = await self.scene_sheet()
        png, _ = await self.run_dry(sheet, kind="png")
        self.assertEqual(Image.open(io.BytesIO(png.content)).format, "PNG")
        self.assertIn('filename="Hull tarred.png"', png.headers["content-disposition"])
        tiff, _ = await self.run_dry(sheet, kind="tiff")
        deep = tifffile.imread(io.BytesIO(tiff.content))
        self.assertEqual((deep.dtype, deep.shape), (np.uint16, (720, 960, 3)))
        table = await self.http.get(f"/api/sheets/{sheet['id']}/readings.csv")
        self.assertTrue(table.text.startswith("id,name,role,ev100"))
        self.assertIn("11.5", table.text)

    async def shoot(self, sheet, **how):
        answer = await self.http.post(f"/api/sheets/{sheet['id']}/bench-shot", json=how)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()[-1]

    async def test_shots_on_the_bench_are_takes_of_their_sheet(self):
        sheet = await self.scene_sheet(spots=[SPOT], readings=[])
        auto = await self.shoot(sheet, auto=True, seed=3)
        self.assertEqual((auto["sheet_id"], auto["shot_on"]), (sheet["id"], "auto"))
        listed = (await self.http.get(f"/api/outings/{self.outing}")).json()["sheets"]
        self.assertEqual([sheet_shown["id"] for sheet_shown in listed], [sheet["id"]])
        # Metered by that take the hull gets its slip, and the next one is taken by it.
        metered = (await self.http.post(f"/api/takes/{auto['id']}/meter")).json()
        self.assertEqual(metered["answer"]["picture"]["report"]["camera"]["model"], "Wherry 3")
        by_slip = await self.shoot(sheet)
        slip = metered["answer"]["plan"]["slip"]
        self.assertAlmostEqual(by_slip["settings"]["shutter_s"], slip["shutter_s"], places=5)
        self.assertEqual(by_slip["settings"]["iso"], slip["iso"])
        takes = (await self.http.get(f"/api/sheets/{sheet['id']}/takes")).json()
        self.assertEqual([take["id"] for take in takes], [auto["id"], by_slip["id"]])

    async def test_both_formats_make_one_take_of_two_files(self):
        sheet = await self.scene_sheet(format="both", spots=[SPOT])
        taken = await self.shoot(sheet)
        self.assertNotEqual(taken["raw_picture"], None)
        for sha256 in (taken["picture"], taken["raw_picture"]):
            preview = await self.http.get(f"/api/pictures/{sha256}/preview")
            self.assertEqual(preview.status_code, 200)
        takes = (await self.http.get(f"/api/sheets/{sheet['id']}/takes")).json()
        self.assertEqual(len(takes), 1)

    async def test_what_becomes_of_a_take_is_kept(self):
        sheet = await self.scene_sheet(spots=[SPOT])
        path = f"/api/takes/{(await self.shoot(sheet))['id']}"
        await self.http.patch(path, json={"state": "kept"})
        noted = (await self.http.patch(path, json={"note": "hold it level"})).json()
        self.assertEqual((noted["state"], noted["note"]), ("kept", "hold it level"))
        await self.http.delete(path)
        takes = f"/api/sheets/{sheet['id']}/takes"
        self.assertEqual((await self.http.get(takes)).json(), [])
        await self.http.post(f"{path}/restore")
        self.assertEqual(len((await self.http.get(takes)).json()), 1)
        self.assertEqual((await self.http.patch("/api/takes/99", json={})).status_code, 404)

    async def test_light_expected_later_is_the_light_of_the_frame(self):
        sheet = await self.scene_sheet(readings=[])
        dim = await self.scene_sheet(light_shift_stops=-2.0)
        fixed = {"iso": 50, "shutter_s": 1 / 1000, "kind": "tiff"}
        means = []
        for sheet_shown in (sheet, dim):
            taken = await self.put(sheet_shown, readings=[{"id": "a", "source": EV_11}])
            answer, _ = await self.run_dry(taken.json(), **fixed)
            codes = tifffile.imread(io.BytesIO(answer.content)) / 65535
            means.append(np.median(srgb_to_linear(codes)))
        self.assertAlmostEqual(np.log2(means[0] / means[1]), 2.0, delta=0.05)

    async def test_a_take_through_glass_is_planned_from_as_before(self):
        glass = [{"name": "ND 8", "factor": 8}]
        sheet = await self.scene_sheet(glass=glass, support="tripod", spots=[SPOT])
        for auto in (False, True):
            shot = await self.shoot(sheet, auto=auto, seed=3)
            taken = (await self.http.post(f"/api/takes/{shot['id']}/meter")).json()
            self.assertEqual(taken["body"]["picture_glass_stops"], 3.0)
            self.assertEqual(taken["body"]["glass"], glass)
            spot = next(r for r in taken["answer"]["readings"] if r["id"] == "hull")
            # Three stops less reached the file; the light is what it was.
            light = scene_luminance(shipped_scene("yard-overcast"))
            truth = float(np.log2(light[385:400, 395:410].mean() / luminance_cd_m2(0.0)))
            with self.subTest(auto=auto):
                self.assertAlmostEqual(spot["ev100"], truth, delta=0.6)
                slip = taken["answer"]["plan"]["slip"]
                self.assertEqual(slip["glass_stops"], 3.0)
                bare = np.log2(slip["f_number"] ** 2 / slip["shutter_s"] / slip["iso"] * 100)
                self.assertAlmostEqual(slip["ev100_set"], bare + 3.0)

    async def test_refusals(self):
        plain = await self.sheet_with_picture(jpeg(corners(), exif(iso=None)))
        refused = await self.http.get(f"/api/sheets/{plain['id']}/dry-run")
        self.assertEqual(refused.status_code, 422)
        self.assertIn("a picture or a reading", refused.json()["detail"])
        shot = await self.http.post(f"/api/sheets/{plain['id']}/bench-shot", json={"auto": True})
        self.assertIn("no scene", shot.json()["detail"])
        wide = await self.scene_sheet("varnish-tins")
        refused = await self.http.get(f"/api/sheets/{wide['id']}/dry-run")
        self.assertIn("longer lens", refused.json()["detail"])
        odd = await self.http.get(f"/api/sheets/{wide['id']}/dry-run", params={"iso": "fast"})
        self.assertEqual(odd.status_code, 422)
        self.assertEqual(len((await self.http.get("/api/scenes")).json()), 14)
