"""The stand-in phone: pixel values agree with the exposure its files state."""

import tempfile
import unittest
from pathlib import Path

import numpy as np

from oxlen.core.light.exposure import Settings, luminance_cd_m2
from oxlen.core.sensor.noise import mid_signal_e, snr
from oxlen.devices.standins.bench_phone import BenchPhone
from oxlen.formats.shipped_phones import shipped_profile
from oxlen.pictures.reading import read_picture

PROFILE = shipped_profile("wherry-3")
LENS = PROFILE.to_phone().lens("main")
TAKEN_AT = "2026:10:03 08:12:00"


def flat(ev100, height=240, width=320, tint=(1.0, 1.0, 1.0)):
    """A scene of one luminance, in cd/m²."""
    level = float(luminance_cd_m2(ev100)) * np.asarray(tint, dtype=np.float32)
    return np.broadcast_to(level, (height, width, 3)).astype(np.float32)


class BenchPhoneFiles(unittest.TestCase):
    def setUp(self):
        self.phone = BenchPhone(PROFILE, LENS, LENS.modes[0], seed=5)
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "take"

    def reading(self, data):
        self.path.write_bytes(data)
        return read_picture(self.path)

    def frame_ev(self, data):
        reading = self.reading(data)
        return reading.ev100_of(reading.frame.mean_stops)

    def test_light_reads_back_from_both_kinds_of_file(self):
        for ev, settings in (
            (12, Settings(50, 1 / 500, 1.8)),
            (9, Settings(400, 1 / 500, 1.8)),
            (4, Settings(1600, 1 / 25, 1.8)),
        ):
            with self.subTest(ev):
                jpeg = self.phone.jpeg(flat(ev), settings, TAKEN_AT)
                self.assertAlmostEqual(self.frame_ev(jpeg), ev, delta=0.05)
                raw = self.phone.dng(flat(ev), settings, TAKEN_AT)
                self.assertAlmostEqual(self.frame_ev(raw), ev, delta=0.02)

    def test_a_coloured_light_keeps_its_luminance_in_raw(self):
        tint = np.array([1.6, 0.9, 0.5])
        tint /= tint @ [0.2126, 0.7152, 0.0722]
        raw = self.phone.dng(flat(10, tint=tint), Settings(50, 1 / 200, 1.8), TAKEN_AT)
        self.assertAlmostEqual(self.frame_ev(raw), 10, delta=0.03)

    def test_the_file_states_the_exposure(self):
        settings = Settings(64, 1 / 320, 1.8)
        exposure = self.reading(self.phone.jpeg(flat(10), settings, TAKEN_AT)).exposure
        self.assertAlmostEqual(exposure.settings.ev100, settings.ev100, places=4)
        self.assertEqual((exposure.model, exposure.focal35_mm), ("Wherry 3", 24))
        self.assertAlmostEqual(exposure.brightness_ev100, 10, places=2)
        self.assertEqual(exposure.taken_at, "2026-10-03T08:12:00")

    def test_noise_is_that_of_the_sensor(self):
        settings = Settings(1600, 1 / 100, 1.8)
        exposed = self.phone._exposed(flat(settings.ev100, 600, 800), settings)
        mode = LENS.modes[0]
        signal = float(mid_signal_e(mode.sensor, 1600))
        expected = float(snr(signal, float(mode.read_noise_at(1600)), 0.0))
        self.assertAlmostEqual(float(exposed.mean() / exposed.std()) / expected, 1, delta=0.01)

    def test_auto_centres_the_frame_and_raises_iso_last(self):
        for ev in (14, 8, 3, -1):
            settings = self.phone.auto_settings(flat(ev))
            with self.subTest(ev):
                self.assertAlmostEqual(settings.ev100, ev, delta=0.25)
                self.assertIn(settings.iso, LENS.modes[0].auto.iso)
        self.assertEqual(self.phone.auto_settings(flat(8)).iso, 50)
        self.assertGreater(self.phone.auto_settings(flat(-1)).iso, 800)

    def test_the_same_seed_takes_the_same_picture(self):
        settings = Settings(100, 1 / 100, 1.8)
        takes = [self.phone.jpeg(flat(9), settings, TAKEN_AT) for _ in range(2)]
        self.assertEqual(takes[0], takes[1])
