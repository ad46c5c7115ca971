"""The guided measurements, those that take least time first."""

from __future__ import annotations

from oxlen.core.errors import NotFound
from oxlen.phones.measuring import samples, works
from oxlen.phones.measuring.measurement import Measurement, Question

SERIES_OF_TIMES = "1/125, 1/60, 1/30, 1/15, 1/8, 1/4, 1/2 and 1 s"
PULSES = Question("pulse_hz", "Pulses of the lamp", "per second", low=20, high=40_000, usual=100)

MEASUREMENTS: tuple[Measurement, ...] = (
    Measurement(
        "pace",
        "Gap between frames",
        minutes=1,
        why="Series and averaged water depend on the gap.",
        steps=(
            "Set the shutter to 1/10 s or longer and choose the format for your series.",
            "Shoot 12 frames in a row, as fast as possible.",
            "Drop all of them here. Oxlen reads only their times.",
        ),
        sharpens=("files.frame_gap_s", "files.processed_fps", "files.raw_fps"),
        work=works.run,
        sample=samples.stamp_sample,
        least_files=4,
    ),
    Measurement(
        "weight",
        "Size of a frame",
        minutes=1,
        why="Storage and bursts depend on it.",
        steps=(
            "Choose 5 ordinary pictures of one format and size, some with much detail.",
            "Drop them here.",
        ),
        sharpens=("files.processed_mb", "files.raw_mb"),
        work=works.weight,
        sample=samples.weight_sample,
        least_files=2,
        about=("megabytes",),
    ),
    Measurement(
        "readout",
        "Rolling readout",
        minutes=2,
        why="It decides how many flicker bands show and how much fast things lean.",
        steps=(
            "Light a white wall with a pulsing lamp. Most mains LEDs pulse at twice the mains "
            "frequency.",
            "Set the shutter to 1/1000 s and the ISO so that the wall is mid grey.",
            "Fill the frame with the wall and take 4 pictures.",
        ),
        sharpens=("readout_s",),
        work=works.rolling,
        sample=samples.bands_sample,
        least_files=2,
        questions=(PULSES,),
    ),
    Measurement(
        "meter",
        "Meter offset",
        minutes=3,
        why="It corrects every reading from this phone's pictures.",
        steps=(
            "Put a grey card in even light and meter it with a meter or a phone you trust, as EV "
            "at ISO 100.",
            "Fill the centre of the frame with the card and take 3 RAW pictures with fixed "
            "settings, 1/3 stop apart.",
            "Without a card, use a clear north sky at noon.",
        ),
        sharpens=("meter_offset_stops",),
        work=works.meter,
        sample=samples.card_sample,
        least_files=1,
        questions=(
            Question("known_ev100", "Light on the card", "EV100", low=-8, high=20),
            Question("known_plus_minus", "Uncertainty", "stops", low=0, high=2, usual=0.1),
        ),
        about=("ev100",),
    ),
    Measurement(
        "headroom",
        "Headroom",
        minutes=3,
        why="It decides how bright something may be before it clips.",
        steps=(
            "Fill the frame with an evenly lit white wall. Phone on a support, fixed ISO.",
            "Shoot RAW and processed together, from 2 stops under mid grey to 4 over, 1/3 stop "
            "apart.",
            "Drop all of them here, in any order.",
        ),
        sharpens=("headroom_stops.processed", "headroom_stops.raw"),
        work=works.wall_headroom,
        sample=samples.wall_sample,
        least_files=5,
        about=("iso", "shutter_s", "level"),
    ),
    Measurement(
        "dial",
        "Kelvin dial",
        minutes=3,
        why="The same kelvin looks warmer on one phone than on another.",
        steps=(
            "Put a grey card under a lamp with known kelvin, or in clear midday sun.",
            "Set white balance near that kelvin and take 3 processed pictures of the card.",
        ),
        sharpens=("white.offset_mired",),
        work=works.dial,
        sample=samples.cast_sample,
        least_files=1,
        questions=(Question("lamp_k", "Lamp kelvin", "K", low=1500, high=20_000),),
        about=("taken_at_k", "cast_mired"),
    ),
    Measurement(
        "noise",
        "Noise and full well",
        minutes=8,
        why="It decides how dark a scene may be and how far shadows can be lifted.",
        steps=(
            "RAW only. Fill the frame with an even wall, out of focus. Phone on a support.",
            "At your lowest ISO, and at 4× and 16×: 2 equal frames at mid grey and 2 equal "
            "frames 1.5 stops brighter.",
            "At each of those ISOs 2 frames with the lens covered, 1/50 s.",
        ),
        sharpens=("full_well_e", "read_noise_e"),
        work=works.noise,
        sample=samples.flat_sample,
        least_files=4,
        about=("iso", "shutter_s", "level"),
    ),
    Measurement(
        "hand",
        "Handheld",
        minutes=8,
        why="It sets your safe shutter without a support.",
        steps=(
            "Stand 4 m from a wall with fine detail, such as bricks or bark, in good light.",
            f"Handheld, 6 shots at each of {SERIES_OF_TIMES}, lowering the ISO for longer times.",
            "Hold the phone as usual. Drop all of them here.",
        ),
        sharpens=("stabiliser_stops",),
        work=works.in_the_hand,
        sample=samples.hand_sample,
        least_files=12,
    ),
    Measurement(
        "braced",
        "Braced",
        minutes=8,
        why="It shows how much a rail or a doorpost helps.",
        steps=(
            "Same wall, the phone pressed against a rail, a post or your knee.",
            "6 shots at each of 1/15, 1/8, 1/4, 1/2, 1, 2, 4 and 8 s.",
            "Measure handheld first. This result is stops better than that.",
        ),
        sharpens=("braced_stops",),
        work=works.braced,
        sample=samples.hand_sample,
        least_files=12,
    ),
    Measurement(
        "tripod",
        "Tripod",
        minutes=8,
        why="Light tripods shake when touched and in wind.",
        steps=(
            "Same wall, the phone on your tripod, released as usual.",
            "2 shots at each of 1/15, 1/8, 1/4, 1/2, 1, 2, 4 and 8 s.",
        ),
        sharpens=("tripod_stops",),
        work=works.on_tripod,
        sample=samples.hand_sample,
        least_files=12,
    ),
    Measurement(
        "computed",
        "Computed mode",
        minutes=5,
        why="Night, filter and stacking modes combine frames. How many, and with what gap?",
        steps=(
            "In the dark, phone on a support: start the mode at its longest and move a small "
            "lamp evenly across the frame. Time it with a watch.",
            "Then take one picture of an even wall in the mode, and one ordinary one.",
        ),
        sharpens=("computed.frames", "computed.gap_s", "computed.longest_s"),
        work=works.computed,
        sample=samples.computed_sample,
        least_files=1,
        questions=(Question("took_s", "Time by watch", "s", low=0.2, high=3600),),
        about=("noise_share",),
        of_computed=True,
    ),
    Measurement(
        "battery",
        "Battery",
        minutes=10,
        why="It shows how long a series can run.",
        steps=(
            "Note the battery level, shoot a series for 10 min with your usual screen, and note "
            "it again.",
        ),
        sharpens=("handling.battery_percent_per_min",),
        work=works.charge,
        questions=(
            Question("start_percent", "Battery at start", "%", low=0, high=100),
            Question("end_percent", "Battery at end", "%", low=0, high=100),
            Question("minutes", "Minutes", "min", low=0.5, high=600, usual=10),
        ),
    ),
)


def measurement(kind: str) -> Measurement:
    """The measurement of that id; NotFound names those there are."""
    found = next((measure for measure in MEASUREMENTS if measure.id == kind), None)
    if found is None:
        known = ", ".join(measure.id for measure in MEASUREMENTS)
        raise NotFound(f"Unknown measurement {kind}. Use one of {known}.")
    return found
