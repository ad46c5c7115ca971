"""The decision against every pair of steps on every lens, tried one by one in plain loops."""

import math
import unittest

from oxlen.core.decisions.exposure.aim import exposure_aim
from oxlen.core.decisions.exposure.ask import GLASS, OUTPUT, STRATEGY, iso_strategy
from oxlen.core.decisions.exposure.limits.show import SHOW
from oxlen.core.decisions.exposure.search import limits_of
from oxlen.core.decisions.lens.moving import on_lens
from oxlen.core.decisions.plan import plan
from oxlen.core.decisions.sequence.ask import FRAMES
from tests.core.random_briefs import random_brief

BRIEFS = 500
SLACK = 1e-9


def exposed(brief, iso, shutter):
    """EV100 of a pair, glass counted, from its definition."""
    glass = math.prod(one.factor for one in brief[GLASS])
    return math.log2(brief.lens.f_number**2 / shutter) - math.log2(iso / 100) + math.log2(glass)


def room(limit, brief, iso, shutter):
    """Stops left to a limit at a pair; negative when it is broken."""
    if limit.only is not None:
        return -min((abs(math.log2(shutter / one)) for one in limit.only), default=math.inf)
    ev = exposed(brief, iso, shutter)
    value = {"iso": math.log2(iso), "shutter_s": math.log2(shutter), "ev100_set": ev}[limit.axis]

    def stops(bound):
        return bound if limit.axis == "ev100_set" else math.log2(bound)

    left = math.inf
    if limit.low is not None:
        shrink = max(0.0, math.log2(limit.base_iso / iso)) if limit.base_iso else 0.0
        left = min(left, value - stops(limit.low) - shrink)
    if limit.high is not None:
        left = min(left, stops(limit.high) - value if limit.high else -math.inf)
    return left


def order(brief, limits, unsafe):
    """The school's stated order as a sort key of (iso, shutter, residual)."""
    ours = [x for x in limits if x.axis == "shutter_s" and not x.is_device]
    longest = min((x.high for x in ours if x.high is not None), default=None)
    shows = [x.low for x in ours if x.kind is SHOW and x.low is not None]
    liked = brief[STRATEGY].shutter_s
    if liked is None and shows:
        top = longest if longest is not None and longest > max(shows) else 2 * max(shows)
        liked = math.sqrt(max(shows) * top)
    elif liked is None and longest is not None:
        liked = longest / 2

    def off(residual):
        return abs(residual) + (0.1 if unsafe and residual * unsafe > 0 else 0.0)

    def floor(iso, shutter, residual):
        return math.log2(iso), off(residual), math.log2(shutter)

    def ceiling(iso, shutter, residual):
        return max(0.0, math.log2(shutter / longest) + 2), math.log2(iso), off(residual)

    def shutter_first(iso, shutter, residual):
        return abs(math.log2(shutter / liked)), off(residual), math.log2(iso)

    school = iso_strategy(brief)
    if school == "ceiling" and longest is not None:
        chosen = ceiling
    elif school == "shutter_first" and liked is not None:
        chosen = shutter_first
    else:
        chosen = floor
    return lambda pair: tuple(round(value, 6) for value in chosen(*pair))


def unsafe_side(brief, limits, pair):
    """Which way a residual runs towards the tightest limit at a pair."""
    ruled = [x for x in limits if not x.is_device and x.only is None]
    if not ruled:
        return 0
    tight = min(ruled, key=lambda x: room(x, brief, *pair[:2]))
    if tight.axis == "ev100_set":
        return 1
    value = pair[0] if tight.axis == "iso" else pair[1]
    below = math.inf if tight.low is None else math.log2(value / tight.low)
    above = math.inf if tight.high is None else math.log2(tight.high / value)
    if tight.axis == "iso":
        return 0 if below < above else -1
    return -1 if below < above else 1


def fitting(brief):
    """All (iso, shutter, residual) near the aim that break nothing."""
    aim, limits = exposure_aim(brief).ev100, limits_of(brief)
    ladder = brief.mode.manual
    return [
        (iso, shutter, aim - exposed(brief, iso, shutter))
        for iso in ladder.iso
        for shutter in ladder.shutter_s
        if abs(aim - exposed(brief, iso, shutter)) <= ladder.half_step_stops + SLACK
        and all(room(limit, brief, iso, shutter) >= -SLACK for limit in limits)
    ]


def best_on_lens(brief):
    """The school's optimum on the brief's own lens; None when nothing fits."""
    pairs, limits = fitting(brief), limits_of(brief)
    if not pairs:
        return None
    first = min(pairs, key=order(brief, limits, 0))
    return min(pairs, key=order(brief, limits, unsafe_side(brief, limits, first)))


def subject_snr(brief, pair):
    """SNR of the darkest subject at the output, from the sensor's own numbers."""
    iso, _, residual = pair
    mode, sensor = brief.mode, brief.mode.sensor
    subjects = [r.ev100 for r in brief.readings if r.role in ("subject", "neutral")]
    tone = min(subjects) - exposure_aim(brief).ev100
    tone = 0.0 if brief[STRATEGY].exposure == "silhouette" else tone
    tone = min(tone + residual, sensor.headroom_raw_stops)
    n = sensor.full_well_e * sensor.base_iso / iso * 2.0 ** (tone - sensor.headroom_raw_stops)
    read = float(mode.read_noise_at(float(iso)))
    noise = math.sqrt((n + read**2) / brief[FRAMES].count + (sensor.prnu_share * n) ** 2)
    shrink = mode.width_px * mode.height_px / brief[OUTPUT].pixels
    return n / noise * math.sqrt(max(1.0, shrink))


class AgainstBruteForce(unittest.TestCase):
    def test_same_optimum_over_every_pair_and_lens(self):
        fitted = 0
        for seed in range(BRIEFS):
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
                ids = list(found)
                best = min(ids, key=lambda x: -round(math.log2(subject_snr(*found[x])) / 0.01))
                slip = decision.slip
                self.assertEqual((slip.lens, slip.iso, slip.shutter_s), (best, *found[best][1][:2]))
        self.assertGreater(fitted, 100)
        self.assertLess(fitted, 450)

    def test_conflict_when_and_only_when_no_pair_fits(self):
        for seed in range(150):
            brief = random_brief(seed, lens_id=None)
            decision = plan(brief, ask=True)
            with self.subTest(seed=seed):
                self.assertEqual(decision.conflict is None, bool(fitting(brief)))
                self.check_slips(decision)

    def check_slips(self, decision):
        """No slip anywhere breaks a limit of the brief it was made for."""
        if decision.conflict is not None:
            self.assertGreater(decision.conflict.short_by_stops, 0)
            self.assertEqual(len(set(decision.conflict.between)), 2)
            self.assertTrue(decision.compromise.gives_up_stops or decision.slip)
        elif decision.slip is not None:
            half = decision.brief.mode.manual.half_step_stops
            self.assertLessEqual(abs(decision.slip.residual_stops), half + SLACK)
        made = [(trade.brief, trade.slip) for trade in decision.trades if trade.id != "accept"]
        if decision.slip is not None:
            made.append((decision.brief, decision.slip))
        for brief, slip in made:
            self.assertIn(slip.iso, brief.mode.manual.iso)
            self.assertIn(slip.shutter_s, brief.mode.manual.shutter_s)
            for limit in limits_of(brief):
                self.assertGreaterEqual(room(limit, brief, slip.iso, slip.shutter_s), -SLACK)

    def test_a_tighter_limit_never_widens_the_window(self):
        for seed in range(200):
            brief = random_brief(seed, lens_id=None)
            cap = brief.mode.manual.iso[3]
            loose = {pair[:2] for pair in fitting(brief)}
            capped = type(brief[STRATEGY])(
                iso_strategy(brief), cap, brief[STRATEGY].exposure, brief[STRATEGY].shutter_s
            )
            if brief[STRATEGY].iso_cap is not None:
                continue
            tight = plan(type(brief)(**{**vars_of(brief), "school": capped}))
            if tight.window:
                with self.subTest(seed=seed):
                    self.assertIn((tight.slip.iso, tight.slip.shutter_s), loose)
                    self.assertLessEqual(tight.window.iso_max, max(pair[0] for pair in loose))


def vars_of(brief):
    """The fields of a brief, without what it has worked out and remembered."""
    return {name: getattr(brief, name) for name in brief.__dataclass_fields__}
