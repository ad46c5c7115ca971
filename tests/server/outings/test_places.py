"""Places, the light of their days, their nights, and the sheets that belong to them."""

import errno
import io
from datetime import datetime
from unittest import mock

import numpy as np
from PIL import Image

from oxlen.server.routes.sheet import sheets
from tests.core.sky.test_night import stars
from tests.pictures.making import exif, jpeg
from tests.server.test_api import WithApp
from tests.stacking.frames import codes_of

REACH = {"name": "Kettle Reach", "latitude_deg": 50.9, "longitude_deg": -1.2}
SOUTH = {"name": "Far bank", "latitude_deg": -30.0, "longitude_deg": 20.0, "dark_sky_class": 2}


class Places(WithApp):
    async def place(self, body=REACH):
        made = await self.http.post("/api/places", json=body)
        self.assertEqual(made.status_code, 201, made.text)
        return made.json()

    async def get(self, path, **params):
        found = await self.http.get(path, params=params)
        self.assertEqual(found.status_code, 200, found.text)
        return found.json()

    async def sheet(self, **body):
        whole = {"title": "Hull", "phone": "wherry-3", **body}
        made = await self.http.post(f"/api/outings/{self.outing}/sheets", json=whole)
        self.assertEqual(made.status_code, 201, made.text)
        return made.json()["id"]

    async def hang(self, place_id, day="2027-05-06"):
        hung = await self.http.patch(
            f"/api/outings/{self.outing}", json={"place_id": place_id, "date": day}
        )
        self.assertEqual(hung.status_code, 200, hung.text)
        return hung.json()

    async def test_a_place_finds_its_clock_and_an_outing_takes_it_over(self):
        made = await self.place()
        self.assertEqual(made["time_zone"], "Europe/London")
        self.assertAlmostEqual(made["magnitude"], 21.05)
        outing = await self.hang(made["id"])
        self.assertEqual((outing["place"], outing["latitude_deg"]), ("Kettle Reach", 50.9))
        self.assertEqual((await self.get(f"/api/places/{made['id']}"))["outings"], 1)
        gone = await self.http.delete(f"/api/places/{made['id']}")
        self.assertEqual(gone.status_code, 204)
        kept = await self.get(f"/api/outings/{self.outing}")
        self.assertIsNone(kept["place_id"])
        self.assertEqual(kept["time_zone"], "Europe/London")
        self.assertEqual((await self.http.get(f"/api/places/{made['id']}/day")).status_code, 404)

    async def test_darkness_is_that_of_today_s_outing_then_of_the_newest_with_a_place(self):
        found = await self.get("/api/darkness")
        self.assertEqual(found, {"place": None, "spans": []})
        await self.hang((await self.place())["id"], day="2026-10-03")  # the clock's own day
        north = {"name": "Far north", "latitude_deg": 69.6, "longitude_deg": 18.9}
        other = (await self.http.post("/api/outings", json={"title": "Newer"})).json()["id"]
        made = (await self.http.post("/api/places", json=north)).json()["id"]
        await self.http.patch(f"/api/outings/{other}", json={"place_id": made})
        found = await self.get("/api/darkness")
        self.assertEqual(found["place"], "Kettle Reach")
        # A week from 08:00 UTC on 3 October at 50.9° north: seven nights of 11 to 12 hours.
        self.assertEqual(len(found["spans"]), 7)
        for dusk, dawn in found["spans"]:
            self.assertTrue(11 < (dawn - dusk) / 3600 < 12, (dusk, dawn))
        await self.http.patch(f"/api/outings/{self.outing}", json={"date": "2026-11-01"})
        self.assertEqual((await self.get("/api/darkness"))["place"], "Far north")

    async def test_a_position_is_pasted_or_read_from_a_picture_on_request(self):
        asked = {"text": "50° 54' N, 1° 15' W"}
        pasted = (await self.http.post("/api/places/pasted", json=asked)).json()
        self.assertAlmostEqual(pasted["longitude_deg"], -1.25)
        self.assertEqual(
            (await self.http.post("/api/places/pasted", json={"text": "x"})).status_code, 422
        )
        tags = Image.Exif()
        tags.get_ifd(0x8825).update({1: "S", 2: (30.0, 15.0, 0.0), 3: "E", 4: (20.0, 0.0, 36.0)})
        drawn = io.BytesIO()
        Image.new("RGB", (80, 60), "grey").save(drawn, "JPEG", exif=tags)
        for content, north in ((drawn.getvalue(), -30.25), (jpeg(np.full((60, 80, 3), 90)), None)):
            took = await self.http.post(
                f"/api/outings/{self.outing}/pictures?name=p.jpg", content=content
            )
            sha256 = took.json()["sheet"]["body"]["picture"]
            found = await self.http.get(f"/api/pictures/{sha256}/position")
            if north is None:
                self.assertEqual(found.status_code, 422)
            else:
                self.assertAlmostEqual(found.json()["latitude_deg"], north)
                self.assertAlmostEqual(found.json()["longitude_deg"], 20.01)

    async def test_the_day_is_told_by_the_clock_of_the_place_and_cloud_darkens_it(self):
        place = await self.place()
        path = f"/api/places/{place['id']}/day"
        clear = (await self.get(path, date="2027-06-21"))["hours"]
        self.assertEqual(clear["quarters"][0]["at"], "2027-06-21T00:00:00+01:00")
        self.assertIn("does not get fully dark", clear["told"][0])
        grey = (await self.get(path, date="2027-06-21", cloud="overcast"))["hours"]
        at_noon = [night["quarters"][48]["ev100"]["open"] for night in (clear, grey)]
        self.assertTrue(1.5 < at_noon[0] - at_noon[1] < 4, at_noon)
        self.assertEqual((clear["plus_minus_stops"], grey["plus_minus_stops"]), (0.5, 1.0))

    async def test_sheets_find_their_hours_and_an_order(self):
        place = await self.place()
        await self.hang(place["id"])
        ev = {"id": "a", "name": "Hull", "source": {"kind": "ev", "ev100": 14.5}}
        day = await self.sheet(title="Hull", readings=[ev], support="handheld")
        lamp = await self.sheet(
            title="Fittings",
            readings=[{**ev, "source": {"kind": "ev", "ev100": 6.0}}],
            flicker={"mains_hz": 50},
        )
        dark = await self.sheet(title="Stars", readings=[ev], sky={"kind": "stars"})
        found = await self.get(f"/api/outings/{self.outing}/when", takes_min=20)
        reported = {sheet["sheet_id"]: sheet for sheet in found["sheets"]}
        self.assertEqual(set(reported), {day, lamp, dark})
        self.assertIn("any time", reported[lamp]["words"])
        hours = reported[day]["spans"]
        self.assertTrue(hours[0]["words"].startswith("0"), hours)
        self.assertGreater(len(reported[day]["slips"]), 40)
        begun = [sheet["begins_unix_s"] for sheet in found["sheets"] if sheet["begins_unix_s"]]
        self.assertEqual(begun, sorted(begun))
        for sheet in found["sheets"]:
            if sheet["begins_unix_s"]:
                self.assertTrue(
                    any(
                        span["from_unix_s"] <= sheet["begins_unix_s"] <= span["to_unix_s"] - 1200
                        for span in sheet["spans"]
                    )
                )
        calendar = await self.http.get(
            f"/api/outings/{self.outing}/light.ics", params={"takes_min": 20}
        )
        self.assertEqual(calendar.text.count("BEGIN:VEVENT"), len(begun))
        self.assertIn("SUMMARY:Hull", calendar.text)
        rate = await self.get(f"/api/outings/{self.outing}/rate", at="20:30")
        self.assertTrue(-0.4 < rate["stops_min"] < -0.05, rate)

    async def test_the_best_nights_are_named_with_why_and_go_to_a_calendar(self):
        place = await self.place(SOUTH)
        path = f"/api/places/{place['id']}/nights"
        found = await self.get(path, date="2027-05-01", span="month")
        self.assertGreater(found["count"], 15)
        self.assertRegex(
            found["best"][0]["why"], r"^\d h \d+ min from \d\d:\d\d, up to 8\d° in the .*Moon down"
        )
        evening = await self.get(path, date="2027-05-01", span="month", from_hour=20, to_hour=1)
        for night in evening["best"]:
            self.assertIn(datetime.fromisoformat(night["from_at"]).hour, (20, 21, 22, 23, 0))
        calendar = await self.http.get(f"{path}.ics", params={"date": "2027-05-01"})
        self.assertEqual(calendar.text.count("BEGIN:VEVENT"), 12)
        self.assertIn("Dark over Far bank", calendar.text)

    async def test_a_night_is_timed_alike_in_the_list_and_on_its_own_page(self):
        """The list searches a month in longer steps; what it shows is the night's own window."""
        path = f"/api/places/{(await self.place())['id']}"
        listed = (await self.get(f"{path}/nights", date="2027-05-01", above_deg=4))["best"]
        self.assertGreater(len(listed), 5)
        for window in listed:
            night = await self.get(f"{path}/night", date=window["night"], above_deg=4)
            self.assertIn(window, night["core"])
            self.assertEqual(night["band"]["at"], night["core"][0]["best_at"])

    async def test_a_span_without_a_window_names_the_next_or_that_there_is_none(self):
        path = f"/api/places/{(await self.place())['id']}/nights"
        winter = await self.get(path, date="2026-12-01", above_deg=4)
        self.assertEqual((winter["count"], winter["best"]), (0, []))
        # The core of the galaxy comes up before the dawn again from late February on.
        self.assertRegex(
            winter["words"],
            r"^No such window in the month; the next is on \w{3} \d+ (Feb|Mar) 2027$",
        )
        # At 50.9° north it culminates at 90 − 50.9 − 29 = 10°: never over 20.
        for span, words in (
            ("month", "No such window in the month, nor in the year"),
            ("year", "No such window in the year"),
        ):
            never = await self.get(path, date="2026-12-01", span=span, above_deg=20)
            self.assertEqual(never["words"], words)
        # Over the celestial pole something is up in each dark hour, whatever the season.
        pole = {"ra_deg": 0, "dec_deg": 89, "above_deg": 45}
        found = await self.get(path, date="2026-12-09", span="night", **pole)
        self.assertEqual(found["words"], "1 dark window in this night")
        self.assertEqual(len(found["best"]), 1)

    async def test_a_night_becomes_a_sheet_that_keeps_its_plan(self):
        place = await self.place(SOUTH)
        path = f"/api/places/{place['id']}/night"
        asked = {"date": "2027-05-06", "phone": "wherry-3"}
        planned = await self.get(path, **asked)
        stack = next(night for night in planned["ways"] if night["id"] == "stack")
        self.assertTrue(stack["reaches"])
        self.assertGreater(planned["band"]["held_shares"]["Main"], 0.2)
        made = await self.http.post(
            path, params=asked, json={"outing_id": self.outing, "way": "stack"}
        )
        self.assertEqual(made.status_code, 201, made.text)
        slip = made.json()["answer"]["plan"]["slip"]
        self.assertEqual(made.json()["body"]["frames"]["count"], stack["frames"])
        self.assertLessEqual(slip["shutter_s"], planned["rules"][1]["longest_s"])
        self.assertEqual((slip["iso"], slip["shutter_s"]), (stack["iso"], stack["shutter_s"]))
        (sky,) = made.json()["answer"]["readings"]
        self.assertEqual(sky["kind"], "predicted")
        # Nobody metered it: class 2 holds ± 0.075 magnitudes, airglow moves it by 0.3 (1.33 stops
        # a magnitude).
        self.assertAlmostEqual(sky["plus_minus_stops"], 1.329 * 0.309, delta=0.01)
        self.assertIn("A test shot shows", sky["why"])
        for way in ("one", "trails"):
            made = await self.http.post(
                path, params=asked, json={"outing_id": self.outing, "way": way}
            )
            self.assertIsNotNone(made.json()["answer"]["plan"]["slip"], way)
        # At 2 s a frame half a turn would take over 14,000: a set ends at 2000, and says so.
        short = {**asked, "phone": "dabber", "arc_deg": 90, "moon": "any"}
        trails = (await self.get(path, **short))["ways"][-1]
        self.assertEqual((trails["id"], trails["frames"]), ("trails", 2000))
        self.assertIn("2000 frames are too few for 90°", trails["told"])
        made = await self.http.post(
            path, params=short, json={"outing_id": self.outing, "way": "trails"}
        )
        self.assertEqual(made.status_code, 201, made.text)
        own = await self.http.post(
            path, params=asked, json={"outing_id": self.outing, "way": "phone"}
        )
        self.assertEqual(own.status_code, 422)

    async def test_land_with_a_frame_of_its_own_gets_a_sheet_before_the_stars(self):
        place = await self.place(SOUTH)
        await self.hang(place["id"])
        path = f"/api/places/{place['id']}/night"
        asked = {"date": "2027-05-06", "phone": "wherry-3", "land_stops": 0.5}
        planned = {night["id"]: night for night in (await self.get(path, **asked))["land"]}
        self.assertEqual(list(planned), ["silhouette", "lit", "dusk", "dark"])
        for land in ("dusk", "dark"):
            body = {"outing_id": self.outing, "way": "stack", "land": land}
            made = (await self.http.post(path, params=asked, json=body)).json()
            self.assertEqual(made["body"]["sky"]["land"], land)
            alone = await self.get(f"/api/sheets/{made['id'] - 1}")
            self.assertEqual(alone["body"]["land"]["shot"], land)
            slip, way = alone["answer"]["plan"]["slip"], planned[land]
            self.assertEqual((slip["iso"], slip["shutter_s"]), (way["iso"], way["shutter_s"]))
            self.assertEqual(slip["focus_slider"], made["answer"]["plan"]["slip"]["focus_slider"])
            self.assertEqual((alone["body"].get("frames") or {}).get("count", 1), way["frames"])
            when = (await self.get(f"/api/outings/{self.outing}/when"))["sheets"]
            (hours,) = (night["spans"] for night in when if night["sheet_id"] == alone["id"])
            at = datetime.fromisoformat(planned["dusk"]["at"]).timestamp()
            inside = [hour["from_unix_s"] <= at <= hour["to_unix_s"] for hour in hours]
            self.assertEqual(any(inside), land == "dusk", hours)
        lamp = {"name": "Pocket lamp", "cct_k": 3000, "dims_to": 0.1, "lumens": 30}
        kept = await self.http.put("/api/kit/lamps/pocket", json=lamp)
        self.assertEqual(kept.status_code, 200, kept.text)
        lit = {night["id"]: night for night in (await self.get(path, **asked))["land"]}["lit"]
        self.assertIn("Pocket lamp at its lowest from", " ".join(lit["told"]))

    async def test_of_two_sheets_both_are_kept_or_none(self):
        place = await self.place(SOUTH)
        await self.hang(place["id"])
        before = (await self.get(f"/api/outings/{self.outing}"))["sheets"]
        asked = {"date": "2027-05-06", "phone": "wherry-3"}
        body = {"outing_id": self.outing, "way": "stack", "land": "dark"}
        full = [1, OSError(errno.ENOSPC, "No space left on device")]
        with mock.patch.object(sheets, "add_sheet", side_effect=full):
            made = await self.http.post(f"/api/places/{place['id']}/night", params=asked, json=body)
        self.assertEqual(made.status_code, 507)
        self.assertEqual((await self.get(f"/api/outings/{self.outing}"))["sheets"], before)

    async def test_towns_and_the_moon_brighten_the_sky_they_stand_in(self):
        quiet = {**SOUTH, "latitude_deg": 25.0}
        town = {**quiet, "glow": [{"bearing_deg": 180, "stops": 3}]}
        dark, lit = [await self.place(night) for night in (quiet, town)]
        asked = {"date": "2027-05-06", "phone": "wherry-3"}
        plain = await self.get(f"/api/places/{dark['id']}/night", **asked)
        glowing = await self.get(f"/api/places/{lit['id']}/night", **asked)
        self.assertLess(glowing["sky_magnitude"], plain["sky_magnitude"] - 0.3)
        self.assertIn("Light pollution brightens", " ".join(glowing["told"]))
        full = {"date": "2027-05-20", "phone": "wherry-3", "moon": "any"}
        moonlit = await self.get(f"/api/places/{dark['id']}/night", **full)
        self.assertIn("The Moon brightens the sky", " ".join(moonlit["told"]))
        self.assertTrue(1 < plain["sky_magnitude"] - moonlit["sky_magnitude"] < 5)

    async def test_a_night_that_stays_bright_is_planned_as_bright_as_it_is(self):
        rows = (
            # (latitude, day, is planned at all, what is noted)
            (70.0, "2027-06-21", False, "the Sun is up"),
            (65.0, "2027-06-21", False, "Almost no stars"),
            (52.5, "2027-06-21", True, "lifts the sky by"),
            (44.6, "2027-05-20", True, "the Moon lifts the sky by"),
        )
        for latitude, day, is_planned, words in rows:
            place = await self.place({**REACH, "latitude_deg": latitude})
            asked = {"date": day, "phone": "wherry-3"}
            found = await self.get(f"/api/places/{place['id']}/night", **asked)
            with self.subTest(latitude=latitude):
                self.assertEqual(bool(found["ways"]), is_planned)
                self.assertIn(words, " ".join(found["told"]))
                if is_planned:
                    self.assertLess(found["sky_magnitude"], place["magnitude"] - 0.3)

    async def test_a_test_frame_tells_its_sky_and_what_to_change(self):
        number = await self.sheet(title="Stars")
        content = jpeg(codes_of(stars(6.0, level=0.02)), exif(iso=1600, shutter=(10, 1)))
        took = await self.http.post(f"/api/sheets/{number}/takes?name=t.jpg", content=content)
        seen = await self.get(
            f"/api/takes/{took.json()[-1]['id']}/sky", planned_trail_px=2.0, assumed_magnitude=23.0
        )
        self.assertAlmostEqual(seen["trail_px"], 6.0, delta=0.6)
        self.assertIn("the phone moved", " ".join(seen["told"]))
        self.assertIn("brighter than planned", " ".join(seen["told"]))
        # Ten seconds make 2.1 px of the phone's file, and a quarter of that in a small copy.
        sheet = await self.get(f"/api/sheets/{number}")
        body = {**sheet["body"], "sky": {"kind": "stars"}}
        edit = {"version": sheet["version"], "label": "stars", "body": body}
        kept = await self.http.put(f"/api/sheets/{number}", json=edit)
        self.assertEqual(kept.status_code, 200, kept.text)
        copy = await self.get(f"/api/takes/{took.json()[-1]['id']}/sky")
        self.assertRegex(" ".join(copy["told"]), r"instead of 0\.\d+: the phone moved")

    async def test_a_place_learns_from_takes_by_day(self):
        place = await self.place()
        await self.hang(place["id"])
        number = await self.sheet()
        too_few = await self.http.post(f"/api/places/{place['id']}/learn")
        self.assertEqual(too_few.status_code, 422)
        for hour in (11, 12, 13):
            content = jpeg(
                np.full((60, 80, 3), 118 + hour),
                exif(iso=50, shutter=(1, 400), t36867=f"2027:05:06 {hour}:00:00"),
            )
            await self.http.post(f"/api/sheets/{number}/takes?name=d{hour}.jpg", content=content)
        learned = (await self.http.post(f"/api/places/{place['id']}/learn")).json()
        lesson = learned["body"]["learned"]
        self.assertEqual(lesson["readings"], 3)
        before = (await self.get(f"/api/places/{place['id']}/day", date="2027-05-06"))["hours"]
        self.assertEqual(before["offset_stops"], lesson["offset_stops"])
