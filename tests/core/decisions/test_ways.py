"""Aims, trades, the frontier, range, auto, metering patterns and lens choice."""

import math
import unittest
from itertools import pairwise

import numpy as np

from oxlen.core.decisions import limit_kinds
from oxlen.core.decisions.exposure.ask import MOTION, OUTPUT, STRATEGY, Strategy
from oxlen.core.decisions.exposure.auto.choice import auto_choice
from oxlen.core.decisions.exposure.words.aim import aim_sentences
from oxlen.core.decisions.framework.brief import PlacedReading, SceneTones
from oxlen.core.decisions.lens.ask import FRAMING, Framing
from oxlen.core.decisions.lens.comparison import lens_options
from oxlen.core.decisions.lens.moving import on_lens
from oxlen.core.decisions.plan import plan
from oxlen.core.decisions.sequence.ask import FRAMES
from oxlen.core.decisions.sequence.bracket import bracket_of, tonal_span
from oxlen.core.decisions.solver.aim import exposure_aim
from oxlen.core.decisions.solver.predict import predict
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.light.exposure import ev100
from oxlen.core.light.patterns import frame_light, patterns, tone_above
from oxlen.core.motion.looks import look_of
from oxlen.core.motion.subject import Mover
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief, ask_freeze, ask_output, ask_show, replace

WHERRY = shipped_profile("wherry-3").to_phone()
SUBJECT = PlacedReading("subject", 8.0)


def brief(*readings, **wishes):
    """A brief on the Wherry's main lens."""
    return ask_brief(WHERRY, readings=readings or (SUBJECT,), **wishes)


class Aims(unittest.TestCase):
    SKY = PlacedReading("keep-bright", 13.0)

    def test_between_sky_and_ground_is_halfway(self):
        made = brief(SUBJECT, self.SKY, strategy=Strategy(exposure="split"), file_format="raw")
        # Foreground at mid asks for EV 8, sky a stop above mid for EV 12; each is two stops off.
        aim = exposure_aim(made)
        self.assertAlmostEqual(aim.placed_ev100, 10.0)
        self.assertIn("2.0 stops darker", " ".join(aim_sentences(made, aim)))

    def test_a_silhouette_places_the_ground_behind(self):
        made = brief(SUBJECT, self.SKY, strategy=Strategy(exposure="silhouette"))
        self.assertAlmostEqual(exposure_aim(made).placed_ev100, 12.0)
        self.assertIn("a silhouette without detail", aim_sentences(made, exposure_aim(made))[-1])
        close = brief(PlacedReading("subject", 11.0), self.SKY, strategy=made[STRATEGY])
        self.assertIn("something brighter", aim_sentences(close, exposure_aim(close))[-1])


class Trades(unittest.TestCase):
    def test_each_way_out_of_the_dark_is_solved_anew(self):
        made = brief(
            PlacedReading("subject", 4.0),
            freeze=(ask_freeze("walker", Mover(1.4, 9.0)),),
            output=ask_output(snr_floor=20.0),
        )
        decision = plan(made)
        found = {trade.id: trade for trade in decision.trades}
        self.assertLessEqual({"pan", "light", "hour", "accept_blur"}, set(found))
        # What moves is somewhere else in every frame: averaging would blur it away.
        self.assertNotIn("frames", found)
        self.assertIn(f"{found['accept_blur'].figures.blur_px:.1f} px", found["accept_blur"].text)
        lit = found["light"].brief.readings[0].ev100
        self.assertGreaterEqual(lit, decision.conflict.short_by_stops)

    def test_accepted_noise_is_just_what_is_needed(self):
        made = brief(PlacedReading("subject", 0.0), output=ask_output(snr_floor=40.0))
        trade = next(t for t in plan(made).trades if t.id == "accept_noise")
        self.assertLess(trade.brief[OUTPUT].snr_floor, 40)
        self.assertAlmostEqual(
            trade.figures.snr_subject / trade.brief[OUTPUT].snr_floor, 1.03, delta=0.03
        )

    def test_short_frames_stand_in_for_glass(self):
        soft = (ask_show("sluice", Mover(2, 6), look_of("soft"), width_m=1.5),)
        trades = plan(brief(PlacedReading("subject", 12.0), support="tripod", show=soft)).trades
        trade = next(t for t in trades if t.id == "computed_nd")
        frames, t = trade.brief[FRAMES], trade.slip.shutter_s
        elapsed = frames.count * t + (frames.count - 1) * frames.gap_s
        self.assertGreaterEqual(elapsed, 2.26)
        self.assertLessEqual(elapsed, 9.8)

    def test_none_are_worked_out_unasked_when_all_fits(self):
        made = brief(PlacedReading("subject", 1.0))
        self.assertEqual(plan(made).trades, ())
        self.assertIn("tripod", {trade.id for trade in plan(made, ask=True).trades})

    def test_a_compromise_says_what_it_gives_up(self):
        glass = (ask_show("swell", Mover(1.2, 12), look_of("glass")),)
        found = plan(brief(SUBJECT, show=glass))
        self.assertIsNone(found.slip)
        self.assertLessEqual(set(found.compromise.gives_up_stops), {"hold", "show"})
        self.assertTrue(found.compromise.gives_up_stops)


class Frontier(unittest.TestCase):
    def test_less_blur_costs_more_noise(self):
        found = plan(brief(PlacedReading("subject", 4.0))).alternatives
        self.assertTrue(3 <= len(found) <= 5)
        blurs = [way.figures.blur_px for way in found]
        snrs = [way.figures.snr_subject for way in found]
        self.assertEqual((blurs, snrs), (sorted(blurs), sorted(snrs)))
        self.assertEqual(len({way.slip.shutter_s for way in found}), len(found))

    def test_clipped_share_comes_from_the_frames_own_tones(self):
        tones = SceneTones((4.0, 8.0, 12.0), (0.75, 0.25))
        # Mid at EV 8 clips at EV 10.5: three eighths of the upper quarter are above.
        figures = plan(brief(tones=tones, support="tripod")).figures
        self.assertAlmostEqual(figures.clipped_share, 0.25 * 1.5 / 4, delta=0.02)

    def test_what_was_lost_in_the_picture_may_be_lost_again(self):
        tones = SceneTones((4.0, 8.0), (1.0,), lost_share=0.03)
        decision = plan(brief(tones=tones, support="tripod"))
        found = predict(decision.search.problem, decision.search.pairs)
        long = found.clipped_share > 0.03
        np.testing.assert_array_equal(found.clipped_share_most[~long], 0.03)
        np.testing.assert_array_equal(found.clipped_share_most[long], found.clipped_share[long])
        kept = plan(brief(tones=SceneTones((4.0, 8.0), (1.0,)), support="tripod"))
        self.assertIsNone(predict(kept.search.problem, kept.search.pairs).clipped_share_most)


class Range(unittest.TestCase):
    def test_a_bracket_gives_every_spot_its_own_tone(self):
        window, corner = PlacedReading("keep-bright", 14.8), PlacedReading("keep-dark", 2.5, -3.0)
        frames = bracket_of(brief(PlacedReading("subject", 7.5, 0.0), window, corner)).ev100s
        # 14.8 less 2.5 of headroom, the subject's own, 2.5 brought up to −3.
        self.assertEqual((frames[0], frames[-1]), (14.8 - 2.5, 5.5))
        self.assertIn(7.5, frames)
        gaps = [a - b for a, b in pairwise(frames)]
        self.assertLessEqual(max(gaps), 3.0)

    def test_raw_holds_more_than_processed_and_less_as_iso_rises(self):
        made = brief(PlacedReading("keep-bright", 14.0), PlacedReading("keep-dark", 6.0))
        low, high = tonal_span(made, 50.0), tonal_span(made, 3200.0)
        self.assertGreater(low.raw.range_stops, low.processed.range_stops)
        self.assertGreater(low.raw.range_stops, high.raw.range_stops + 3)
        self.assertIn("Fits in one processed", low.words)
        self.assertIn("exposures", high.words)
        self.assertIsNone(tonal_span(brief(), 50.0))


class Auto(unittest.TestCase):
    def test_programme_holds_the_shutter_then_raises_iso(self):
        # f/1.8 at 1/60 s: ISO 304 for EV 6; EV 2 wants ISO 4860, so 1600 and 1/20 s.
        rows = [(14.0, 50.0, 1 / 2529), (6.0, 320.0, 1 / 60), (2.0, 1600.0, 1 / 20)]
        for ev, iso, shutter in rows:
            with self.subTest(ev=ev):
                found = auto_choice(brief(), 8.0, ev)
                self.assertEqual(found.iso, iso)
                self.assertAlmostEqual(math.log2(found.shutter_s / shutter), 0, delta=0.5)
                self.assertAlmostEqual(found.ev100_set, ev, delta=0.21)

    def test_difference_in_stops_and_words_through_glass(self):
        made = brief(glass_on=(LensFilter("ND 8", 8.0),))
        found = auto_choice(made, 10.0, 8.0)
        self.assertAlmostEqual(found.brighter_stops, 2.0, delta=0.21)
        self.assertIn("stops brighter", found.words)
        dialled = ev100(1.8, found.shutter_s, found.iso)
        self.assertAlmostEqual(dialled, 5.0, delta=0.21)


class Patterns(unittest.TestCase):
    def test_centre_and_spot_look_at_the_middle(self):
        luminance = np.full((90, 120), 0.045)
        luminance[35:55, 50:70] = 0.72
        found = {p.id: p.stops_from_mid for p in patterns(frame_light(luminance), 2.5)}
        self.assertAlmostEqual(found["spot"], 2.0, places=2)
        self.assertTrue(found["whole"] < found["centre"] < found["spot"])
        self.assertAlmostEqual(found["highlight"], 2.0 - 2.5, delta=0.3)

    def test_histogram_shares_add_up(self):
        light = frame_light(np.array([[0.18, 0.36], [0.72, 0.09]]))
        self.assertAlmostEqual(light.shares.sum(), 1)
        self.assertAlmostEqual(light.shares[light.edges_stops[:-1] >= 0.5].sum(), 0.5)
        self.assertGreater(tone_above(light, 0.2), 1.9)

    def test_histogram_goes_by_the_strongest_channel_and_cells_by_luminance(self):
        luminance = np.array([[0.18, 0.18], [0.18, 0.18]])
        strongest = np.array([[0.18, 0.18], [0.18, 0.72]])
        light = frame_light(luminance, strongest)
        self.assertAlmostEqual(light.shares[light.edges_stops[:-1] >= 1.0].sum(), 0.25)
        np.testing.assert_allclose(light.cells, 0.18)


class LensChoice(unittest.TestCase):
    FRAMING = Framing(3.0, 10.0)

    def test_distance_keeps_the_subjects_size(self):
        made = brief(framing=self.FRAMING)
        found = {option.lens_id: option for option in lens_options(made, limit_kinds())}
        main, long = WHERRY.lens("main"), WHERRY.lens("long")
        heights = [
            lens.mode(None).height_px * lens.mode(None).pixel_pitch_um for lens in (main, long)
        ]
        ratio = long.focal_mm / heights[1] / (main.focal_mm / heights[0])
        self.assertAlmostEqual(found["long"].distance_m, 3.0 * ratio)
        growth = (3 + 10) / 3 * found["long"].distance_m / (found["long"].distance_m + 10)
        self.assertAlmostEqual(found["long"].background_growth, growth)
        self.assertEqual(sorted(way.rank for way in found.values()), [1, 2, 3])

    def test_the_mover_stays_where_it_is_when_one_steps_back(self):
        made = brief(framing=self.FRAMING, freeze=(ask_freeze("walker", Mover(1.4, 5.0)),))
        moved = on_lens(made, "long")
        stepped = moved[FRAMING].distance_m - 3.0
        self.assertAlmostEqual(moved[MOTION][0].mover.distance_m, 5.0 + stepped)

    def test_wanted_sizes_decide_before_noise(self):
        sized = Framing(3.0, 30.0, 1.8, 0.5, 6.0, 0.35)
        found = lens_options(brief(framing=sized), limit_kinds())
        off = [abs(math.log2(way.background_share / 0.35)) for way in found]
        self.assertEqual(off, sorted(off))
        any_lens = plan(replace(brief(framing=sized), lens_id="any"))
        self.assertEqual(any_lens.slip.lens, found[0].lens_id)
        self.assertIn("Best lens", next(r.text for r in any_lens.reasons if r.value == "lens"))
