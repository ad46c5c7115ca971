"""Focus ladders over the API, and the points of a slider's scale they lead to."""

import json

from oxlen.formats.phone.shipped import shipped_profile
from tests.a_ladder import BEST, rung
from tests.pictures.making import exif, jpeg
from tests.server.test_api import WithApp

INFINITY = {"lens": "main", "distance_m": None, "found": "ladder of 7 pictures", "software": "7.2"}


class Ladders(WithApp):
    async def measured(self, value):
        answer = await self.http.post(
            "/api/ladder/patch",
            params={"name": "rung.jpg", "x": 0.5, "y": 0.5, "r": 0.3},
            content=rung(value),
        )
        self.assertEqual(answer.status_code, 200, answer.text)
        return {"value": value, **answer.json()}

    async def peak(self, values):
        rungs = [await self.measured(value) for value in values]
        return await self.http.post("/api/ladder/peak", json={"rungs": rungs})

    async def test_the_sharpest_value_is_found_or_which_way_to_go_on(self):
        found = (await self.peak([0.5, 0.55, 0.6, 0.65, 0.7, 0.75])).json()
        self.assertAlmostEqual(found["value"], BEST, delta=0.0125)
        self.assertLess(abs(found["value"] - BEST), found["plus_minus"])
        self.assertEqual(max(sample["share"] for sample in found["samples"]), 1.0)
        short = (await self.peak([0.3, 0.4, 0.5])).json()
        self.assertEqual((short["value"], short["go_on"]), (None, "higher"))
        self.assertIn("towards higher values", short["words"])

    async def test_values_twice_and_pictures_that_are_none_are_refused(self):
        twice = await self.peak([0.5, 0.6, 0.6])
        self.assertEqual(twice.status_code, 422, twice.text)
        self.assertIn("same slider value", twice.json()["detail"])
        none = await self.http.post("/api/ladder/look", params={"name": "a.jpg"}, content=b"no")
        self.assertIn("a.jpg", none.json()["detail"])
        self.assertEqual(list((self.library.folder / "incoming").iterdir()), [])

    async def test_a_picture_says_its_slider_and_software(self):
        block = exif()
        block[305] = "7.3"
        stated = json.dumps({"focus": 0.6}).encode()
        block.get_ifd(0x8769)[37510] = b"ASCII\0\0\0" + stated
        data = jpeg([[[90] * 3] * 64] * 64, block)
        found = await self.http.post("/api/ladder/look", params={"name": "a.jpg"}, content=data)
        seen = found.json()
        self.assertEqual((seen["slider"], seen["software"]), (0.6, "7.3"))
        self.assertTrue(seen["preview"].startswith("data:image/jpeg;base64,"))

    async def keep(self, phone="wherry-3", **point):
        return await self.http.post(
            f"/api/kit/phones/{phone}/slider-points", json={**INFINITY, **point}
        )

    async def test_a_point_goes_into_a_copy_and_takes_the_place_of_the_old_one(self):
        kept = await self.keep(value=0.94, plus_minus=0.004)
        self.assertEqual(kept.status_code, 201, kept.text)
        own = kept.json()["profile"]
        self.assertEqual((own["id"], kept.json()["shipped"]), ("my-wherry-3-1", False))
        points = own["lenses"][0]["focus"]["scales"][0]["points"]
        far = [point for point in points if point["distance_m"] is None]
        self.assertEqual([(item["value"], item["date"]) for item in far], [(0.94, "2026-10-03")])
        self.assertEqual(far[0]["found"], "ladder of 7 pictures")
        before = shipped_profile("wherry-3").lenses[0].focus.scales[0].points
        self.assertEqual(len(points), len(before))

    async def test_a_point_between_wrong_neighbours_is_refused_by_name(self):
        wrong = await self.keep(value=0.75, distance_m=0.12)
        self.assertEqual(wrong.status_code, 422)
        self.assertIn("12 cm at 0.75 contradicts 43 cm at 0.7 and", wrong.json()["detail"])
        off = await self.keep(value=1.4)
        self.assertIn("from 0 to 1", off.json()["detail"])
        self.assertEqual((await self.keep(value=0.5, lens="none")).status_code, 404)

    async def test_a_first_point_waits_for_a_second_and_may_be_taken_out(self):
        first = (await self.keep(value=0.3, distance_m=0.04, clip_on="Four dioptres")).json()
        own = first["profile"]
        scales = {item["clip_on"]: item for item in own["lenses"][0]["focus"]["scales"]}
        self.assertEqual(len(scales["Four dioptres"]["points"]), 1)
        self.assertNotIn(
            "Four dioptres",
            [scale.clip_on for scale in self.profile_of(own).to_phone().lens("main").focus.scales],
        )
        path = f"/api/kit/phones/{own['id']}/slider-points"
        query = {"lens": "main", "value": 0.3, "clip_on": "Four dioptres"}
        gone = (await self.http.delete(path, params=query)).json()["profile"]
        self.assertEqual(len(gone["lenses"][0]["focus"]["scales"]), 2)
        self.assertEqual((await self.http.delete(path, params=query)).status_code, 404)

    def profile_of(self, profile):
        return type(shipped_profile("wherry-3")).model_validate(profile)

    async def test_an_old_scale_asks_to_be_checked(self):
        profile = shipped_profile("wherry-3").model_dump(mode="json")
        for point in profile["lenses"][0]["focus"]["scales"][0]["points"]:
            point["date"] = "2025-09-30"
        kept = await self.http.put("/api/kit/phones/mine", json={**profile, "id": "mine"})
        rechecks = kept.json()["rechecks"]
        self.assertEqual(
            [(recheck["lens"], recheck["clip_on"]) for recheck in rechecks], [("main", "")]
        )
        self.assertIn("more than a year ago", rechecks[0]["words"])
