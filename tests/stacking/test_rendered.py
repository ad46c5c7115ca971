"""Stacks of a rendered scene's RAW frames: what each shot brings falls as predicted."""

from dataclasses import replace

import numpy as np

from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.core.simulate.scene import reduced
from oxlen.devices.standins.bench_phone import BenchPhone
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.scene_file import shipped_scene
from oxlen.pictures.whole import whole_frame
from tests.stacking.test_stack import InFolder

FRAMES = 16


class Rendered(InFolder):
    def shots(self, first):
        """Files of frames of the tins from a tripod, each with a noise of its own."""
        profile = shipped_profile("wherry-3")
        lens = profile.to_phone().lens("long")
        # Its lamps steady: bands that are elsewhere in every frame are no noise of the sensor.
        scene = replace(reduced(shipped_scene("varnish-tins"), 2), lamps=())
        settings = CaptureSettings(400.0, 1 / 60, 2.0, support="tripod")
        taken = []
        for seed in range(first, first + FRAMES):
            phone = BenchPhone(profile, lens, lens.mode(None), seed=seed)
            taken.append(phone.take(scene, settings, "raw", taken_at="2026:10:03 10:00:00").dng)
        return self.files(taken, "dng")

    def stack(self, first):
        files = self.shots(first)
        self.out = self.folder / "out.dng"
        done = self.stacked(files)
        self.assertEqual(done.frames, FRAMES)
        return signal(self.out), signal(files[0][0]), signal(files[1][0])

    def test_what_each_shot_brings_falls_by_the_root_of_the_frames(self):
        frame, single, next_one = self.stack(0)
        other, *_ = self.stack(100)
        lit = (frame > 0.02) & (frame < 0.5)
        # Of two alike the difference holds what each shot brought, twice; the pattern is in both.
        alone = np.std((single - next_one)[lit]) / np.sqrt(2)
        together = np.std((frame - other)[lit]) / np.sqrt(2)
        self.assertAlmostEqual(alone / together / np.sqrt(FRAMES), 1.0, delta=0.05)


def signal(path):
    """A RAW file's mosaic, black at 0 and white at 1."""
    frame = whole_frame(path, path.name)
    black = float(frame.black.mean())
    return (frame.values.astype(float) - black) / (frame.top - black)
