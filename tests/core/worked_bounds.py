"""Every bound of a brief worked from the physics alone, for the trial of every pair of steps."""

import math
from dataclasses import dataclass, replace

from oxlen.core.decisions.exposure.ask import (
    FORMAT,
    HOLD,
    LAMPS,
    LENS_FILTERS,
    LOOKS,
    MOTION,
    OUTPUT,
    STRATEGY,
    SUPPORT,
)
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.sequence.ask import FRAMES
from oxlen.core.decisions.solver.aim import exposure_aim


@dataclass(frozen=True)
class Bound:
    """A bound worked here: `only` lists allowed shutters, `base_iso` shrinks the headroom."""

    axis: str
    low: float = 0.0
    high: float = math.inf
    shows: bool = False
    only: tuple[str, ...] = ()
    base_iso: float = 0.0
    tone: bool = False

    def room(self, brief, iso, shutter):
        """Stops left at a pair; negative when it is broken."""
        if self.axis == "only":
            return -min((abs(math.log2(shutter / look)) for look in self.only), default=math.inf)
        if self.axis == "ev":
            shrink = max(0.0, math.log2(self.base_iso / iso)) if self.base_iso else 0.0
            found = exposed(brief, iso, shutter)
            # Nominal steps are rounded by up to 0.05 stop, which no tone shows.
            rounded = 0.05 if self.tone else 0.0
            return min(found - self.low - shrink, self.high - found) + rounded
        value = iso if self.axis == "iso" else shutter
        below = math.log2(value / self.low) if self.low else math.inf
        return min(below, math.log2(self.high / value) if self.high < math.inf else math.inf)


def exposed(brief, iso, shutter):
    """EV100 of a pair, filters counted, from its definition."""
    glass = math.prod(lens_filter.factor for lens_filter in brief[LENS_FILTERS])
    return math.log2(brief.lens.f_number**2 / shutter) - math.log2(iso / 100) + math.log2(glass)


def bounds(brief):
    """Every bound of a brief, from the formulas of `docs/FORMULAS.md`."""
    panned = any(motion.pan is not None for motion in brief[MOTION])
    found = counted(brief, "freeze", [frozen(brief, motion) for motion in brief[MOTION]])
    found += counted(brief, "show", [shown(brief, look) for look in brief[LOOKS]])
    if brief[SUPPORT] != "tripod" and not panned:
        found.append(Bound("shutter", high=held_s(brief)))
    if brief[LAMPS] is not None:
        lamps, steps = brief[LAMPS], brief.mode.manual.shutter_s
        phases = [math.pi * lamps.pulse_hz * t for t in steps]
        even = [abs(math.sin(x)) / x <= lamps.tolerance for x in phases]
        only = tuple(t for t, ok in zip(steps, even, strict=True) if ok)
        found += counted(brief, "flicker", [Bound("only", only=only)])
    if brief[STRATEGY].iso_cap is not None:
        found.append(Bound("iso", high=brief[STRATEGY].iso_cap))
    clips = [r.ev100 + r.channel_stops for r in wanted_of(brief) if r.role == "keep-bright"]
    if clips:
        low = max(clips) - brief.mode.headroom_stops(brief[FORMAT])
        found.append(Bound("ev", low=low, base_iso=brief.mode.sensor.base_iso))
    return [*found, *tone_bounds(brief), *noise_bounds(brief)]


def counted(brief, kind, found):
    """Those that the first of two blended frames keeps."""
    frames = brief[FRAMES]
    left_out = frames.each_for[1] if frames.combine == "blend" else None
    ids = [kind if n == 1 else f"{kind}-{n}" for n in range(1, len(found) + 1)]
    return [bound for name, bound in zip(ids, found, strict=True) if name != left_out]


def wanted_of(brief):
    """The readings that something is still wanted of."""
    strategy, kept, seen = brief[STRATEGY], [], {}
    for r in brief.readings:
        seen[r.role] = seen.get(r.role, 0) + (not r.name)
        if (r.name or f"{r.role} {seen[r.role]}") not in strategy.given_up:
            kept.append(r)
    counting = [r for r in kept if r.role != "keep-bright" or not strategy.let_clip]
    return kept if counting else list(brief.readings)


def tone_bounds(brief):
    """How far the exposure may go before a spot is not the tone it was asked to be."""
    aim, headroom = brief[STRATEGY].exposure, brief.mode.headroom_stops(brief[FORMAT])
    usual = {"subject": -2.0 if aim == "dark" else 0.0, "neutral": 0.0, "keep-dark": -3.0}
    usual["neutral"] = usual["subject"]
    top = max((r.ev100 for r in brief.readings if r.role == "keep-bright"), default=None)
    for r in wanted_of(brief):
        place = r.place_stops
        if r.role == "keep-bright":
            if aim in ("silhouette", "split") and place is None and r.ev100 == top:
                # Developing RAW brings a sky down that was not clipped.
                pulled = aim == "split" and brief[FORMAT] == "raw"
                yield Bound(
                    "ev", low=-math.inf if pulled else r.ev100 - 2.0, high=r.ev100, tone=True
                )
            continue
        if r.role == "subject":
            low = r.ev100 + r.channel_stops - headroom
            yield Bound("ev", low=low, base_iso=brief.mode.sensor.base_iso)
        if aim == "silhouette" and r.role == "subject" and (place is None or place > -3):
            yield Bound("ev", low=r.ev100 + 3.0, tone=True)
            continue
        off = 0.5 if r.role == "neutral" else 1.0
        neutral = 0.0 if aim == "silhouette" and r.role == "neutral" else usual[r.role]
        wanted = r.ev100 - (neutral if place is None else place) + brief[STRATEGY].darker_stops
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
        # Set to s where 1/s = 1/near − P, the image is f·s/(s − f) behind the lens.
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


def frozen(brief, look):
    """Until the image of a mover has run, or grown, by what still counts as sharp."""
    mode, mover = brief.mode, look.mover
    short_um = min(mode.width_px, mode.height_px) * mode.pixel_pitch_um
    diagonal_um = math.hypot(mode.width_px, mode.height_px) * mode.pixel_pitch_um
    own = look.sharp.value
    tolerated = {
        "circle": diagonal_um / (own or 1500),
        "pixel": (own or 2) * mode.pixel_pitch_um,
        "output": (own or 2) * short_um / min(brief[OUTPUT].size_px),
    }[look.sharp.by]
    left = 1.0 if look.pan is None else look.pan
    crossing = math.inf
    if mover.angle_deg:
        slowed = type(mover)(mover.speed_m_s * left, mover.distance_m, mover.angle_deg)
        crossing = tolerated / rate_um_s(brief, slowed)
    towards = abs(mover.speed_m_s * math.cos(math.radians(mover.angle_deg)))
    grown = tolerated * mover.distance_m / (towards * (look.off_axis * short_um + tolerated))
    return Bound("shutter", high=min(crossing, grown if towards > 1e-6 else math.inf))


def shown(brief, look):
    """Between the shortest and the longest streak, the gaps between frames counted."""
    frames, mode = brief[FRAMES], brief.mode
    length = look.in_force("width_m")
    if frames.combine == "median":
        covered = 1 + math.floor(length / look.speed_m_s / frames.gap_s)
        gone = look.look == "vanish" and frames.count >= max(7, 3 * covered)
        return Bound("shutter", low=0.0 if gone else 1e9, shows=not gone)
    if frames.combine == "blend":
        frames = replace(frames, count=1)
    if frames.count > 1 and look.speed_m_s * frames.gap_s >= length / 2:
        return Bound("shutter", low=1e9, shows=True)

    def each(elapsed):
        return max((elapsed - (frames.count - 1) * frames.gap_s) / frames.count, 1e-6)

    if look.look == "vanish":
        contrast = abs(2**look.background_stops - 1)
        width = look.in_force("width_m")
        return Bound("shutter", low=each(width * contrast / (0.02 * look.speed_m_s)), shows=True)
    short_um = min(mode.width_px, mode.height_px) * mode.pixel_pitch_um
    spans = [
        None if share is None else share * short_um / rate_um_s(brief, look.mover)
        for share in look.shares
    ]
    # Distant water is judged by the ripples that pass, where that is sooner.
    periods = {"texture": 1, "soft": 5, "glass": 30}.get(look.look)
    drawn_um = 1000 * brief.lens.focal_mm * length / (look.distance_m - brief.lens.focal_mm / 1000)
    if periods and drawn_um <= 0.05 * short_um:
        spans[0] = min(spans[0], periods * math.sqrt(2 * math.pi * length / 9.81))
    low, high = (None if span is None else each(span) for span in spans)
    return Bound("shutter", low=low or 0.0, high=high or math.inf, shows=low is not None)


def noise_bounds(brief):
    """Highest ISO at which subject and darkest detail are clean enough, found by halving."""
    floor, aim = brief[OUTPUT].snr_floor, exposure_aim(brief).ev100
    if floor is None:
        return
    subjects = [r.ev100 - aim for r in wanted_of(brief) if r.role in ("subject", "neutral")]
    dark = [r.ev100 - aim for r in wanted_of(brief) if r.role == "keep-dark"]
    wanted = []
    if brief[STRATEGY].exposure != "silhouette":
        wanted.append((min(subjects, default=0.0), floor))
    if dark and not brief[STRATEGY].grainy_dark:
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
    frames = brief[FRAMES]
    # A median keeps 2/π of what a mean gains; two blended frames gain nothing.
    count = {"median": int(frames.count * 2 / math.pi), "blend": 1}.get(
        frames.combine, frames.count
    )
    noise = math.sqrt((n + read**2) / max(1, count) + (sensor.prnu_share * n) ** 2)
    width, height = brief[OUTPUT].size_px
    return n / noise * math.sqrt(max(1.0, mode.width_px * mode.height_px / (width * height)))
