"""Sheets begun from a situation, lamps and clip-ons, what pictures tell."""

import unittest

from oxlen.core.light.reading import reading_from_level
from oxlen.core.motion.mains import mains_hz
from oxlen.core.motion.presets import mover_preset
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.sheet.situations import sheet_of, situation, situations, usual_numbers
from oxlen.views.answer import answer
from tests.pictures.making import corners, dng, jpeg
from tests.server.test_api import WithApp


class Situations(unittest.TestCase):
    def setUp(self):
        lens = shipped_profile("wherry-3").to_phone().lens(None)
        mode = lens.mode(None)
        self.focal_mm = lens.focal_mm
        self.short_side_mm = min(mode.width_px, mode.height_px) * mode.pixel_pitch_um / 1000

    def slip_of(self, situation_id, phone="wherry-3", **answers):
        body = sheet_of(situation(situation_id), answers, phone=phone)
        return answer(body, shipped_profile, None)

    def test_every_one_gives_a_slip_or_ways_out_on_every_phone(self):
        self.assertGreaterEqual(len(situations()), 12)
        for known in situations():
            for phone in ("wherry-3", "dabber"):
                found = self.slip_of(known.id, phone)
                with self.subTest(known.id, phone=phone):
                    conflict = found.plan.conflict
                    self.assertTrue(conflict is None or conflict.trades, conflict)
                    names = {line.name for line in found.lines}
                    if conflict is None:
                        self.assertLessEqual(
                            {"Lens", "ISO", "Shutter", "White balance", "Focus"}, names
                        )

    def test_every_answer_is_a_sheet(self):
        for known in situations():
            for question in known.questions:
                for choice in question.choices:
                    with self.subTest(known.id, choice=choice.id):
                        self.slip_of(known.id, **{question.id: choice.id})

    def test_answers_mean_what_they_say(self):
        frozen = self.slip_of("moving", what="cyclist", look="frozen")
        panned = sheet_of(
            situation("moving"), {"what": "cyclist", "look": "panned"}, phone="dabber"
        )
        self.assertIn("freeze the cyclist", {limit.name for limit in frozen.plan.limits})
        asked = panned.asked()
        self.assertEqual((asked["motion"][0].pan, asked["looks"][0].look), (0.06, "pan"))
        fall = self.slip_of("water", look="soft", water="fall", filter="nd-1000")
        # A veil is 0.65 of the frame's short side or more, of water at 4 m/s, 8 m away.
        share = 4.0 / 8 * fall.plan.slip.shutter_s * self.focal_mm / self.short_side_mm
        self.assertGreaterEqual(share, 0.65)
        self.assertAlmostEqual(fall.plan.slip.glass_stops, 9.9658, places=3)
        street = self.slip_of("night-lamps", held="handheld", light="lantern-street")
        self.assertLessEqual(street.plan.slip.shutter_s, 1 / 3)

    def test_a_sky_that_matters_is_a_reading_of_its_own(self):
        def readings(**answers):
            return sheet_of(situation("grey-day"), answers, phone="wherry-3").readings

        ground, sky = readings(sky="glaring")
        self.assertEqual((ground.name, sky.role), ("foreground", "keep-bright"))
        self.assertEqual(sky.source.ev100, reading_from_level("overcast").ev100 + 4)
        # What is not asked for is not answered either.
        self.assertEqual(len(readings(keep="ground", sky="glaring")), 1)

    def test_usual_numbers_are_those_of_the_mover_in_their_units(self):
        water = next(
            question for question in situation("water").questions if question.id == "water"
        )
        for choice in water.choices:
            numbers, usual = usual_numbers(water, choice), mover_preset(choice.set["_mover"])
            with self.subTest(choice.id):
                self.assertAlmostEqual(numbers["speed"] / 3.6, usual.speed_m_s, delta=0.02)
                self.assertEqual(numbers["distance"], usual.distance_m)

    def test_the_mains_of_time_zones(self):
        rows = {
            50: ("Europe/Oslo", "America/Argentina/Cordoba", "Asia/Kolkata"),
            60: ("America/Lima", "Asia/Seoul"),
            None: ("Asia/Tokyo", "UTC", "", None),
        }
        for hertz, zones in rows.items():
            self.assertEqual({mains_hz(zone) for zone in zones}, {hertz})


class Begun(WithApp):
    async def begin(self, path="/api/situations", **said):
        return await self.http.post(path, json={"situation": "water", **said})

    async def test_in_an_outing_or_the_newest(self):
        first = (await self.begin(answers={"filter": "nd-64"})).json()
        self.assertEqual(first["outing_id"], self.outing)
        self.assertEqual(first["body"]["glass"], [{"name": "ND 64", "factor": 64.0}])
        made = await self.begin(f"/api/outings/{self.outing}/situations")
        self.assertEqual(made.status_code, 201)
        shown = (await self.http.get("/api/situations")).json()
        self.assertEqual({len(item["questions"]) in (2, 3, 4, 5) for item in shown}, {True})

    async def test_mains_is_that_of_the_place_and_asked_where_nothing_tells(self):
        def asks(shown):
            return {item["id"] for item in shown if item["asks_mains"]}

        nowhere = (await self.http.get("/api/situations")).json()
        self.assertLessEqual({"night-lamps", "product"}, asks(nowhere))
        self.assertNotIn("water", asks(nowhere))
        lamps = {"situation": "product", "answers": {"lamp": "workshop"}, "mains_hz": 60}
        path = f"/api/outings/{self.outing}"
        untold = (await self.http.post(f"{path}/situations", json=lamps)).json()
        self.assertEqual(untold["body"]["flicker"]["mains_hz"], 60)
        await self.http.patch(path, json={"time_zone": "Europe/London"})
        reported = (await self.http.post(f"{path}/situations", json=lamps)).json()
        self.assertEqual(reported["body"]["flicker"]["mains_hz"], 50)
        here = (await self.http.get(f"/api/situations?outing_id={self.outing}")).json()
        self.assertEqual(asks(here), set())

    async def test_numbers_are_taken_in_their_units_and_refused_out_of_range(self):
        fast = {"situation": "moving", "answers": {"what": "cyclist"}}
        made = await self.begin(**fast, numbers={"speed": 36, "distance": 6})
        [motion] = made.json()["body"]["motion"]
        self.assertAlmostEqual(motion["speed_m_s"], 10.0)
        self.assertEqual(motion["distance_m"], 6.0)
        for numbers, words in (({"speed": 9000}, "400 km/h"), ({"height": 1}, "height")):
            refused = await self.begin(**fast, numbers=numbers)
            self.assertEqual(refused.status_code, 422)
            self.assertIn(words, refused.json()["detail"])

    async def test_ones_own_filter_is_the_kits_darkest(self):
        for name, factor in (("light", 8), ("dark", 400)):
            glass = {"name": name, "factor": factor}
            await self.http.put(f"/api/kit/glass/{name}", json=glass)
        sheet = (await self.begin(answers={"filter": "kit"})).json()
        self.assertEqual(sheet["body"]["glass"], [{"name": "dark", "factor": 400.0}])

    async def test_what_it_does_not_know_is_refused_by_name(self):
        rows = [
            ({"situation": "moonwalk"}, 404, "moonwalk"),
            ({"answers": {"colour": "red"}}, 422, "colour"),
            ({"answers": {"look": "frothy"}}, 422, "frothy"),
            ({"phone": "nobody"}, 404, "nobody"),
        ]
        for stated, status, words in rows:
            got = await self.begin(**stated)
            with self.subTest(words):
                self.assertEqual(got.status_code, status, got.text)
                self.assertIn(words, got.json()["detail"])


class KitItems(WithApp):
    async def test_lamps_and_clip_ons_are_kept_and_clip_ons_are_at_hand(self):
        panel = {"name": "Panel", "cct_k": 4000, "cri": 92}
        kept = await self.http.put("/api/kit/lamps/panel", json=panel)
        self.assertEqual(kept.json()["lamp"]["dims_to"], 1.0)
        ten = {"name": "Ten", "dioptres": 10, "lens": "main"}
        await self.http.put("/api/kit/clip-ons/ten", json=ten)
        reading = {"id": "a", "source": {"kind": "ev", "ev100": 9}}
        body = {"title": "Screw", "readings": [reading], "focus": {"thing_mm": 20}}
        sheet = await self.http.post(f"/api/outings/{self.outing}/sheets", json=body)
        ways = [item["way"] for item in sheet.json()["answer"]["depth"]["small"]]
        self.assertIn("Main with “Ten”", ways)
        self.assertNotIn("Long with “Ten”", ways)
        for path in ("lamps/panel", "clip-ons/ten"):
            self.assertEqual((await self.http.delete(f"/api/kit/{path}")).status_code, 204)
            self.assertEqual((await self.http.delete(f"/api/kit/{path}")).status_code, 404)
        self.assertEqual((await self.http.get("/api/kit/lamps")).json(), [])

    async def test_numbers_out_of_range_are_refused(self):
        for path, body, field in (
            ("lamps/a", {"name": "a", "cct_k": 90}, "cct_k"),
            ("clip-ons/a", {"name": "a", "dioptres": 0}, "dioptres"),
        ):
            got = await self.http.put(f"/api/kit/{path}", json=body)
            self.assertEqual((got.status_code, got.json()["field"]), (422, field))


IDENTITY = ("2i", 9, (1, 1, 0, 1, 0, 1, 0, 1, 1, 1, 0, 1, 0, 1, 0, 1, 1, 1))


class Measures(WithApp):
    async def test_a_patch_of_raw_and_what_a_processed_file_does_not_say(self):
        raw = await self.sheet_with_picture(dng(t50721=IDENTITY), "slip.dng")
        place = {"x": 0.25, "y": 0.75, "r": 0.1}
        found = (await self.http.get(f"/api/sheets/{raw['id']}/white", params=place)).json()
        self.assertEqual(found["measured_in"], "raw")
        self.assertIsNotNone(found["cct_k"])
        processed = await self.sheet_with_picture()
        path = f"/api/sheets/{processed['id']}/white"
        silent = (await self.http.get(path, params=place)).json()
        self.assertIsNone(silent["cct_k"])
        self.assertIn("does not contain its kelvin", silent["warning"])
        reported = (await self.http.get(path, params={**place, "dial_k": 5000})).json()
        # A grey patch has no cast: the light is what was dialled.
        self.assertAlmostEqual(1e6 / reported["cct_k"], 200, delta=1)

    async def test_where_it_is_sharp(self):
        large = corners().repeat(4, axis=0).repeat(4, axis=1)
        sheet = await self.sheet_with_picture(jpeg(large))
        path = f"/api/sheets/{sheet['id']}/sharpness"
        found = (await self.http.get(path, params={"x": 0.5, "y": 0.5, "r": 0.1})).json()
        self.assertEqual(len(found["values"]), found["rows"] * found["columns"])
        self.assertTrue(found["words"].endswith("."))

    async def test_without_a_picture_it_says_so(self):
        body = {"title": "Bare"}
        sheet = await self.http.post(f"/api/outings/{self.outing}/sheets", json=body)
        path = f"/api/sheets/{sheet.json()['id']}/white"
        got = await self.http.get(path, params={"x": 0.5, "y": 0.5})
        self.assertEqual(got.status_code, 422)
        self.assertIn("no picture", got.json()["detail"])
