"""A drawing with a lamp over HTTP: planned, seen, rehearsed, kept, and corrected after a take."""

import io

import numpy as np
from PIL import Image

from oxlen.core.motion.strokes import strokes_of
from oxlen.core.simulate.lamp_line import lamp_line
from tests.pictures.making import exif, jpeg
from tests.server.test_api import WithApp
from tests.stacking.frames import codes_of

DARK = [{"id": "a", "name": "Wall", "role": "keep-dark", "source": {"kind": "ev", "ev100": -7.0}}]


class LampDrawings(WithApp):
    async def asyncSetUp(self):
        await super().asyncSetUp()
        body = {"title": "Kettle", "phone": "wherry-3", "readings": DARK, "support": "tripod"}
        path = f"/api/outings/{self.outing}/sheets"
        made = await self.http.post(path, json={**body, "lens": "main"})
        self.path = f"/api/sheets/{made.json()['id']}"

    async def plan(self, *, keep=False, rehearsed_s=None, **drawing):
        asked = {"drawing": {"what": "heart", **drawing}, "keep": keep, "rehearsed_s": rehearsed_s}
        return await self.http.post(f"{self.path}/drawing", json=asked)

    async def test_a_rehearsal_sets_the_hand_and_the_sheet_goes_by_it(self):
        first = (await self.plan()).json()
        self.assertEqual(first["drawing"]["hand_m_s"], 0.6)
        path_m = strokes_of("heart").length * 0.5
        kept = (await self.plan(keep=True, rehearsed_s=6.0)).json()
        self.assertAlmostEqual(kept["drawing"]["hand_m_s"], path_m / 6, delta=0.001)
        self.assertAlmostEqual(kept["takes_s"], 8.0, delta=0.02)
        sheet = (await self.http.get(self.path)).json()
        self.assertEqual(sheet["body"]["drawing"]["what"], "heart")
        self.assertGreaterEqual(sheet["answer"]["plan"]["slip"]["shutter_s"], 7.99)
        reason = next(
            limit for limit in sheet["answer"]["plan"]["limits"] if limit["kind"] == "drawing"
        )
        self.assertIn("“heart”", reason["reason"])

    async def test_the_frame_to_come_is_drawn_and_what_cannot_be_is_named(self):
        asked = {"drawing": {"what": "circle", "dim_stops": 5.5, "colours": ["green", "red"]}}
        seen = await self.http.post(f"{self.path}/drawing/picture", json=asked)
        picture = np.asarray(Image.open(io.BytesIO(seen.content))).astype(int)
        lit = picture[..., 1] > 150
        self.assertTrue(0.0004 < lit.mean() < 0.05)
        self.assertGreater((picture[lit][:, 1] - picture[lit][:, 0]).mean(), 60)
        red = picture[..., 0] - picture[..., 1] > 60
        # Half the circle in each: drawn from its top, the second half is the left one.
        self.assertGreater(np.nonzero(lit)[1].mean() - np.nonzero(red)[1].mean(), 50)
        self.assertLess(np.median(picture), 12)
        self.assertEqual((await self.plan(what="Ж")).status_code, 422)
        self.assertEqual((await self.plan(what=" ")).json()["field"], "what")

    async def test_a_take_burnt_white_is_dimmed_next_time(self):
        await self.plan(keep=True)
        frame = np.full((600, 800, 3), 0.001, dtype=np.float32)
        drawn = lamp_line(
            frame, strokes_of("heart"), height_share=0.2, level_stops=6.0, wide_px=4.0
        )
        content = jpeg(codes_of(drawn.mean(axis=2)), exif(iso=50, shutter=(5, 1)))
        took = await self.http.post(f"{self.path}/takes?name=drawn.jpg", content=content)
        found = await self.http.get(f"/api/takes/{took.json()[-1]['id']}/drawing")
        self.assertEqual(found.status_code, 200, found.text)
        reported = found.json()
        self.assertIn("line clips", reported["words"][0])
        self.assertGreater(reported["patch"]["drawing"]["dim_stops"], 0.4)
