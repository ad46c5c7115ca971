"""A page of outings at a time, and a search among them and their sheets."""

from tests.server.test_api import WithApp


class Many(WithApp):
    async def asyncSetUp(self):
        await super().asyncSetUp()
        self.ids = [self.outing]
        for number in range(30):
            fields = {"title": f"Trial {number}", "place": "Ölkaj" if number == 7 else "the creek"}
            self.ids.append((await self.http.post("/api/outings", json=fields)).json()["id"])

    async def page(self, **wanted):
        answer = await self.http.get("/api/outings", params=wanted)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    async def add_sheets(self, outing, titles):
        for title in titles:
            answer = await self.http.post(f"/api/outings/{outing}/sheets", json={"title": title})
            self.assertEqual(answer.status_code, 201)

    async def test_pages_follow_each_other_newest_first_and_none_is_left_out(self):
        seen, before = [], {}
        while found := [outing["id"] for outing in await self.page(most=12, **before)]:
            seen += found
            before = {"before": found[-1]}
        self.assertEqual(seen, self.ids[::-1])

    async def test_a_search_goes_by_title_and_place_whatever_their_case(self):
        self.assertEqual(
            [outing["title"] for outing in await self.page(words="ÖLKAJ")], ["Trial 7"]
        )
        self.assertEqual(len(await self.page(words="trial 1", most=100)), 11)
        self.assertEqual(await self.page(words="100%"), [])

    async def test_found_by_a_sheet_it_shows_that_sheet_and_counts_all(self):
        await self.add_sheets(self.ids[3], ["Transom", "Keel bolts", "Rudder"])
        (found,) = await self.page(words="keel")
        self.assertEqual([sheet["title"] for sheet in found["sheets"]], ["Keel bolts"])
        self.assertEqual(found["sheet_count"], 3)

    async def test_a_list_has_the_first_sheets_and_the_outing_itself_all(self):
        await self.add_sheets(self.ids[-1], [f"Side {number}" for number in range(15)])
        first = (await self.page())[0]
        self.assertEqual((len(first["sheets"]), first["sheet_count"]), (12, 15))
        whole = (await self.http.get(f"/api/outings/{first['id']}")).json()
        self.assertEqual(len(whole["sheets"]), 15)
