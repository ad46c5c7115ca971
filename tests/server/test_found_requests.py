"""Requests that once ended in a fault, found by making them up: each is refused by name now."""

from tests.pictures.making import corners, jpeg
from tests.server.test_api import WithApp

SUN = {"id": "a", "source": {"kind": "ev", "ev100": 13.0}}
FOUND = (
    ("POST", "/api/sheets/{sheet}/exposures", {"weights": [5e-324, 50.0]}),
    ("POST", "/api/sheets/{sheet}/exposures", {"rule": "mean", "weights": [1e-300, 100.0]}),
    ("POST", "/api/inbox/place", {"places": [[int("9" * 400), 1]]}),
    ("PATCH", "/api/outings/{outing}", {"date": "9999-12-31"}),
    ("PATCH", "/api/outings/{outing}", {"title": "\x00Hull"}),
    ("PUT", "/api/kit/glass/8r", {"name": "\x00\x9b", "factor": 8.0}),
    ("POST", "/api/sheets/{sheet}/bundles", {"name": "\x00"}),
)


class Found(WithApp):
    async def test_each_is_refused_in_words(self):
        path = f"/api/outings/{self.outing}/sheets"
        made = await self.http.post(path, json={"title": "Sun", "readings": [SUN]})
        for method, path, body in FOUND:
            path = path.format(sheet=made.json()["id"], outing=self.outing)
            with self.subTest(path, body=body):
                answer = await self.http.request(method, path, json=body)
                self.assertEqual(answer.status_code, 422, answer.text)
                self.assertTrue(answer.json()["field"])

    async def test_land_that_hardly_reflects_under_the_darkest_sky_becomes_a_sheet(self):
        place = {"name": "Kettle Reach", "latitude_deg": 50.9, "longitude_deg": -1.2}
        made = await self.http.post("/api/places", json={**place, "magnitude": 23.0})
        path = f"/api/places/{made.json()['id']}/night"
        asked = {"land_reflects": 0.1, "land_stops": -4, "date": "2027-01-07", "phone": "wherry-3"}
        night = (await self.http.get(path, params=asked)).json()
        body = {"outing_id": self.outing, "way": night["ways"][0]["id"], "land": "dark"}
        answer = await self.http.post(path, params=asked, json=body)
        self.assertEqual(answer.status_code, 201, answer.text)
        dark = next(land for land in night["land"] if land["id"] == "dark")
        self.assertTrue(dark["reaches"])
        self.assertLess(dark["ev100"], -14)

    async def test_a_take_for_a_sheet_that_is_not_there_is_not_found_marked_or_not(self):
        for mark in ("", "&mark=0123456789"):
            path = f"/api/sheets/631/takes?name=a.jpg{mark}"
            answer = await self.http.post(path, content=jpeg(corners()))
            self.assertEqual(answer.status_code, 404, answer.text)
