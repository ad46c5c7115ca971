"""Requests that once ended in a fault, found by making them up: each is refused by name now."""

from tests.pictures.making import corners, jpeg
from tests.server.test_api import WithApp

SUN = {"id": "a", "source": {"kind": "ev", "ev100": 13.0}}
FOUND = (
    ("POST", "/api/sheets/{sheet}/exposures", {"weights": [5e-324, 50.0]}),
    ("POST", "/api/sheets/{sheet}/exposures", {"rule": "mean", "weights": [1e-300, 100.0]}),
    ("POST", "/api/inbox/place", {"places": [[int("9" * 400), 1]]}),
    ("PATCH", "/api/outings/{outing}", {"date": "9999-12-31"}),
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

    async def test_a_take_for_a_sheet_that_is_not_there_is_not_found_marked_or_not(self):
        for mark in ("", "&mark=0123456789"):
            path = f"/api/sheets/631/takes?name=a.jpg{mark}"
            answer = await self.http.post(path, content=jpeg(corners()))
            self.assertEqual(answer.status_code, 404, answer.text)
