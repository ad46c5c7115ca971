"""Takes over HTTP, sheets that cannot be read, outings with a place in the sky, phones' origins."""

from oxlen.formats.phone.shipped import shipped_profile
from tests.server.sheets.test_asks import bright
from tests.server.test_api import WithApp

SUN = {"id": "a", "source": {"kind": "ev", "ev100": 13.0}}
DARK = {"id": "c", "role": "keep-dark", "source": {"kind": "ev", "ev100": 9.0}}


class Takes(WithApp):
    async def sheet(self, **body):
        made = {"title": "Hull", "scene": "white-hull-sun", "readings": [SUN], **body}
        answer = await self.http.post(f"/api/outings/{self.outing}/sheets", json=made)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    async def shoot(self, sheet, **how):
        answer = await self.http.post(f"/api/sheets/{sheet['id']}/bench-shot", json=how)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    async def test_a_shot_is_a_take_of_its_sheet_which_stays_as_it_is(self):
        sheet = await self.sheet(format="both")
        (take,) = await self.shoot(sheet)
        slip = sheet["answer"]["plan"]["slip"]
        self.assertEqual((take["shot_on"], take["state"]), ("slip", "new"))
        self.assertEqual(take["settings"]["iso"], slip["iso"])
        self.assertAlmostEqual(take["settings"]["shutter_s"], slip["shutter_s"])
        # Both kinds of file came, as one take.
        self.assertNotIn(take["raw_picture"], (None, take["picture"]))
        self.assertEqual((await self.http.get(f"/api/sheets/{sheet['id']}")).json(), sheet)
        listed = (await self.http.get(f"/api/outings/{self.outing}")).json()["sheets"]
        self.assertEqual([listed_sheet["id"] for listed_sheet in listed], [sheet["id"]])
        auto = (await self.shoot(sheet, auto=True))[1]
        self.assertEqual((auto["shot_on"], auto["raw_picture"]), ("auto", None))

    async def test_a_bracket_is_shot_as_a_sequence(self):
        frames = {"combine": "bracket"}
        sheet = await self.sheet(readings=[SUN, bright(17.0), DARK], frames=frames)
        exposures = sheet["answer"]["plan"]["exposures"]
        takes = await self.shoot(sheet)
        self.assertGreaterEqual(len(takes), 2)
        self.assertEqual(
            [(take["frame"], take["frames"]) for take in takes],
            [(at + 1, len(exposures)) for at in range(len(exposures))],
        )
        shutters = [take["settings"]["shutter_s"] for take in takes]
        self.assertEqual(shutters, sorted(shutters))
        self.assertEqual(len({take["picture"] for take in takes}), len(takes))

    async def test_kept_noted_binned_taken_back_and_metered_by(self):
        sheet = await self.sheet()
        (take,) = await self.shoot(sheet)
        path = f"/api/takes/{take['id']}"
        await self.http.patch(path, json={"state": "kept"})
        noted = (await self.http.patch(path, json={"note": "tide low"})).json()
        self.assertEqual((noted["state"], noted["note"]), ("kept", "tide low"))
        refused = await self.http.patch(path, json={"state": "lovely"})
        self.assertEqual(refused.status_code, 422)
        self.assertIsNotNone((await self.http.delete(path)).json()["deleted_at"])
        takes = f"/api/sheets/{sheet['id']}/takes"
        self.assertEqual((await self.http.get(takes)).json(), [])
        await self.http.post(f"{path}/restore")
        self.assertEqual(len((await self.http.get(takes)).json()), 1)
        metered = (await self.http.post(f"{path}/meter")).json()
        self.assertEqual(metered["body"]["picture"], take["picture"])
        undone = (await self.http.post(f"/api/sheets/{sheet['id']}/undo")).json()
        self.assertIsNone(undone["body"]["picture"])
        self.assertEqual((await self.http.patch("/api/takes/999", json={})).status_code, 404)


class Unreadable(WithApp):
    async def test_it_is_listed_told_saved_as_text_and_deleted_never_lost(self):
        made = await self.http.post(f"/api/outings/{self.outing}/sheets", json={"title": "Hull"})
        sheet_id, text = made.json()["id"], '{"title": "Hull", "tide": "low"}'
        with self.library.writer() as connection:
            connection.execute("UPDATE sheet_revision SET body = ?", (text,))
        (listed,) = (await self.http.get(f"/api/outings/{self.outing}")).json()["sheets"]
        self.assertIn("cannot be read", listed["trouble"])
        path = f"/api/sheets/{sheet_id}"
        for call in (
            self.http.get(path),
            self.http.get(f"{path}/dry-run"),
            self.http.post(f"{path}/bench-shot", json={}),
        ):
            refused = await call
            self.assertEqual(refused.status_code, 422)
            self.assertEqual(refused.json()["code"], "unreadable-sheet")
        self.assertEqual((await self.http.get(f"{path}/body")).text, text)
        self.assertEqual((await self.http.delete(path)).status_code, 200)
        (binned,) = (await self.http.get("/api/bin")).json()["sheets"]
        self.assertEqual(binned["id"], sheet_id)
        self.assertEqual((await self.http.post(f"{path}/restore")).status_code, 200)
        self.assertEqual((await self.http.get(f"{path}/body")).text, text)


class Outings(WithApp):
    async def test_position_date_and_zone_are_optional_and_checked(self):
        path = f"/api/outings/{self.outing}"
        stated = {
            "latitude_deg": 52.1,
            "longitude_deg": 1.4,
            "date": "2026-10-03",
            "time_zone": "Etc/GMT-1",
        }
        self.assertEqual((await self.http.get(path)).json()["date"], None)
        changed = (await self.http.patch(path, json=stated)).json()
        self.assertEqual({name: changed[name] for name in stated}, stated)
        cleared = (await self.http.patch(path, json={"date": None, "time_zone": None})).json()
        self.assertEqual((cleared["date"], cleared["latitude_deg"]), (None, 52.1))
        for wrong in (
            {"latitude_deg": 91},
            {"longitude_deg": -181},
            {"date": "2026-02-30"},
            {"time_zone": "Kettle Reach"},
            {"title": None},
        ):
            with self.subTest(wrong):
                refused = await self.http.patch(path, json=wrong)
                self.assertEqual((refused.status_code, refused.json()["field"]), (422, *wrong))


class Origins(WithApp):
    async def test_a_figure_changed_by_hand_says_so_and_when(self):
        profile = shipped_profile("wherry-3").model_dump(mode="json") | {"id": "mine"}
        first = (await self.http.put("/api/kit/phones/mine", json=profile)).json()
        figure = "lenses.main.12mp.full_well_e"
        self.assertEqual(first["origins"][figure]["origin"], "assumed")
        changed = first["profile"]
        changed["lenses"][1]["modes"][0]["full_well_e"] += 1
        kept = (await self.http.put("/api/kit/phones/mine", json=changed)).json()
        typed = {path for path, origin in kept["origins"].items() if origin["origin"] == "typed"}
        self.assertEqual(len(typed), 1)
        self.assertEqual(kept["origins"][typed.pop()]["date"], "2026-10-03")
        measured = {"origin": "measured", "plus_minus": 40, "date": "2026-09-01"}
        kept["profile"]["origins"][figure] = measured
        again = (await self.http.put("/api/kit/phones/mine", json=kept["profile"])).json()
        self.assertEqual(again["origins"][figure]["plus_minus"], 40)
