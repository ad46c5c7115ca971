"""What is promised before the shot against the shot itself, on the bench phone."""

import io
import unittest

import numpy as np
from PIL import Image

from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.plan import searched
from oxlen.core.decisions.solver.frontier import figures_of_steps
from oxlen.core.light.tone import linear_to_srgb
from oxlen.core.simulate.capture import capture
from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.core.simulate.randomness import SeededRandom
from oxlen.devices.standins.bench_take import BenchShot, shoot_on_bench
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.preview.cache import PreviewCache
from oxlen.preview.dry_run import FrameRequest, dry_run
from tests.core.asking import ask_brief, ask_output
from tests.core.simulate.test_simulate import LENS, MODE, flat
from tests.in_library import NOW, InDemo


class Frames(InDemo):
    def shot(self, body, auto):
        """The codes of a shot on the bench and what its file says of itself."""
        shot = BenchShot(self.sheet_ids[body.title], 1, body, auto=auto, seed=11)
        sha256 = shoot_on_bench(self.library, shipped_profile, self.room, shot=shot, now=NOW)[0]
        light = self.room.small_light(sha256, 960)
        codes = 255 * np.asarray(linear_to_srgb(np.clip(0.18 * light.colour, 0, 1)))
        return codes, self.room.report(sha256).settings

    def test_a_dry_run_shows_the_frame_the_shot_then_gives(self):
        dry_room = PreviewCache(self.room)
        seen = 0
        for _, body in self.bodies:
            if body.scene is None or body.scene == "stars-over-slip":
                continue  # a sky of noise and points differs by its random alone
            for auto in (False, True):
                if body.asked()["format"] == "raw" and not auto:
                    continue  # a raw take has no finished frame to hold against it
                wanted = FrameRequest(kind="png", chooser="auto" if auto else "slip")
                frame = dry_run(body, shipped_profile, dry_room, request=wanted)
                predicted = np.asarray(Image.open(io.BytesIO(frame.data))).astype(float)
                taken, settings = self.shot(body, auto)
                with self.subTest(body.title, auto=auto):
                    self.assertIn(f"ISO {settings.iso:g}", frame.figures.label)
                    self.assertEqual(predicted.shape, taken.shape)
                    # Noise, waves and pulses fall otherwise in another take; the rest is there.
                    self.assertLess(np.abs(predicted - taken).mean(), 6)
                    stops = np.log2((np.median(taken) + 5) / (np.median(predicted) + 5))
                    self.assertLess(abs(stops), 0.1)
                    seen += 1
        self.assertGreaterEqual(seen, 9)


class Noise(unittest.TestCase):
    def test_the_snr_predicted_is_the_snr_measured(self):
        phone = shipped_profile("wherry-3").to_phone()
        made = ask_brief(
            phone,
            readings=(PlacedReading("subject", 8.0),),
            output=ask_output(width_px=960, height_px=720),
        )
        search = searched(made)
        even = flat(size=(720, 960))
        for iso, stops in ((50.0, 0.0), (400.0, 0.0), (3200.0, 0.0), (800.0, -3.0)):
            shutter_s = 1.8**2 / 2 ** (8 - stops) * 100 / iso
            predicted = figures_of_steps(search, iso, shutter_s).snr_subject
            settings = CaptureSettings(iso, shutter_s, 5.0, support="tripod")
            raw = capture(even, LENS, MODE, settings=settings, random=SeededRandom(4)).raw
            # Where the lens transmits all light: the middle, one channel.
            level = raw.mosaic[300:420:2, 401:561:2].astype(float) - raw.black_dn
            with self.subTest(iso=iso, stops=stops):
                self.assertAlmostEqual(level.mean() / level.std() / predicted, 1, delta=0.06)
