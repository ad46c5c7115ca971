"""The API: sheets from picture to slip, refusals as problems, local only, never a 5xx."""

import asyncio
import json
import tempfile
import unittest
from datetime import UTC, datetime
from pathlib import Path

import httpx

from oxlen.formats.phone.shipped import shipped_profile
from oxlen.server.openapi import openapi_text
from oxlen.store.library import open_library
from oxlen.store.sheets import sheets_of
from tests.one_app import app_on
from tests.pictures.making import corners, dng, exif, jpeg
from tests.pictures.test_reading import code_ev

ROOT = Path(__file__).parents[2]
BASE = "http://127.0.0.1:8710"
DIALLED = ["lens", "iso", "shutter_s", "white", "focus", "format"]
AT_ONCE = 16
FIXED = datetime(2026, 10, 3, 8, 0, tzinfo=UTC)


class WithApp(unittest.IsolatedAsyncioTestCase):
    async def asyncSetUp(self):
        # The test case's debug loop speaks up at a tenth of a second; metering may take longer.
        asyncio.get_running_loop().slow_callback_duration = 60
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.library = open_library(Path(folder.name))
        self.app = app_on(self.library, clock=lambda: FIXED)
        transport = httpx.ASGITransport(app=self.app)
        self.http = httpx.AsyncClient(transport=transport, base_url=BASE)
        self.addAsyncCleanup(self.http.aclose)
        answer = await self.http.post("/api/outings", json={"title": "Haul-out"})
        self.outing = answer.json()["id"]

    async def sheet_with_picture(self, data=None, name="slip.jpg"):
        answer = await self.http.post(
            f"/api/outings/{self.outing}/pictures",
            params={"name": name},
            content=jpeg(corners()) if data is None else data,
        )
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()["sheet"]

    async def put(self, sheet, **changed):
        body = {**sheet["body"], **changed}
        return await self.http.put(
            f"/api/sheets/{sheet['id']}",
            json={"version": sheet["version"], "label": "edit", "body": body},
        )


class FromPictureToSlip(WithApp):
    async def test_a_spot_decides_the_slip(self):
        sheet = await self.sheet_with_picture()
        self.assertEqual(sheet["body"]["title"], "slip")
        self.assertEqual(sheet["answer"]["readings"][0]["kind"], "frame")
        spot = {"id": "hull", "x": 0.25, "y": 0.75, "r": 0.1, "place": -1.0}
        answer = (await self.put(sheet, spots=[spot])).json()["answer"]
        self.assertAlmostEqual(answer["readings"][0]["ev100"], code_ev(140), delta=0.03)
        self.assertAlmostEqual(answer["plan"]["wanted_ev100"], code_ev(140) + 1, delta=0.03)
        self.assertEqual([line["field"] for line in answer["lines"]], DIALLED)
        self.assertEqual(answer["lines"][1]["value"], "50")

    async def test_a_spot_for_its_tone_only_changes_no_setting(self):
        sheet = await self.sheet_with_picture()
        hull = {"id": "hull", "x": 0.25, "y": 0.75, "r": 0.1, "place": -1.0}
        dark = {"id": "spot-1", "x": 0.75, "y": 0.75, "r": 0.1, "role": "tone"}
        for spots in ([], [hull]):
            plain = (await self.put(sheet, spots=spots)).json()
            sheet = (await self.put(plain, spots=[*spots, dark])).json()
            with self.subTest(len(spots)):
                before, after = plain["answer"], sheet["answer"]
                self.assertEqual(after["plan"], before["plan"])
                self.assertEqual(after["lines"], before["lines"])
                # Its light is read, and it is on the tone rail.
                shown = {reading["id"]: reading for reading in after["readings"]}
                self.assertIsNotNone(shown["spot-1"]["ev100"])
                pins = {pin["id"]: pin for pin in after["tones"]["pins"]}
                self.assertIsNone(pins["spot-1"]["wanted_stops"])
                self.assertEqual(len(pins), len(before["tones"]["pins"]) + 1)

    async def test_takes_never_change_the_plan_and_metering_by_one_keeps_the_wish(self):
        paper = {"id": "r-1", "place": 1.7, "source": {"kind": "level", "level": "sun"}}
        body = {"title": "White ground", "readings": [paper]}
        sheet = (await self.http.post(f"/api/outings/{self.outing}/sheets", json=body)).json()
        path = f"/api/sheets/{sheet['id']}"
        added = await self.http.post(
            f"{path}/takes", params={"name": "a.jpg"}, content=jpeg(corners())
        )
        kept = (await self.http.get(path)).json()
        self.assertEqual((kept["body"], kept["version"]), (sheet["body"], sheet["version"]))
        self.assertEqual(kept["answer"]["plan"], sheet["answer"]["plan"])
        take = added.json()[0]
        metered = (await self.http.post(f"/api/takes/{take['id']}/meter")).json()
        frame, guess = metered["answer"]["readings"]
        self.assertEqual((frame["kind"], frame["place"]), ("frame", 1.7))
        self.assertTrue(guess["superseded"])
        self.assertAlmostEqual(
            metered["answer"]["plan"]["wanted_ev100"], frame["ev100"] - 1.7, delta=0.06
        )
        undone = (await self.http.post(f"{path}/undo", json={"version": metered["version"]})).json()
        self.assertEqual(undone["body"], sheet["body"])

    async def test_missing_exposure_is_asked_for_and_given_by_hand(self):
        sheet = await self.sheet_with_picture(jpeg(corners(), exif(iso=None)))
        self.assertIsNone(sheet["answer"]["plan"])
        self.assertIn("ISO", sheet["answer"]["why_no_plan"])
        by_hand = {"iso": 100, "shutter_s": 0.01, "f_number": 1.8}
        self.assertIsNotNone((await self.put(sheet, by_hand=by_hand)).json()["answer"]["plan"])

    async def test_readings_without_a_picture(self):
        body = {"title": "Planned at the desk"}
        sheet = (await self.http.post(f"/api/outings/{self.outing}/sheets", json=body)).json()
        self.assertIsNone(sheet["answer"]["plan"])
        rows = [
            ({"kind": "auto", "iso": 100, "shutter_s": 0.01}, 8.34),
            ({"kind": "lux", "lux": 2560}, 10.0),
            ({"kind": "ev", "ev100": 12.5}, 12.5),
            ({"kind": "level", "level": "sun"}, 15.0),
        ]
        for source, want in rows:
            reading = {"id": "r-1", "source": source}
            sheet = (await self.put(sheet, readings=[reading])).json()
            with self.subTest(source["kind"]):
                got = sheet["answer"]["readings"][0]
                self.assertAlmostEqual(got["ev100"], want, places=2)
                self.assertGreater(got["plus_minus_stops"], 0)

    async def test_undo_redo_and_clash(self):
        sheet = await self.sheet_with_picture()
        edited = (await self.put(sheet, support="tripod")).json()
        undone = (await self.http.post(f"/api/sheets/{sheet['id']}/undo")).json()
        self.assertEqual(undone["body"]["support"], "handheld")
        redone = (await self.http.post(f"/api/sheets/{sheet['id']}/redo")).json()
        self.assertEqual(redone["body"], edited["body"])
        clash = await self.put(sheet, support="braced")
        self.assertEqual((clash.status_code, clash.json()["code"]), (409, "edit-clash"))

    async def test_map_carries_every_pair(self):
        answer = (await self.sheet_with_picture())["answer"]
        shape = (len(answer["map"]["isos"]), len(answer["map"]["shutters"]))
        for name in ("residual_stops", "broken"):
            rows = answer["map"][name]
            self.assertEqual((len(rows), len(rows[0])), shape)
        slip = answer["plan"]["slip"]
        row = [step["value"] for step in answer["map"]["isos"]].index(slip["iso"])
        column = [s["value_s"] for s in answer["map"]["shutters"]].index(slip["shutter_s"])
        self.assertIn([row, column], answer["map"]["diagonal"])
        self.assertEqual(answer["map"]["broken"][row][column], 0)
        self.assertAlmostEqual(
            answer["map"]["residual_stops"][row][column], slip["residual_stops"], delta=0.006
        )

    async def test_bin_and_restore(self):
        sheet = await self.sheet_with_picture()
        await self.http.delete(f"/api/sheets/{sheet['id']}")
        found = (await self.http.get("/api/bin")).json()
        self.assertEqual([entry["id"] for entry in found["sheets"]], [sheet["id"]])
        await self.http.delete(f"/api/outings/{self.outing}")
        self.assertEqual((await self.http.get("/api/outings")).json(), [])
        back = await self.http.post(f"/api/outings/{self.outing}/restore")
        self.assertEqual(back.json()["title"], "Haul-out")

    async def test_kit(self):
        profile = shipped_profile("dabber").model_dump()
        refused = await self.http.put("/api/kit/phones/dabber", json=profile)
        self.assertIn("Copy it", refused.json()["detail"])
        profile |= {"id": "mine", "meter_offset_stops": 0.5}
        self.assertEqual(
            (await self.http.put("/api/kit/phones/mine", json=profile)).status_code, 200
        )
        before = await self.sheet_with_picture()
        profile |= {"make": "Fennick", "model": "Wherry 3"}
        await self.http.put("/api/kit/phones/mine", json=profile)
        after = (await self.put(before, phone="mine")).json()
        moved = after["answer"]["readings"][0]["ev100"] - before["answer"]["readings"][0]["ev100"]
        self.assertAlmostEqual(moved, 0.5, places=6)

    async def test_concurrent_readers_and_writers(self):
        sheet = await self.sheet_with_picture()
        path = f"/api/sheets/{sheet['id']}"
        calls = [self.http.get(path) for _ in range(30)]
        calls += [self.http.post("/api/outings", json={"title": f"o{n}"}) for n in range(10)]
        answers = await asyncio.gather(*calls)
        refused = [answer.text for answer in answers if answer.status_code not in (200, 201)]
        self.assertEqual(refused, [])


class Refusals(WithApp):
    def assert_problem(self, answer, status, words):
        self.assertEqual(answer.status_code, status, answer.text)
        self.assertEqual(answer.headers["content-type"], "application/problem+json")
        self.assertRegex(answer.json()["detail"], words)

    async def test_a_phone_that_leaves_in_the_middle_leaves_nothing_behind(self):
        app = self.app
        parts = [
            {"type": "http.request", "body": b"\xff\xd8\xff half", "more_body": True},
            {"type": "http.disconnect"},
        ]
        scope = {
            "type": "http",
            "method": "POST",
            "path": f"/api/outings/{self.outing}/pictures",
            "query_string": b"name=half.jpg",
            "headers": [(b"host", b"127.0.0.1:8710")],
            "client": ("127.0.0.1", 5000),
            "server": ("127.0.0.1", 8710),
            "scheme": "http",
            "http_version": "1.1",
        }

        async def receive():
            return parts.pop(0) if len(parts) > 1 else parts[0]

        async def send(_):
            return None

        with self.assertNoLogs(level="WARNING"):
            await app(scope, receive, send)
        self.assertEqual(list((self.library.folder / "incoming").iterdir()), [])
        with self.library.reader() as connection:
            self.assertEqual(sheets_of(connection, self.outing), [])

    async def test_bad_pictures_leave_nothing(self):
        path = f"/api/outings/{self.outing}/pictures"
        for data, words in (
            (b"", "empty"),
            (b"words", "not a picture"),
            (b"\xff\xd8\xff", "damaged"),
        ):
            answer = await self.http.post(path, params={"name": "x.jpg"}, content=data)
            self.assert_problem(answer, 422, f"x.jpg.*{words}")
        view = (await self.http.get(f"/api/outings/{self.outing}")).json()
        self.assertEqual(view["sheets"], [])
        files = [p for p in self.library.folder.rglob("*") if p.parent.name in ("incoming",)]
        self.assertEqual(files, [])

    async def test_cut_raw_is_taken_in_without_a_frame(self):
        data = dng()
        sheet = await self.sheet_with_picture(data[: len(data) // 2], "cut.dng")
        report = sheet["answer"]["picture"]["report"]
        self.assertIsNone(report["frame"])
        self.assertIn("cut.dng", report["notes"][0])
        preview = await self.http.get(f"/api/pictures/{sheet['body']['picture']}/preview")
        self.assert_problem(preview, 404, "cannot be shown")

    async def test_fields_are_named(self):
        sheet = await self.sheet_with_picture()
        rows = [
            ({"spots": [{"id": "a", "x": 2, "y": 0}]}, "spots.0.x"),
            ({"phone": "nobody"}, "no phone named nobody"),
            ({"lens": "porthole"}, "no lens named porthole"),
            ({"colour": "blue"}, "colour: unknown field"),
            ({"picture": "0" * 64}, "picture is not here"),
            ({"readings": [{"id": "r", "source": {"kind": "level", "level": "x"}}]}, "level x"),
        ]
        for changed, words in rows:
            with self.subTest(words):
                answer = await self.put(sheet, **changed)
                self.assertIn(answer.status_code, (404, 422))
                self.assertRegex(answer.json()["detail"], words)

    async def test_only_this_machine_and_its_own_pages(self):
        rows = [
            ({"host": "evil.example"}, 403),
            ({"host": "127.0.0.1.evil.example:8710"}, 403),
            ({"origin": "http://evil.example"}, 403),
            ({"origin": BASE, "host": "127.0.0.1:8710"}, 200),
            ({"host": "localhost:8710"}, 200),
            ({"host": "[::1]:8710"}, 200),
        ]
        for headers, status in rows:
            with self.subTest(headers):
                answer = await self.http.get("/api/outings", headers=headers)
                self.assertEqual(answer.status_code, status)
        foreign = await self.http.post(
            "/api/outings", json={"title": "x"}, headers={"sec-fetch-site": "cross-site"}
        )
        self.assertEqual(foreign.status_code, 403)

    async def test_policy_and_length(self):
        answer = await self.http.get("/api/outings")
        self.assertIn("script-src 'self'", answer.headers["content-security-policy"])
        self.assertEqual(answer.headers["x-content-type-options"], "nosniff")
        long = await self.http.post("/api/plan", content=b"[" * 2_000_001)
        self.assert_problem(long, 413, "2 MB")

    async def test_no_input_makes_a_5xx(self):
        sheet = await self.sheet_with_picture()
        odd = [
            "",
            "null",
            "[]",
            "{",
            '{"a":NaN}',
            '{"title":"\\ud800"}',
            '"x"',
            "1e999",
            "[" * 3000,
            '{"title":"' + "a" * 500 + '"}',
            '{"version":1e400}',
            '{"readings":[{}]}',
        ]
        ids = ["0", "-1", "x", "9" * 30, "1", str(2**53), "%00", "..%2f"]
        calls = [
            self.http.request(method, path.replace("ID", name), content=text)
            for text in odd
            for method, path in (
                ("POST", "/api/outings"),
                ("PUT", f"/api/sheets/{sheet['id']}"),
                ("POST", "/api/plan"),
                ("POST", "/api/compute/ev100"),
                ("PUT", "/api/kit/phones/mine"),
                ("POST", f"/api/outings/{self.outing}/sheets"),
            )
            for name in ("1",)
        ]
        calls += [
            self.http.request(method, path.replace("ID", number))
            for number in ids
            for method, path in (
                ("GET", "/api/sheets/ID"),
                ("POST", "/api/sheets/ID/undo"),
                ("DELETE", "/api/outings/ID"),
                ("GET", "/api/pictures/ID/preview"),
                ("GET", "/api/compute/ID"),
                ("POST", "/api/sheets/ID/picture?name=a"),
                ("GET", "/api/schemas/ID"),
                ("GET", "/ID"),
            )
        ]
        # Some at a time: it is about what is sent, not about how much waits on a busy machine.
        for first in range(0, len(calls), AT_ONCE):
            for answer in await asyncio.gather(*calls[first : first + AT_ONCE]):
                asked = f"{answer.request.method} {answer.url}: {answer.text[:300]}"
                self.assertLess(answer.status_code, 500, asked)


class Formulas(WithApp):
    async def test_plan_and_compute(self):
        brief = {"phone": "wherry-3", "readings": [{"role": "subject", "ev100": 12}]}
        plan = (await self.http.post("/api/plan", json=brief)).json()
        self.assertEqual(plan["slip"]["iso"], 50)
        worked = await self.http.post("/api/compute/ev100", json={"N": 1, "t": 1, "iso": 100})
        self.assertEqual(worked.json(), {"ev100": 0})
        listed = (await self.http.get("/api/compute")).json()
        self.assertIn("log2(N²/t)", next(f["formula"] for f in listed if f["id"] == "ev100"))

    async def test_tables_and_schemas(self):
        self.assertEqual((await self.http.get("/api/tones")).json()[0]["stops"], 2.0)
        self.assertEqual(len((await self.http.get("/api/light-levels")).json()), 19)
        schema = (await self.http.get("/api/schemas/brief")).json()
        self.assertFalse(schema["additionalProperties"])

    async def test_the_front_ends_description_is_current(self):
        kept = (ROOT / "web" / "src" / "api" / "openapi.json").read_text("utf-8")
        self.assertEqual(json.loads(kept), json.loads(openapi_text()))
