"""The decision against every pair of steps on every lens, tried one by one in plain loops.

The bounds are worked from the physics in `worked_bounds`, not taken from the product.
"""

import math
import unittest

from oxlen.core.decisions.exposure.ask import LOOKS, MOTION, STRATEGY, SUPPORT, iso_strategy
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.lens.moving import on_lens
from oxlen.core.decisions.plan import plan
from oxlen.core.decisions.sequence.ask import FRAMES
from oxlen.core.decisions.solver.aim import exposure_aim
from tests.core.asking import replace
from tests.core.random_briefs import random_brief
from tests.core.worked_bounds import bounds, exposed, tone_snr
from tests.counts import seeds

SLACK = 1e-9


def order(brief, found, unsafe, *, pairs):
    """The strategy's stated order as a sort key of (iso, shutter, residual).

    Where the highlights hold the exposure it is hit first, up to a stop over the lowest ISO.
    """
    lowest = min(pair[0] for pair in pairs)
    nearest = min(abs(pair[2]) for pair in pairs if pair[0] <= 2 * lowest * (1 + SLACK))
    held = exposure_aim(brief).raised_stops > 1e-9
    highs = [x.high for x in found if x.axis == "shutter" and x.high < math.inf]
    highs += [max(x.only, default=math.inf) for x in found if x.axis == "only"]
    longest = min(highs, default=math.inf)
    shows = [x.low for x in found if x.shows]
    strategy, liked = brief[STRATEGY], brief[STRATEGY].shutter_s
    moves = brief[MOTION] or brief[LOOKS] or liked
    still = "steady" if brief[SUPPORT] == "handheld" else "floor"
    iso_first = strategy.iso or ("shutter_first" if moves else still)
    named = liked is not None or bool(shows)
    if liked is None and shows:
        top = longest if max(shows) < longest < math.inf else 2 * max(shows)
        liked = math.sqrt(max(shows) * top)
    elif liked is None and longest < math.inf:
        liked = longest / 2

    def off(residual):
        return abs(residual) + (0.1 if unsafe and residual * unsafe > 0 else 0.0)

    def floor(iso, shutter, residual):
        keys = math.log2(iso), off(residual), math.log2(shutter)
        exact = max(0.0, math.log2(iso / lowest) - 1.0), max(0, abs(residual) - nearest - 0.1)
        return (*exact, *keys) if held else keys

    def ceiling(iso, shutter, residual):
        return max(0.0, math.log2(shutter / longest) + 2), math.log2(iso), off(residual)

    def grain(iso, residual, floor):
        return max(0.0, math.log2(floor / subject_snr(brief, (iso, 0, residual))))

    def shutter_first(iso, shutter, residual):
        keys = abs(math.log2(shutter / liked)), off(residual), math.log2(iso)
        return keys if named else (grain(iso, residual, 10.0), *keys)

    def steady(iso, shutter, residual):
        inside = math.log2(longest / shutter)
        spoilt = grain(iso, residual, 40.0) if inside > 1 else 0.0
        wanting = max(0.0, 1 - inside), spoilt, max(0.0, 2 - inside)
        return *wanting, *floor(iso, shutter, residual)

    chosen = floor
    if iso_first == "ceiling" and longest < math.inf:
        chosen = ceiling
    elif iso_first == "shutter_first" and liked is not None:
        chosen = shutter_first
    elif iso_first == "steady" and longest < math.inf:
        chosen = steady
    return lambda pair: tuple(round(value, 6) for value in chosen(*pair))


def unsafe_side(brief, found, pair):
    """Which way a residual runs towards the tightest bound at a pair."""
    ruled = [x for x in found if x.axis != "only" and not x.tone]
    if not ruled:
        return 0
    tight = min(ruled, key=lambda x: x.room(brief, *pair[:2]))
    if tight.axis == "ev":
        return 1
    value = pair[0] if tight.axis == "iso" else pair[1]
    below = math.log2(value / tight.low) if tight.low else math.inf
    above = math.log2(tight.high / value) if tight.high < math.inf else math.inf
    if tight.axis == "iso":
        return 0 if below < above else -1
    return -1 if below < above else 1


def fitting(brief, within=None):
    """All (iso, shutter, residual) near the aim that break nothing."""
    aim, found, ladder = exposure_aim(brief).ev100, bounds(brief), brief.mode.manual
    within = ladder.half_step_stops if within is None else within
    return [
        (iso, shutter, aim - exposed(brief, iso, shutter))
        for iso in ladder.iso
        for shutter in ladder.shutter_s
        if abs(aim - exposed(brief, iso, shutter)) <= within + SLACK
        and all(bound.room(brief, iso, shutter) >= -SLACK for bound in found)
    ]


def little_off(brief):
    """How far off the aim a pair may be that breaks nothing, where none is nearer."""
    return max(0.5, 1.5 * brief.mode.manual.half_step_stops)


def best_on_lens(brief):
    """The strategy's optimum on the brief's own lens; None when nothing fits."""
    pairs, found = fitting(brief), bounds(brief)
    if not pairs:
        little = fitting(brief, little_off(brief))
        return min(little, key=lambda x: (round(abs(x[2]), 6), x[0]), default=None)
    first = min(pairs, key=order(brief, found, 0, pairs=pairs))
    unsafe = unsafe_side(brief, found, first)
    return min(pairs, key=order(brief, found, unsafe, pairs=pairs))


def subject_snr(brief, pair):
    """SNR of the darkest subject at a pair."""
    iso, _, residual = pair
    aim = exposure_aim(brief).ev100
    subjects = [r.ev100 - aim for r in brief.readings if r.role in ("subject", "neutral")]
    shape = brief[STRATEGY].exposure == "silhouette"
    tone = 0.0 if shape or not subjects else min(subjects)
    return tone_snr(brief, iso, tone + residual)


def lens_order(brief, pair):
    """What can be focused at the distance asked for first, then the cleanest subject."""
    focus, short = brief[FOCUS], 0.0
    if focus.distance_m is not None:
        power = 0.0 if focus.clip_on is None else focus.clip_on.dioptres
        wanted = 1 / focus.distance_m
        short = max(wanted - 1 / brief.lens.focus.closest_m - power, power - wanted, 0.0)
    return round(short, 1), -round(math.log2(subject_snr(brief, pair)) / 0.01)


class AgainstBruteForce(unittest.TestCase):
    def test_same_optimum_over_every_pair_and_lens(self):
        fitted, tried = 0, seeds(160, 500)
        for seed in tried:
            brief = random_brief(seed)
            found = {}
            for lens in brief.phone.lenses:
                on = on_lens(on_lens(brief, brief.lens.id), lens.id)
                pair = best_on_lens(on)
                if pair is not None:
                    found[lens.id] = (on, pair)
            decision = plan(brief)
            with self.subTest(seed=seed):
                self.assertEqual(decision.conflict is None, bool(found))
                if not found:
                    continue
                fitted += 1
                best = min(found, key=lambda x: lens_order(*found[x]))
                slip = decision.slip
                self.assertEqual((slip.lens, slip.iso, slip.shutter_s), (best, *found[best][1][:2]))
        self.assertTrue(0.2 * len(tried) < fitted < 0.9 * len(tried), fitted)

    def test_conflict_when_and_only_when_no_pair_fits(self):
        for seed in seeds(50, 150):
            brief = random_brief(seed, lens_id=None)
            decision = plan(brief, ask=True)
            with self.subTest(seed=seed):
                fits = fitting(brief) or fitting(brief, little_off(brief))
                self.assertEqual(decision.conflict is None, bool(fits))
                self.check_slips(decision)

    def check_slips(self, decision):
        """No slip anywhere breaks a limit of the brief it was made for."""
        if decision.conflict is not None:
            self.assertGreater(decision.conflict.short_by_stops, 0)
            self.assertEqual(len(set(decision.conflict.between)), 2)
        elif decision.slip is not None:
            little = little_off(decision.brief)
            self.assertLessEqual(abs(decision.slip.residual_stops), little + SLACK)
        made = [(trade.brief, trade.slip) for trade in decision.trades if not trade.outside]
        if decision.slip is not None:
            made.append((decision.brief, decision.slip))
        for brief, slip in made:
            self.assertIn(slip.iso, brief.mode.manual.iso)
            self.assertIn(slip.shutter_s, brief.mode.manual.shutter_s)
            for bound in kept(brief):
                spare = 0.5 if bound.tone and decision.conflict else 0.0
                room = bound.room(brief, slip.iso, slip.shutter_s)
                self.assertGreaterEqual(room, -SLACK - spare)

    def test_a_tighter_limit_never_widens_the_window(self):
        for seed in seeds(80, 200):
            brief = random_brief(seed, lens_id=None)
            strategy = brief[STRATEGY]
            if strategy.iso_cap is not None:
                continue
            loose = {pair[:2] for pair in fitting(brief)}
            cap = brief.mode.manual.iso[3]
            capped = replace(strategy, iso_cap=cap, iso=iso_strategy(brief))
            tight = plan(replace(brief, strategy=capped))
            if tight.window:
                with self.subTest(seed=seed):
                    self.assertIn((tight.slip.iso, tight.slip.shutter_s), loose)
                    self.assertLessEqual(tight.window.iso_max, max(pair[0] for pair in loose))


def kept(brief):
    """Bounds a slip must keep; bright detail that may clip, or has a frame of its own, has none."""
    if brief[STRATEGY].lift_stops:
        return []
    guarded = not brief[STRATEGY].let_clip and brief[FRAMES].combine == "average"
    return [bound for bound in bounds(brief) if guarded or bound.axis != "ev"]
