"""Multiple exposure: what each needs, and their sum seen beforehand."""

import io

import numpy as np
from PIL import Image

from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.plan import plan
from oxlen.core.decisions.shared_frame import shared_exposures
from oxlen.core.errors import BadInput
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief
from tests.pictures.making import exif, jpeg
from tests.server.test_api import WithApp
from tests.stacking.frames import linear_of

LIGHT = [{"id": "a", "name": "Yard", "source": {"kind": "ev", "ev100": 9.0}}]
WHERRY = shipped_profile("wherry-3").to_phone()


class SharedFrames(WithApp):
    async def asyncSetUp(self):
        await super().asyncSetUp()
        body = {"title": "Two tides", "phone": "wherry-3", "readings": LIGHT, "support": "tripod"}
        made = await self.http.post(f"/api/outings/{self.outing}/sheets", json=body)
        self.path = f"/api/sheets/{made.json()['id']}"
        self.takes = []

    async def take(self, code):
        content = jpeg(np.full((90, 120, 3), code), exif(iso=50, shutter=(1, 20 + code)))
        took = await self.http.post(f"{self.path}/takes?name=c{code}.jpg", content=content)
        self.takes.append(took.json()[-1]["id"])

    async def sum_of(self, **asked):
        body = {"takes": self.takes, **asked}
        seen = await self.http.post(f"{self.path}/exposures/picture", json=body)
        self.assertEqual(seen.status_code, 200, seen.text)
        return float(np.median(np.asarray(Image.open(io.BytesIO(seen.content)))))

    async def test_exposures_that_are_added_share_the_light_and_others_take_it_whole(self):
        decided = plan(
            ask_brief(WHERRY, readings=[PlacedReading("subject", 9.0)], support="tripod")
        )
        whole = decided.slip.shutter_s
        for weights in ((1, 1), (1, 1, 2), (1,) * 9):
            found = shared_exposures(decided, "add", weights)
            light = sum(exposure.shutter_s * exposure.iso / decided.slip.iso for exposure in found)
            self.assertAlmostEqual(light / whole, 1.0, delta=0.13)
            self.assertTrue(all(abs(exposure.residual_stops) < 0.18 for exposure in found))
        self.assertAlmostEqual(shared_exposures(decided, "add", (1, 3))[0].stops, -2.0)
        kept = shared_exposures(decided, "lighten", (1, 1, 1))
        self.assertEqual({exposure.shutter_s for exposure in kept}, {whole})
        averaged = shared_exposures(decided, "mean", (1, 3))
        self.assertEqual([exposure.stops for exposure in averaged], [-1.0, np.log2(1.5)])
        with self.assertRaisesRegex(BadInput, "2 to 9"):
            shared_exposures(decided, "add", (1,) * 10)

    async def test_the_sum_is_seen_by_the_rule_from_takes_and_the_picture(self):
        asked = {"rule": "add", "weights": [1, 1]}
        view = (await self.http.post(f"{self.path}/exposures", json=asked)).json()
        self.assertEqual([exposure["stops"] for exposure in view["exposures"]], ["−1.0 stops"] * 2)
        none = await self.http.post(f"{self.path}/exposures/picture", json=asked)
        self.assertEqual(none.status_code, 422)
        await self.take(100)
        await self.take(160)
        exposure, other = linear_of(np.array([100, 160], dtype=np.uint8))
        for rule, linear in (
            ("add", exposure + other),
            ("mean", (exposure + other) / 2),
            ("lighten", other),
            ("darken", exposure),
        ):
            code = await self.sum_of(rule=rule, weights=[1, 1])
            self.assertAlmostEqual(
                float(linear_of(np.array(code / 255 * 65535).astype(np.uint16))), linear, delta=0.01
            )

    async def test_the_bench_shoots_each_by_its_own_steps(self):
        stated = {"title": "Slip", "phone": "wherry-3", "scene": "yard-overcast"}
        body = {**stated, "support": "tripod", "readings": LIGHT}
        made = await self.http.post(f"/api/outings/{self.outing}/sheets", json=body)
        path = f"/api/sheets/{made.json()['id']}"
        asked = {"rule": "add", "weights": [1, 3]}
        view = (await self.http.post(f"{path}/exposures", json=asked)).json()["exposures"]
        shot = await self.http.post(f"{path}/exposures/bench", json=asked)
        self.assertEqual(shot.status_code, 201, shot.text)
        takes = (await self.http.get(f"{path}/takes")).json()
        self.assertEqual([take["id"] for take in takes], shot.json())
        for exposure, asked_for in zip(takes, view, strict=True):
            self.assertIn(asked_for["label"], exposure["label"])
        self.assertNotEqual(view[0]["label"], view[1]["label"])
