"""Series: one sheet leads, the others keep what is locked of it."""

from oxlen.store.series import series_of_outing
from tests.server.test_api import WithApp


class Series(WithApp):
    async def made(self, title, ev100=8.5, **body):
        reading = {"id": "a", "name": title, "source": {"kind": "ev", "ev100": ev100}}
        path = f"/api/outings/{self.outing}/sheets"
        stated = {"title": title, "readings": [reading], **body}
        return (await self.http.post(path, json=stated)).json()

    async def started(self, first, **asked):
        path = f"/api/sheets/{first['id']}/series"
        got = await self.http.post(path, json={"title": "Varnish tins", **asked})
        self.assertEqual(got.status_code, 201, got.text)
        return got.json()

    async def sheet(self, sheet_id):
        return (await self.http.get(f"/api/sheets/{sheet_id}")).json()

    def slip(self, sheet):
        return {line["field"]: line["value"] for line in sheet["answer"]["lines"]}

    async def changed(self, sheet, **change):
        edit = {"version": sheet["version"], "label": "x", "body": {**sheet["body"], **change}}
        return (await self.http.put(f"/api/sheets/{sheet['id']}", json=edit)).json()

    async def test_new_sheets_have_the_slip_the_light_and_the_series_as_reason(self):
        first = await self.made("Tin 1", support="tripod")
        series = await self.started(first, new_titles=["Tin 2", "Tin 3"])
        self.assertEqual(
            [sheet["title"] for sheet in series["sheets"]], ["Tin 1", "Tin 2", "Tin 3"]
        )
        self.assertEqual([sheet["leads"] for sheet in series["sheets"]], [True, False, False])
        member = await self.sheet(series["sheets"][2]["id"])
        self.assertEqual(self.slip(member), self.slip(first))
        self.assertEqual(
            {line["reason"] for line in member["answer"]["lines"] if line["field"] != "support"},
            {"Locked by “Varnish tins”"},
        )
        about = member["series"]
        self.assertEqual((about["lead_title"], about["count"], about["changed"]), ("Tin 1", 3, []))
        outing = (await self.http.get(f"/api/outings/{self.outing}")).json()
        named = {sheet["title"]: sheet["series"] for sheet in outing["sheets"]}
        self.assertEqual(named["Tin 3"], "Varnish tins")

    async def test_sheets_that_join_take_what_is_locked_and_keep_the_rest(self):
        first = await self.made("Tin 1", light_colour={"usual": "flash"}, support="tripod")
        other = await self.made("Tin 2", ev100=12.0)
        await self.started(first, sheets=[other["id"]], locked=["white"])
        now = await self.sheet(other["id"])
        self.assertEqual(now["body"]["light_colour"]["usual"], "flash")
        self.assertIsNone(now["body"]["steps_by_hand"])
        self.assertIn("Varnish tins", now["label"])
        exposure, white = self.slip(other), self.slip(now)
        self.assertEqual(white["shutter_s"], exposure["shutter_s"])
        undone = (await self.http.post(f"/api/sheets/{other['id']}/undo")).json()
        self.assertEqual(undone["series"]["changed"], ["White balance"])

    async def test_one_slip_holds_whatever_each_would_need(self):
        first = await self.made("Tin 1", support="tripod")
        others = [await self.made(f"Tin {n}", 8.5 + n) for n in (2, 3)]
        await self.started(first, sheets=[other["id"] for other in others])
        for other in others:
            now = self.slip(await self.sheet(other["id"]))
            self.assertEqual(now["shutter_s"], self.slip(first)["shutter_s"])
            self.assertNotEqual(now["shutter_s"], self.slip(other)["shutter_s"])

    async def test_a_changed_lead_is_carried_over_when_asked_and_not_before(self):
        first = await self.made("Tin 1", support="tripod")
        series = await self.started(first, new_titles=["Tin 2"])
        before = self.slip(await self.sheet(series["sheets"][1]["id"]))
        steps = {"iso": 200, "shutter_s": 0.02}
        lead = await self.changed(await self.sheet(first["id"]), steps_by_hand=steps)
        self.assertEqual(len(lead["series"]["changed"]), 1)
        still = await self.sheet(series["sheets"][1]["id"])
        self.assertEqual((self.slip(still), still["series"]["changed"]), (before, []))
        await self.http.post(f"/api/series/{series['id']}/slip")
        now = await self.sheet(series["sheets"][1]["id"])
        self.assertEqual(now["body"]["steps_by_hand"], steps)
        self.assertEqual((await self.sheet(first["id"]))["series"]["changed"], [])

    async def test_a_member_that_differs_says_so_and_returns_to_the_series(self):
        first = await self.made("Tin 1", support="tripod")
        series = await self.started(first, new_titles=["Tin 2"])
        member = await self.sheet(series["sheets"][1]["id"])
        freed = await self.changed(member, steps_by_hand=None, light_shift_stops=2)
        reasons = {line["field"]: line["reason"] for line in freed["answer"]["lines"]}
        self.assertNotIn("Locked", reasons["shutter_s"])
        self.assertIn("Locked", reasons["white"])
        self.assertEqual(len(freed["series"]["changed"]), 1)
        back = await self.http.post(f"/api/sheets/{member['id']}/series/again")
        self.assertEqual([sheet["changed"] for sheet in back.json()["sheets"]], [[], []])

    async def test_leaving_and_ending_keep_every_setting(self):
        first = await self.made("Tin 1", support="tripod")
        series = await self.started(first, new_titles=["Tin 2", "Tin 3"])
        second, third = series["sheets"][1]["id"], series["sheets"][2]["id"]
        slip = self.slip(await self.sheet(second))
        refused = await self.http.delete(f"/api/sheets/{first['id']}/series")
        self.assertEqual((refused.status_code, refused.json()["field"]), (422, "sheet"))
        left = (await self.http.delete(f"/api/sheets/{second}/series")).json()
        self.assertEqual([sheet["id"] for sheet in left["sheets"]], [first["id"], third])
        self.assertEqual((await self.http.delete(f"/api/series/{series['id']}")).status_code, 204)
        for sheet_id in (second, third):
            now = await self.sheet(sheet_id)
            self.assertEqual((self.slip(now), now["series"]), (slip, None))

    async def test_what_cannot_be_a_series_is_refused_and_nothing_is_kept(self):
        first, bare = await self.made("Tin 1"), await self.made("Bare", readings=[])
        elsewhere = (await self.http.post("/api/outings", json={"title": "Elsewhere"})).json()
        path = f"/api/outings/{elsewhere['id']}/sheets"
        foreign = (await self.http.post(path, json={"title": "Tin 9"})).json()
        rows = (
            (first, {}, "at least one"),
            (bare, {"new_titles": ["b"]}, "no slip"),
            (first, {"sheets": [foreign["id"]], "new_titles": ["never made"]}, "another"),
            (first, {"new_titles": ["b"], "locked": ["horizon"]}, "part"),
        )
        for sheet, asked, words in rows:
            body = {"title": "T", **asked}
            got = await self.http.post(f"/api/sheets/{sheet['id']}/series", json=body)
            with self.subTest(words):
                self.assertEqual(got.status_code, 422)
                self.assertIn(words, got.text)
        outing = (await self.http.get(f"/api/outings/{self.outing}")).json()
        self.assertNotIn("never made", [item["title"] for item in outing["sheets"]])
        with self.library.reader() as connection:
            self.assertEqual(series_of_outing(connection, self.outing), [])

    async def test_a_sheet_in_the_bin_is_left_out_and_comes_back_to_its_series(self):
        first = await self.made("Tin 1")
        series = await self.started(first, new_titles=["Tin 2"])
        second = series["sheets"][1]["id"]
        await self.http.delete(f"/api/sheets/{second}")
        now = (await self.http.get(f"/api/series/{series['id']}")).json()
        self.assertEqual([sheet["title"] for sheet in now["sheets"]], ["Tin 1"])
        await self.http.post(f"/api/sheets/{second}/restore")
        self.assertEqual((await self.sheet(second))["series"]["count"], 2)

    async def test_the_card_of_a_member_names_the_series(self):
        first = await self.made("Tin 1")
        series = await self.started(first, new_titles=["Tin 2"])
        of = f"/api/sheets/{series['sheets'][1]['id']}/card.html"
        self.assertIn("Locked by “Varnish tins”", (await self.http.get(of)).text)
        whole = await self.http.get(f"/api/outings/{self.outing}/card.html")
        self.assertIn("Locked by “Varnish tins”", whole.text)

    async def test_a_damaged_sheet_or_pattern_keeps_no_other_sheet_from_opening(self):
        first = await self.made("Tin 1")
        series = await self.started(first, new_titles=["Tin 2", "Tin 3"])
        lead, second, third = (sheet["id"] for sheet in series["sheets"])
        with self.library.writer() as connection:
            for sheet_id in (lead, third):
                connection.execute(
                    "UPDATE sheet_revision SET body = ? WHERE sheet_id = ?",
                    ('{"version": 99}', sheet_id),
                )
        about = (await self.sheet(second))["series"]
        self.assertEqual((about["lead_title"], about["changed"]), (f"Sheet {lead}", []))
        now = (await self.http.get(f"/api/series/{series['id']}")).json()
        self.assertEqual(
            [sheet["title"] for sheet in now["sheets"]],
            [f"Sheet {lead}", "Tin 2", f"Sheet {third}"],
        )
        locked = await self.http.patch(f"/api/series/{series['id']}", json={"locked": ["white"]})
        self.assertEqual(locked.status_code, 200, locked.text)
        with self.library.writer() as connection:
            connection.execute("UPDATE series SET pattern = ?", ('{"version": 99}',))
        about = await self.sheet(second)
        self.assertEqual(about["series"]["changed"], [])
        self.assertNotIn("Locked by", str(about["answer"]["lines"]))
        whole = await self.http.get(f"/api/outings/{self.outing}/card.html")
        self.assertEqual(whole.status_code, 200)
        self.assertIn("Tin 2", whole.text)
