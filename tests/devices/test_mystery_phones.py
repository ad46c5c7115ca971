"""Mystery phones: what their files tell, and what guided measurements find of what is hidden."""

import base64
import math
import tempfile
import unittest
from pathlib import Path

import numpy as np

from oxlen.core.decisions.plan import plan
from oxlen.core.labels import time_label
from oxlen.devices.standins import mystery_pictures as pictures
from oxlen.devices.standins.mystery_bench import (
    BENCH,
    bench_given,
    bench_samples,
    practice_profile,
    truth_words,
)
from oxlen.devices.standins.mystery_phone import FILTER_ID, mystery_phone
from oxlen.formats.phone.answers import PhoneAnswers
from oxlen.formats.plan.brief import BriefFile
from oxlen.phones.answers import answered
from oxlen.phones.file_facts import facts_of
from oxlen.phones.from_files import phone_from
from oxlen.phones.measuring.catalogue import MEASUREMENTS, measurement
from oxlen.phones.measuring.measured_figures import value_at, with_measured
from oxlen.phones.measuring.measurement import subject_of
from oxlen.phones.measuring.samples import MIDDLE
from oxlen.views.worth_measuring import TYPICAL

DAY = "2026-11-26"
SMALL = (512, 384)


class OnDisk(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def written(self, files):
        """Files on disk, as (path, name)."""
        found = []
        for file in files:
            path = self.folder / file.name
            path.write_bytes(file.content)
            found.append((path, file.name))
        return found

    def profile_of(self, phone):
        """The profile that a phone's everyday files tell."""
        read, refused = facts_of(self.written(pictures.everyday(phone)))
        self.assertEqual(refused, [])
        return phone_from(read, date=DAY).profile

    def measured(self, phone, kind, files, **given):
        """The result of a measurement of files, by figure, and the profile with it."""
        profile = phone.profile
        subject = subject_of(profile, profile.lenses[0].id, "full")
        plan_made = measurement(kind)
        samples = [plan_made.sample(path, name, MIDDLE) for path, name in self.written(files)]
        found = plan_made.measured(samples, given, subject)
        kept = with_measured(subject, found.figures, date=DAY)
        return {figure.name: figure for figure in found.figures}, kept


class FromFiles(OnDisk):
    def test_optics_are_exact_and_pitch_lies_within_its_doubt(self):
        for seed in range(30):
            phone = mystery_phone(seed, size=SMALL)
            made = self.profile_of(phone)
            self.assertEqual(len(made.lenses), len(phone.profile.lenses), seed)
            for truth in phone.profile.lenses:
                lens = next(plan_made for plan_made in made.lenses if plan_made.name == truth.name)
                with self.subTest(seed, lens=lens.id):
                    self.assertAlmostEqual(lens.focal_mm, truth.focal_mm, places=2)
                    self.assertEqual(lens.f_number, truth.f_number)
                    mode, true = lens.modes[0], truth.modes[0]
                    self.assertEqual((mode.width_px, mode.height_px), SMALL)
                    path = f"lenses.{lens.id}.{mode.id}.pixel_pitch_um"
                    doubt = made.origins[path].plus_minus
                    off = abs(mode.pixel_pitch_um - true.pixel_pitch_um)
                    self.assertLessEqual(off, doubt + 1e-9)
                    if phone.hidden.tells_pitch:
                        self.assertLessEqual(off / true.pixel_pitch_um, 0.01)

    def test_a_declared_noise_model_counts_and_assumed_ones_cover_the_truth(self):
        covered = []
        for seed in range(30):
            phone = mystery_phone(seed, size=SMALL)
            made, true = self.profile_of(phone), phone.mode
            path = f"lenses.main.{made.lenses[0].modes[0].id}.full_well_e"
            stated, mode = made.origins[path], made.lenses[0].modes[0]
            well = mode.full_well_e * mode.base_iso / true.sensor.base_iso
            if phone.hidden.declares_noise:
                self.assertEqual(stated.origin, "file")
                self.assertLess(abs(well / true.sensor.full_well_e - 1), 0.03)
            else:
                self.assertEqual(stated.origin, "assumed")
                off = abs(mode.full_well_e / true.sensor.full_well_e - 1)
                covered.append(off <= stated.plus_minus / mode.full_well_e)
        self.assertGreaterEqual(np.mean(covered), 0.85)

    def test_slips_by_the_assumed_phone_lie_near_those_by_the_true_one(self):
        apart = []
        for seed in range(12):
            phone = mystery_phone(seed, size=SMALL)
            ladder = phone.profile.ladders["by-hand"]
            stated = PhoneAnswers(
                iso_low=ladder.iso[0],
                iso_high=ladder.iso[-1],
                shutter_fastest_s=ladder.shutter_s[0],
                shutter_slowest_s=ladder.shutter_s[-1],
            )
            own = answered(self.profile_of(phone), stated, date=DAY)
            for brief in TYPICAL:
                plan_made, other = (self.slip(profile, brief) for profile in (own, phone.profile))
                if plan_made and other:
                    apart.append(
                        abs(
                            math.log2(
                                plan_made.iso * plan_made.shutter_s / other.iso / other.shutter_s
                            )
                        )
                    )
        self.assertGreater(len(apart), 40)
        self.assertLess(np.median(apart), 1 / 3)

    def slip(self, profile, brief):
        file = BriefFile.model_validate({**brief, "phone": profile.id})
        return plan(file.to_brief(lambda _: profile)).solution.slip


class Measured(OnDisk):
    """Through files: the pictures a person takes, as the bench phone writes them."""

    def test_noise_headroom_readout_gap_and_meter(self):
        for seed in (2, 5):
            phone = mystery_phone(seed, size=SMALL)
            true, base = phone.mode, phone.mode.sensor.base_iso
            with self.subTest(seed, figure="noise"):
                flats = pictures.flats(phone, [base, 4 * base])
                found, kept = self.measured(phone, "noise", flats)
                well = found["full_well_e"].value
                self.assertLess(abs(well / true.sensor.full_well_e - 1), 0.03)
                for iso, noise in found["read_noise_e"].value:
                    self.assertLess(abs(noise / true.read_noise_at(float(iso)) - 1), 0.10)
                path = "lenses.main.full.full_well_e"
                self.assertEqual(kept.origins[path].origin, "measured")
                self.assertEqual(value_at(kept, path), well)
            with self.subTest(seed, figure="headroom"):
                steps = [k / 3 for k in range(-3, 13)]
                found, _ = self.measured(phone, "headroom", pictures.wall_bracket(phone, steps))
                processed = found["headroom_stops.processed"].value
                self.assertLess(abs(processed - true.headroom_processed_stops), 0.1)
                raw = found["headroom_stops.raw"].value
                self.assertLess(abs(raw - true.sensor.headroom_raw_stops), 0.1)
            with self.subTest(seed, figure="readout"):
                found, _ = self.measured(
                    phone, "readout", pictures.lamp_bands(phone, 100.0), pulse_hz=100.0
                )
                self.assertLess(abs(found["readout_s"].value / true.readout_s - 1), 0.05)
            with self.subTest(seed, figure="gap"):
                row = pictures.shot_in_a_row(phone, 0.1, 12)
                found, kept = self.measured(phone, "pace", row)
                gap = found["files.frame_gap_s"].value
                self.assertLess(abs(gap / phone.hidden.frame_gap_s - 1), 0.05)
                # What was measured is what a series is planned with.
                brief = BriefFile.model_validate({**TYPICAL[4], "phone": "x"})
                made = brief.to_brief(lambda _, kept=kept: kept)
                self.assertEqual(made.asked["frames"].gap_s, gap)
            with self.subTest(seed, figure="meter"):
                card = pictures.grey_card(phone, 11.0)
                found, kept = self.measured(phone, "meter", card, known_ev100=11.0)
                offset = found["meter_offset_stops"]
                self.assertLess(abs(offset.value - phone.profile.meter_offset_stops), 0.1)
                self.assertEqual(kept.meter_plus_minus_stops, offset.plus_minus)

    def test_a_patch_is_kept_small_and_whole(self):
        phone = mystery_phone(2, size=SMALL)
        (path, name), *_ = self.written(pictures.flats(phone, [100]))
        kept = measurement("noise").sample(path, name, MIDDLE)
        self.assertEqual(len(base64.b64decode(kept["patch"])), 2 * 176 * 176)


class SlipsDoubt(unittest.TestCase):
    def test_the_figure_behind_the_slip_makes_its_doubt_and_is_named(self):
        read, _ = facts_of([])
        self.assertEqual(read, [])
        phone = mystery_phone(4, size=SMALL)
        data = phone.profile.model_dump()
        data["origins"] = {
            "lenses.main.stabiliser_stops": {"origin": "assumed", "plus_minus": 1.0, "date": DAY}
        }
        profile = type(phone.profile).model_validate(data)
        brief = {
            "phone": "x",
            "support": "handheld",
            "readings": [{"role": "subject", "ev100": 4.0, "plus_minus_stops": 0.3}],
        }
        made = plan(BriefFile.model_validate(brief).to_brief(lambda _: profile))
        shutter = made.dialled["shutter_s"]
        self.assertAlmostEqual(shutter.plus_minus, math.hypot(1.0, 0.3))
        self.assertEqual(shutter.why_plus_minus, "mostly how steady your hands are, assumed")
        self.assertIn("Assumed for this phone", made.dialled["lens"].notes[0])

    def planned(self, origins, **brief):
        """The slip of a mystery phone whose figures have these ±."""
        profile = mystery_phone(4, size=SMALL).profile
        stated = {
            path: {"origin": "file", "plus_minus": doubt, "date": DAY}
            for path, doubt in origins.items()
        }
        profile = type(profile).model_validate({**profile.model_dump(), "origins": stated})
        asked = {"phone": "x", "readings": [{"role": "subject", "ev100": 10.0}], **brief}
        return plan(BriefFile.model_validate(asked).to_brief(lambda _: profile)).dialled

    def test_the_lens_and_its_pixels_count_where_something_moves(self):
        lens = mystery_phone(4, size=SMALL).profile.lenses[0]
        pitch = lens.modes[0].pixel_pitch_um
        doubts = {"lenses.main.full.pixel_pitch_um": 0.1 * pitch, "lenses.main.focal_mm": 0.0}
        walker = {"motion": [{"subject": "runner", "distance_m": 4}], "support": "tripod"}
        shutter = self.planned(doubts, **walker)["shutter_s"]
        self.assertEqual(shutter.because, "freeze")
        self.assertAlmostEqual(shutter.plus_minus, math.log2(1.1))
        why = "mostly pixel size, from its files"
        self.assertEqual(shutter.why_plus_minus, why)
        self.assertIsNone(self.planned(doubts, support="tripod")["shutter_s"].plus_minus)

    def test_gaps_and_sizes_have_their_doubt_on_their_lines(self):
        gap_s = mystery_phone(4, size=SMALL).hidden.frame_gap_s
        files = "lenses.main.full.files."
        doubts = {f"{files}frame_gap_s": 0.02, f"{files}processed_mb": 1.5}
        slip = self.planned(doubts, support="tripod", frames={"count": 11})
        self.assertAlmostEqual(slip["frames"].plus_minus, 10 * 0.02)
        self.assertEqual(slip["frames"].plus_minus_unit, "s")
        in_all_s = 11 * slip["shutter_s"].value + 10 * gap_s
        self.assertIn(time_label(in_all_s), slip["frames"].notes[0])
        self.assertEqual((slip["format"].plus_minus, slip["format"].value), (1.5, "processed"))


class Practised(OnDisk):
    """The bench takes the pictures of every measurement, and says what it knows beside them."""

    def found(self, seed, kind):
        profile = practice_profile(seed, DAY)
        lens = profile.lenses[0]
        plan_made = measurement(kind)
        mode = FILTER_ID if plan_made.of_computed else lens.modes[0].id
        samples = [sample for _, _, sample in bench_samples(profile.id, kind)]
        subject = subject_of(profile, lens.id, mode)
        found = plan_made.measured(samples, bench_given(profile.id, kind), subject)
        return {figure.name: figure for figure in found.figures}, subject, found.words

    def test_every_kind_can_be_practised(self):
        self.assertEqual(set(BENCH), {known.id for known in MEASUREMENTS})

    def test_dial_size_filter_and_battery_come_back(self):
        hidden = mystery_phone(3).hidden
        found, _, _ = self.found(3, "dial")
        self.assertAlmostEqual(found["white.offset_mired"].value, hidden.dial_mired, delta=5)
        found, _, _ = self.found(3, "weight")
        size = found["files.processed_mb"].value
        self.assertLess(abs(size / hidden.processed_mb - 1), 0.15)
        found, subject, _ = self.found(3, "computed")
        place = f"computed.{FILTER_ID}"
        self.assertEqual(found[f"{place}.frames"].value, hidden.computed_frames)
        gap = found[f"{place}.gap_s"]
        self.assertAlmostEqual(gap.value, hidden.computed_gap_s, delta=0.02)
        kept = with_measured(subject, list(found.values()), date=DAY)
        self.assertEqual(kept.computed[0].frames, hidden.computed_frames)
        found, _, words = self.found(3, "battery")
        rate = found["handling.battery_percent_per_min"].value
        self.assertAlmostEqual(rate, hidden.battery_percent_per_min, delta=1 / 30)
        self.assertIn("A full battery lasts", words)

    def test_the_truth_is_told_in_words(self):
        words = truth_words("mystery-3", ["white.offset_mired", "computed.soft-water.frames"])
        hidden = mystery_phone(3).hidden
        dial = f"{hidden.dial_mired:+.0f}".replace("-", "−")
        self.assertEqual(words, [f"dial {dial} mired", f"{hidden.computed_frames} frames"])
