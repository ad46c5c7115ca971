"""The decision against every pair of steps on every lens, tried one by one in plain loops.

The bounds are worked here from the physics, not taken from the product.
"""

import math
import unittest
from dataclasses import dataclass

from oxlen.core.decisions.exposure.aim import exposure_aim
from oxlen.core.decisions.exposure.ask import (
    FORMAT,
    GLASS,
    HOLD,
    LAMPS,
    LOOKS,
    MOTION,
    OUTPUT,
    STRATEGY,
    SUPPORT,
    iso_strategy,
)
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.lens.moving import on_lens
from oxlen.core.decisions.plan import plan
from oxlen.core.decisions.sequence.ask import FRAMES
from tests.core.asking import replace
from tests.core.random_briefs import random_brief

BRIEFS = 500
SLACK = 1e-9


@dataclass(frozen=True)
class Bound:
    """A bound worked here: `only` lists allowed shutters, `base_iso` shrinks the headroom."""

    axis: str
    low: float = 0.0
    high: float = math.inf
    shows: bool = False
    only: tuple = ()
    base_iso: float = 0.0
    tone: bool = False

    def room(self, brief, iso, shutter):
        """Stops left at a pair; negative when it is broken."""
        if self.axis == "only":
            return -min((abs(math.log2(shutter / one)) for one in self.only), default=math.inf)
        if self.axis == "ev":
            shrink = max(0.0, math.log2(self.base_iso / iso)) if self.base_iso else 0.0
            found = exposed(brief, iso, shutter)
            return min(found - self.low - shrink, self.high - found)
        value = iso if self.axis == "iso" else shutter
        below = math.log2(value / self.low) if self.low else math.inf
        return min(below, math.log2(self.high / value) if self.high < math.inf else math.inf)


def exposed(brief, iso, shutter):
    """EV100 of a pair, glass counted, from its definition."""
    glass = math.prod(one.factor for one in brief[GLASS])
    return math.log2(brief.lens.f_number**2 / shutter) - math.log2(iso / 100) + math.log2(glass)


def bounds(brief):
    """Every bound of a brief, from the formulas of `docs/FORMULAS.md`."""
    panned = any(one.pan is not None for one in brief[MOTION])
    found = [frozen(brief, one) for one in brief[MOTION]]
    found += [shown(brief, one) for one in brief[LOOKS]]
    if brief[SUPPORT] != "tripod" and not panned:
        found.append(Bound("shutter", high=held_s(brief)))
    if brief[LAMPS] is not None:
        lamps, steps = brief[LAMPS], brief.mode.manual.shutter_s
        phases = [math.pi * lamps.pulse_hz * t for t in steps]
        even = [abs(math.sin(x)) / x <= lamps.tolerance for x in phases]
        found.append(Bound("only", only=tuple(t for t, ok in zip(steps, even, strict=True) if ok)))
    if brief[STRATEGY].iso_cap is not None:
        found.append(Bound("iso", high=brief[STRATEGY].iso_cap))
    clips = [r.ev100 + r.channel_stops for r in brief.readings if r.role == "keep-bright"]
    if clips:
        low = max(clips) - brief.mode.headroom_stops(brief[FORMAT])
        found.append(Bound("ev", low=low, base_iso=brief.mode.sensor.base_iso))
    return [*found, *tone_bounds(brief), *noise_bounds(brief)]


def tone_bounds(brief):
    """How far the exposure may go before a spot is not the tone it was asked to be."""
    aim, headroom = brief[STRATEGY].exposure, brief.mode.headroom_stops(brief[FORMAT])
    usual = {"subject": -2.0 if aim == "dark" else 0.0, "neutral": 0.0, "keep-dark": -3.0}
    usual["neutral"] = usual["subject"]
    top = max((r.ev100 for r in brief.readings if r.role == "keep-bright"), default=None)
    for r in brief.readings:
        place = r.place_stops
        if r.role == "keep-bright":
            if aim in ("silhouette", "split") and place is None and r.ev100 == top:
                yield Bound("ev", low=r.ev100 - 2.0, high=r.ev100, tone=True)
            continue
        if r.role == "subject":
            low = r.ev100 + r.channel_stops - headroom
            yield Bound("ev", low=low, base_iso=brief.mode.sensor.base_iso)
        if aim == "silhouette" and r.role == "subject" and (place is None or place > -3):
            yield Bound("ev", low=r.ev100 + 3.0, tone=True)
            continue
        off = 0.5 if r.role == "neutral" else 1.0
        neutral = 0.0 if aim == "silhouette" and r.role == "neutral" else usual[r.role]
        wanted = r.ev100 - (neutral if place is None else place)
        if r.role == "keep-dark" and place is None:
            if brief[FORMAT] != "raw":
                yield Bound("ev", low=-math.inf, high=wanted + off, tone=True)
            continue
        yield Bound("ev", low=wanted - off, high=wanted + off, tone=True)


def held_stops(brief):
    """Stops over 1/f35: stabiliser, rest, burst and risk."""
    hold = brief[HOLD]
    stops = hold.stabiliser_stops
    stops = brief.lens.stabiliser_stops if stops is None else stops
    stops += 1.5 if brief[SUPPORT] == "braced" else 0.0
    return stops + past_stops(brief)


def past_stops(brief):
    """How far past its limit the hand is trusted: by a burst, by risk taken."""
    hold = brief[HOLD]
    each = 1 - (1 - hold.chance) ** (1 / hold.burst)
    # Nine in ten are sharp at the limit, one in seven two stops past it; nothing beyond is advised.
    burst = 0.5 * (math.log(9) - math.log(each / (1 - each))) if hold.burst > 1 else 0.0
    return min(2.0, min(2.0, burst) + hold.risk_stops)


def held_s(brief):
    """What the hand holds: shake against 1/f35, and near things drift across the sensor too."""
    shaken = 2 ** held_stops(brief) / brief.lens.focal35_mm
    focus, f = brief[FOCUS], brief.lens.focal_mm
    if focus.distance_m is None or focus.distance_m > 0.5:
        return shaken
    near_mm = 1000 * focus.distance_m
    grown = f / (near_mm - f)
    if focus.clip_on is not None and near_mm <= 1000 / focus.clip_on.dioptres:
        # Set to s where 1/s = 1/near − P, the image lies f·s/(s − f) behind the lens.
        dioptres = 1000 / near_mm - focus.clip_on.dioptres
        set_mm = 1000 / dioptres if dioptres > 1e-9 else math.inf
        grown = (f if math.isinf(set_mm) else f * set_mm / (set_mm - f)) / near_mm
    mode = brief.mode
    circle_mm = math.hypot(mode.width_px, mode.height_px) * mode.pixel_pitch_um / 1.5e6
    sway = {"handheld": 5.0, "braced": 1.0}[brief[SUPPORT]]
    past = 2 ** past_stops(brief)
    return past / math.hypot(past / shaken, grown * sway / circle_mm)


def rate_um_s(brief, mover):
    """Speed of a mover's image on the sensor."""
    focal = brief.lens.focal_mm
    across = mover.speed_m_s * math.sin(math.radians(mover.angle_deg))
    return 1000 * focal * across / (mover.distance_m - focal / 1000)


def frozen(brief, one):
    """Until the image of a mover has run, or grown, by what still counts as sharp."""
    mode, mover = brief.mode, one.mover
    short_um = min(mode.width_px, mode.height_px) * mode.pixel_pitch_um
    diagonal_um = math.hypot(mode.width_px, mode.height_px) * mode.pixel_pitch_um
    own = one.sharp.value
    tolerated = {
        "circle": diagonal_um / (own or 1500),
        "pixel": (own or 2) * mode.pixel_pitch_um,
        "output": (own or 2) * short_um / min(brief[OUTPUT].size_px),
    }[one.sharp.by]
    left = 1.0 if one.pan is None else one.pan
    crossing = math.inf
    if mover.angle_deg:
        slowed = type(mover)(mover.speed_m_s * left, mover.distance_m, mover.angle_deg)
        crossing = tolerated / rate_um_s(brief, slowed)
    towards = abs(mover.speed_m_s * math.cos(math.radians(mover.angle_deg)))
    grown = tolerated * mover.distance_m / (towards * (one.off_axis * short_um + tolerated))
    return Bound("shutter", high=min(crossing, grown if towards > 1e-6 else math.inf))


def shown(brief, one):
    """Between the shortest and the longest streak, the gaps between frames counted."""
    frames, mode = brief[FRAMES], brief.mode
    length = one.in_force("width_m")
    if frames.count > 1 and one.speed_m_s * frames.gap_s >= length / 2:
        return Bound("shutter", low=1e9, shows=True)

    def each(elapsed):
        return max((elapsed - (frames.count - 1) * frames.gap_s) / frames.count, 1e-6)

    if one.look == "vanish":
        contrast = abs(2**one.background_stops - 1)
        width = one.in_force("width_m")
        return Bound("shutter", low=each(width * contrast / (0.02 * one.speed_m_s)), shows=True)
    short_um = min(mode.width_px, mode.height_px) * mode.pixel_pitch_um
    spans = [
        None if share is None else share * short_um / rate_um_s(brief, one.mover)
        for share in one.shares
    ]
    # Distant water is judged by the ripples that pass, where that is sooner.
    periods = {"texture": 1, "soft": 5, "glass": 30}.get(one.look)
    drawn_um = 1000 * brief.lens.focal_mm * length / (one.distance_m - brief.lens.focal_mm / 1000)
    if periods and drawn_um <= 0.05 * short_um:
        spans[0] = min(spans[0], periods * math.sqrt(2 * math.pi * length / 9.81))
    low, high = (None if span is None else each(span) for span in spans)
    return Bound("shutter", low=low or 0.0, high=high or math.inf, shows=low is not None)


def noise_bounds(brief):
    """Highest ISO at which subject and darkest detail are clean enough, found by halving."""
    floor, aim = brief[OUTPUT].snr_floor, exposure_aim(brief).ev100
    if floor is None:
        return
    subjects = [r.ev100 - aim for r in brief.readings if r.role in ("subject", "neutral")]
    dark = [r.ev100 - aim for r in brief.readings if r.role == "keep-dark"]
    wanted = []
    if brief[STRATEGY].exposure != "silhouette":
        wanted.append((min(subjects, default=0.0), floor))
    if dark:
        wanted.append((min(dark), min(floor, 10.0)))
    for tone, least in wanted:
        low, high = -20.0, 40.0
        for _ in range(60):
            middle = (low + high) / 2
            clean = tone_snr(brief, 2**middle, tone) >= least
            low, high = (middle, high) if clean else (low, middle)
        yield Bound("iso", high=2**low)


def tone_snr(brief, iso, tone):
    """SNR of a tone at the output, from the sensor's own numbers."""
    mode, sensor = brief.mode, brief.mode.sensor
    tone = min(tone, sensor.headroom_raw_stops)
    n = sensor.full_well_e * sensor.base_iso / iso * 2.0 ** (tone - sensor.headroom_raw_stops)
    read = float(mode.read_noise_at(float(iso)))
    noise = math.sqrt((n + read**2) / brief[FRAMES].count + (sensor.prnu_share * n) ** 2)
    width, height = brief[OUTPUT].size_px
    return n / noise * math.sqrt(max(1.0, mode.width_px * mode.height_px / (width * height)))


def order(brief, found, unsafe, *, lowest):
    """The strategy's stated order as a sort key of (iso, shutter, residual).

    `lowest` is the lowest ISO that fits: where the highlights hold the exposure it is hit first.
    """
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
        exact = max(0.0, math.log2(iso / lowest) - 1.0), round(abs(residual), 2)
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
    lowest = min(pair[0] for pair in pairs)
    first = min(pairs, key=order(brief, found, 0, lowest=lowest))
    unsafe = unsafe_side(brief, found, first)
    return min(pairs, key=order(brief, found, unsafe, lowest=lowest))


def subject_snr(brief, pair):
    """SNR of the darkest subject at a pair."""
    iso, _, residual = pair
    aim = exposure_aim(brief).ev100
    subjects = [r.ev100 - aim for r in brief.readings if r.role in ("subject", "neutral")]
    shape = brief[STRATEGY].exposure == "silhouette"
    tone = 0.0 if shape or not subjects else min(subjects)
    return tone_snr(brief, iso, tone + residual)


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
        for seed in range(200):
            brief = random_brief(seed, lens_id=None)
            strategy = brief[STRATEGY]
            if strategy.iso_cap is not None:
                continue
            loose = {pair[:2] for pair in fitting(brief)}
            cap = brief.mode.manual.iso[3]
            capped = replace(strategy, iso_cap=cap, iso=iso_strategy(brief))
            tight = plan(replace(brief, school=capped))
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
