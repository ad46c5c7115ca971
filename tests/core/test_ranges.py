"""Every range ends where its description says: both ends are taken, what is just past is not."""

import unittest
from dataclasses import replace

import numpy as np

from oxlen.core.colour.daylight import daylight_xy
from oxlen.core.colour.planckian import planckian_xy
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.develop.recipe import Recipe
from oxlen.core.errors import OutOfRange
from oxlen.core.hold.burst import burst_stops
from oxlen.core.hold.hand import burst_size_needed, hand_limit_s, keep_one_of
from oxlen.core.kit.cost import FrameCost, set_cost
from oxlen.core.lens.perspective import background_growth, edge_stretch
from oxlen.core.light.meter import Spot
from oxlen.core.light.reading import reading_from_ev, reading_predicted
from oxlen.core.light.tone import linear_to_srgb, srgb_to_linear
from oxlen.core.motion.drawing import drawing_time_s
from oxlen.core.motion.less_light import averaged_frames, nd_density, nd_stops
from oxlen.core.motion.subject import Mover
from oxlen.core.night.ask import NightAsk
from oxlen.core.sensor.noise_profile import declared_noise
from oxlen.core.sky.brightness import class_magnitude, sky_luminance_cd_m2
from oxlen.core.sky.foreground import foreground_luminance_cd_m2, foreground_needs_lx
from oxlen.core.sky.place import Place
from oxlen.core.sky.trailing import npf_time_s, star_trail_px

READING = PlacedReading("subject", 10.0)


def of_night(field):
    """A night's wish by one of its fields."""
    return lambda value: NightAsk(**{field: value})


def of_recipe(field):
    """A recipe by one of its fields."""
    return lambda value: Recipe(**{field: value})


RANGES = {
    "EV of a hand meter": (reading_from_ev, -18, 24),
    "EV predicted": (lambda v: reading_predicted(v, 1.0, ""), -18, 24),
    "± of it": (lambda v: reading_predicted(10.0, v, ""), 0, 6),
    "reading": (lambda v: replace(READING, ev100=v), -30, 40),
    "tone": (lambda v: replace(READING, place_stops=v), -12, 8),
    "tone within": (lambda v: replace(READING, within_stops=v), 0.05, 12),
    "channel": (lambda v: replace(READING, channel_stops=v), 0, 12),
    "spot x": (lambda v: Spot("", v, 0.5, 0.1), 0, 1),
    "spot y": (lambda v: Spot("", 0.5, v, 0.1), 0, 1),
    "spot r": (lambda v: Spot("", 0.5, 0.5, v), 0.0005, 0.5),
    "sRGB": (srgb_to_linear, 0, 1),
    "linear": (linear_to_srgb, 0, 1),
    "exposure": (of_recipe("exposure_stops"), -6, 6),
    "shadows": (of_recipe("shadows_stops"), -6, 6),
    "highlights": (of_recipe("highlights_stops"), -6, 6),
    "level": (of_recipe("level_deg"), -20, 20),
    "contrast": (of_recipe("local_contrast"), 0, 1),
    "sharpening": (of_recipe("sharpening"), 0, 1),
    "noise": (of_recipe("noise_reduction"), 0, 1),
    "crop width": (lambda v: Recipe(crop=(0.0, 0.0, v, 1.0)), 0.05, 1),
    "crop height": (lambda v: Recipe(crop=(0.0, 0.0, 1.0, v)), 0.05, 1),
    "stabiliser": (lambda v: hand_limit_s(24.0, v), -5, 30),
    "sharp share": (lambda v: keep_one_of(v, 4), 0, 1),
    "sharp share of a burst": (lambda v: burst_size_needed(v, 0.5), 0, 1),
    "wanted share": (lambda v: burst_size_needed(0.5, v), 0, 1),
    "burst": (lambda v: burst_stops(v), 1, 200),
    "chance": (lambda v: burst_stops(4, v), 0.01, 0.999),
    "density's factor": (nd_density, 1, 1e9),
    "stops' factor": (nd_stops, 1, 1e9),
    "frames averaged": (lambda v: averaged_frames(v, 1.0, 0.0, base_s=1.0), 1, 1e6),
    "gap averaged": (lambda v: averaged_frames(2, 1.0, v, base_s=1.0), 0, 1e6),
    "gap of a series": (lambda v: _cost(v), 0, 1e6),
    "angle": (lambda v: Mover(1.0, 1.0, v), 0, 180),
    "start of a drawing": (lambda v: drawing_time_s(3.0, 0.5, v), 0, 1e6),
    "end of a drawing": (lambda v: drawing_time_s(3.0, 0.5, 1.0, stop_s=v), 0, 1e6),
    "depth": (lambda v: background_growth(1.5, v, 2.0), 0, 1e9),
    "off the axis": (lambda v: edge_stretch(6.8, v), 0, 1e4),
    "noise offset": (lambda v: declared_noise(1e-3, v), 0, 1),
    "latitude": (lambda v: Place(v, 0.0), -90, 90),
    "longitude": (lambda v: Place(0.0, v), -180, 180),
    "magnitude": (sky_luminance_cd_m2, -30, 40),
    "class": (lambda v: class_magnitude(v), 1, 9),
    "land under light": (lambda v: foreground_luminance_cd_m2(1.0, reflects=v), 0.01, 1),
    "light for land": (lambda v: foreground_needs_lx(1e-4, reflects=v), 0.01, 1),
    "NPF's declination": (lambda v: npf_time_s(1.8, 6.8, 1.2, declination_deg=v), -89.9, 89.9),
    "night's sky": (of_night("sky_magnitude"), 10, 24),
    "night's declination": (of_night("declination_deg"), -89, 89),
    "night's trail": (of_night("trail_px"), 0.2, 1000),
    "night's SNR": (of_night("snr"), 0.5, 200),
    "night's arc": (of_night("arc_deg"), 0.5, 180),
    "night's land": (of_night("land_stops"), -4, 6),
    "night's ground": (of_night("land_reflects"), 0.01, 1),
    "daylight": (daylight_xy, 4000, 25000),
    "black body": (planckian_xy, 1000, 100000),
}


def _cost(gap_s):
    return set_cost(open_s=60, sub_s=15, gap_s=gap_s, frame=FrameCost(25, 0.7), free_megabytes=1e9)


class Ranges(unittest.TestCase):
    def test_both_ends_are_taken_and_what_is_just_past_them_is_not(self):
        for name, (make, low, high) in RANGES.items():
            step = 1 if isinstance(low, int) and name in ("class", "burst") else 0.01 * (high - low)
            with self.subTest(name):
                make(low)
                make(high)
                for past in (low - min(step, 0.001 + abs(low) / 100), high + step):
                    with self.assertRaises(OutOfRange, msg=f"{past}"):
                        make(past)

    def test_a_range_holds_for_every_element_and_for_nan(self):
        with self.assertRaises(OutOfRange):
            srgb_to_linear(np.array([0.2, 1.01]))
        with self.assertRaises(OutOfRange):
            linear_to_srgb(np.nan)


class Positive(unittest.TestCase):
    def test_nothing_is_no_length_time_or_light(self):
        for name, make in {
            "speed": lambda v: Mover(v, 1.0),
            "distance": lambda v: Mover(1.0, v),
            "path": lambda v: drawing_time_s(v, 0.5, 1.0),
            "trail's shutter": lambda v: star_trail_px(6.8, 1.2, v, declination_deg=0.0),
            "sky": lambda v: foreground_needs_lx(v, reflects=0.2),
            "focal length": lambda v: hand_limit_s(v, 0.0),
            "frame's time": lambda v: averaged_frames(2, v, 0.0, base_s=1.0),
        }.items():
            with self.subTest(name):
                make(1e-3)
                for wrong in (0.0, -1.0):
                    with self.assertRaises(OutOfRange):
                        make(wrong)
