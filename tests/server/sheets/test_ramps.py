"""How fast light changes, measured from takes of one sheet over HTTP."""

from tests.pictures.making import corners, exif, jpeg
from tests.server.test_api import WithApp


class Ramps(WithApp):
    async def takes(self, *shots):
        """Takes of a new sheet, each of a brightness at a time of the clock."""
        made = await self.http.post(
            f"/api/outings/{self.outing}/pictures?name=plan.jpg", content=jpeg(corners())
        )
        sheet = made.json()["sheet"]["id"]
        for number, (pixels, at) in enumerate(shots):
            block = exif(iso=50, shutter=(1, 60), t36867=f"2027:05:06 {at}")
            path = f"/api/sheets/{sheet}/takes?name=t{number}.jpg"
            took = await self.http.post(path, content=jpeg(pixels, block))
            self.assertEqual(took.status_code, 201, took.text)
        return sheet, [take["id"] for take in took.json()]

    async def measured(self, sheet, takes):
        return await self.http.post(f"/api/sheets/{sheet}/ramp", json={"takes": takes})

    async def test_light_that_falls_while_the_settings_stay_is_told_in_stops_a_minute(self):
        whole = corners()
        # In linear light sRGB code 0.73 of another is about one stop less (IEC 61966-2-1).
        fell = (whole * 0.73).astype(whole.dtype)
        sheet, takes = await self.takes((whole, "20:00:00"), (fell, "20:04:00"))
        found = (await self.measured(sheet, takes)).json()
        self.assertAlmostEqual(found["stops_min"], -0.25, delta=0.03)
        self.assertRegex(found["words"], r"^−0\.2\d stops a minute, from 2 takes over 4 min$")

    async def test_takes_that_cannot_tell_are_refused_by_what_they_lack(self):
        sheet, takes = await self.takes((corners(), "20:00:00"), (corners(), "20:00:00"))
        at_once = await self.measured(sheet, takes)
        self.assertEqual(at_once.status_code, 422, at_once.text)
        strange = await self.measured(sheet, [takes[0], 10**6])
        self.assertIn("Only takes of this sheet", strange.json()["detail"])
        alone = await self.measured(sheet, takes[:1])
        self.assertEqual(alone.status_code, 422)


class EverythingAsked(WithApp):
    async def test_all_that_may_be_asked_comes_with_its_range_and_what_it_begins_with(self):
        found = (await self.http.get("/api/asks")).json()
        fields = [field for ask in found["asks"] for field in ask["fields"]]
        self.assertEqual(len({ask["name"] for ask in found["asks"]}), len(found["asks"]))
        for field in fields:
            with self.subTest(field["label"]):
                self.assertTrue(field["label"])
                low, high, value = field["low"], field["high"], field["value"]
                if isinstance(value, float | int) and low is not None and high is not None:
                    self.assertTrue(low <= value <= high)
                if field["choices"] and value is not None:
                    self.assertIn(str(value), {str(choice["value"]) for choice in field["choices"]})
        self.assertEqual(found["roles"][0]["id"], found["spot"]["first_role"])
