"""The API of wishes: limits with their fields, trades that keep their word, presets, filters."""

from oxlen.formats.sheet.preset import ChoicesFile
from tests.server.test_api import WithApp

READING = {"id": "a", "source": {"kind": "ev", "ev100": 4.0}}


class Wishes(WithApp):
    async def sheet(self, **body):
        made = {"title": "Walkers", "readings": [READING], **body}
        answer = await self.http.post(f"/api/outings/{self.outing}/sheets", json=made)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    async def test_every_limit_can_be_changed_where_it_is_shown(self):
        sheet = await self.sheet(
            motion=[{"subject": "walker"}],
            looks=[{"look": "trails", "subject": "lantern"}],
            flicker={"driver_hz": 480},
            strategy={"iso_cap": 800},
        )
        settings = sheet["answer"]["fields"]
        self.assertLessEqual(
            {"hold", "freeze", "show", "flicker", "noise", "iso_cap"}, set(settings)
        )
        for limit_id, setting in settings.items():
            for field in setting["fields"]:
                with self.subTest(limit_id, field=field["label"]):
                    body = set_at(sheet["body"], field["path"], field["value"])
                    kept = await self.put({**sheet, "body": body})
                    self.assertEqual(kept.status_code, 200, kept.text)
                    sheet["version"] = kept.json()["version"]
        bounds = {x["id"]: (x["min"], x["max"]) for x in sheet["answer"]["plan"]["limits"]}
        same = {x["id"]: (x["min"], x["max"]) for x in kept.json()["answer"]["plan"]["limits"]}
        self.assertEqual(bounds.keys(), same.keys())
        self.assertEqual(bounds["freeze"], same["freeze"])

    async def test_a_trade_taken_leads_to_the_slip_it_promised(self):
        wishes = {"motion": [{"subject": "walker"}], "output": {"snr": "excellent"}}
        sheet = await self.sheet(readings=[READING, bright(7.0)], **wishes)
        trades = sheet["answer"]["plan"]["trades"]
        self.assertGreaterEqual(len(trades), 5)
        for trade in trades:
            way = sheet["answer"]["trades"][trade["id"]]
            taken = await self.put(sheet, **way["patch"])
            self.assertEqual(taken.status_code, 200, taken.text)
            slip = taken.json()["answer"]["plan"]["slip"]
            with self.subTest(trade["id"]):
                keys = ("lens", "iso", "shutter_s")
                self.assertEqual([slip[k] for k in keys], [trade["slip"][k] for k in keys])
            undone = await self.http.post(f"/api/sheets/{sheet['id']}/undo")
            sheet["version"] = undone.json()["version"]

    async def test_another_lens_is_taken_with_its_distance(self):
        day = [{"id": "a", "source": {"kind": "ev", "ev100": 9}}]
        sheet = await self.sheet(
            readings=day, framing={"distance_m": 2}, motion=[{"subject": "walker"}]
        )
        option = next(x for x in sheet["answer"]["plan"]["lenses"] if x["lens_id"] == "long")
        taken = (await self.put(sheet, **sheet["answer"]["lenses"]["long"]["patch"])).json()
        self.assertEqual(taken["body"]["lens"], "long")
        self.assertAlmostEqual(taken["body"]["framing"]["distance_m"], option["distance_m"])
        self.assertEqual(taken["answer"]["plan"]["slip"]["iso"], option["slip"]["iso"])

    async def test_light_expected_by_then_moves_everything(self):
        now, later = [
            (await self.sheet(light_shift_stops=stops))["answer"]["plan"]["wanted_ev100"]
            for stops in (0, -3)
        ]
        self.assertAlmostEqual(now - later, 3)

    async def test_picture_gives_patterns_clipping_and_autos_dot(self):
        sheet = await self.sheet_with_picture()
        answer = sheet["answer"]
        self.assertEqual(
            [p["id"] for p in answer["patterns"]], ["whole", "centre", "spot", "highlight"]
        )
        self.assertAlmostEqual(
            answer["patterns"][0]["ev100"], answer["picture"]["mean_ev100"], delta=0.1
        )
        self.assertIsNotNone(answer["plan"]["auto"]["words"])
        column = [row[-1] for row in answer["map"]["clipped_share"]]
        self.assertGreater(column[-1], 0.9)
        self.assertEqual(answer["map"]["clipped_share"][0][0], 0.0)

    async def test_filters_of_the_kit_are_offered_and_worn(self):
        path = "/api/kit/glass/nd-4000"
        kept = await self.http.put(path, json={"name": "Dark", "factor": 4096})
        self.assertEqual(kept.json()["stops"], 12)
        looks = [{"look": "soft", "subject": "sluice"}]
        day = {"id": "a", "source": {"kind": "ev", "ev100": 12}}
        sheet = await self.sheet(readings=[day], looks=looks, support="tripod")
        patch = sheet["answer"]["trades"]["nd"]["patch"]
        self.assertEqual(patch["glass"], [{"name": "Dark", "factor": 4096}])
        self.assertEqual((await self.http.delete(path)).status_code, 204)
        self.assertEqual((await self.http.delete(path)).status_code, 404)

    async def test_presets_are_kept_and_refused_by_name(self):
        shipped = (await self.http.get("/api/presets")).json()
        self.assertGreaterEqual(len(shipped), 12)
        own = {"id": "mine", "name": "Mine", "choices": {"support": "tripod"}}
        self.assertEqual((await self.http.put("/api/presets/mine", json=own)).status_code, 200)
        found = (await self.http.get("/api/presets")).json()
        self.assertEqual((found[0]["preset"]["name"], found[0]["shipped"]), ("Mine", False))
        bad = {**own, "choices": {"apperture": 2}}
        refused = await self.http.put("/api/presets/mine", json=bad)
        self.assertIn("apperture", refused.json()["detail"])
        taken = {**own, "id": shipped[0]["preset"]["id"]}
        refused = await self.http.put(f"/api/presets/{taken['id']}", json=taken)
        self.assertIn("built in", refused.json()["detail"])
        self.assertEqual((await self.http.delete("/api/presets/mine")).status_code, 204)

    async def test_every_shipped_preset_gives_an_answer(self):
        for view in (await self.http.get("/api/presets")).json():
            choices = view["preset"]["choices"]
            self.assertLessEqual(set(choices), set(ChoicesFile.model_fields))
            sheet = await self.sheet(readings=[READING, bright(7.0)], **choices)
            with self.subTest(view["preset"]["id"]):
                plan = sheet["answer"]["plan"]
                self.assertTrue(plan["slip"] or plan["compromise"])


def bright(ev100):
    """A reading of the brightest detail."""
    return {"id": "b", "role": "keep-bright", "source": {"kind": "ev", "ev100": ev100}}


def set_at(holder, path, value):
    """A copy with one value changed, down a path of keys and indices."""
    if not path:
        return value
    copy = list(holder) if isinstance(holder, list) else dict(holder or {})
    copy[path[0]] = set_at(copy[path[0]], path[1:], value)
    return copy
