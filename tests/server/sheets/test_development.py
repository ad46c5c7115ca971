"""Development of takes over HTTP: notes, preview, whole files, recipes for others."""

import io

import numpy as np
import tifffile
from PIL import Image

from tests.pictures.making import exif, jpeg
from tests.server.test_api import WithApp


class Development(WithApp):
    async def asyncSetUp(self):
        await super().asyncSetUp()
        codes = np.full((90, 120, 3), 60, dtype=np.uint8)
        codes[:20] = 150
        file = jpeg(codes, exif(iso=100, shutter=(1, 60)))
        path = f"/api/outings/{self.outing}/pictures?name=plan.jpg"
        sheet = (await self.http.post(path, content=file)).json()["sheet"]
        spot = {"id": "s", "name": "Hull", "x": 0.5, "y": 0.7, "r": 0.05, "place": 0.0}
        edit = {
            "version": sheet["version"],
            "label": "spot",
            "body": {**sheet["body"], "spots": [spot]},
        }
        await self.http.put(f"/api/sheets/{sheet['id']}", json=edit)
        took = f"/api/sheets/{sheet['id']}/takes?name=take.jpg"
        self.take = (await self.http.post(took, content=file)).json()[-1]
        self.path = f"/api/takes/{self.take['id']}"

    async def test_notes_give_the_subject_its_tone_and_the_file_stays_as_it_is(self):
        found = (await self.http.get(f"{self.path}/development")).json()
        # Code 60 is 2.1 stops under mid: 0.18 / ((60/255 + 0.055)/1.055)^2.4.
        self.assertAlmostEqual(found["recipe"]["exposure_stops"], 2.0, delta=0.2)
        self.assertFalse(found["from_raw"])
        made = await self.http.post(f"{self.path}/developed", json=found["recipe"])
        image = np.asarray(Image.open(io.BytesIO(made.content)))
        self.assertAlmostEqual(float(image[60:].mean()), 118, delta=14)
        kept = self.library.picture_path(self.take["picture"]).read_bytes()
        self.assertEqual(Image.open(io.BytesIO(kept)).getpixel((60, 60))[0], 60)

    async def test_whole_files_have_their_pixels_and_depth(self):
        recipe = {"exposure_stops": 1.0, "crop": [0, 0, 0.5, 1]}
        ask = {"whole": True, "ending": "tif"}
        made = await self.http.post(f"{self.path}/developed", params=ask, json=recipe)
        self.assertIn("attachment", made.headers["content-disposition"])
        codes = tifffile.imread(io.BytesIO(made.content))
        self.assertEqual((codes.shape, codes.dtype), ((90, 60, 3), np.uint16))
        bad = await self.http.post(f"{self.path}/developed", json={"crop": [0.5, 0, 0.5, 1]})
        self.assertEqual(bad.status_code, 422)

    async def test_a_recipe_is_kept_with_its_take_for_others(self):
        recipe = {"exposure_stops": 0.7, "shadows_stops": 1.0}
        await self.http.put(f"{self.path}/recipe", json={"recipe": recipe})
        found = (await self.http.get(f"{self.path}/development")).json()
        self.assertEqual(found["kept"]["shadows_stops"], 1.0)
        all_kept = (await self.http.get("/api/recipes")).json()
        self.assertEqual([item["take_id"] for item in all_kept], [self.take["id"]])
        await self.http.put(f"{self.path}/recipe", json={"recipe": None})
        self.assertEqual((await self.http.get("/api/recipes")).json(), [])
