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
        why="Series and averaged water need to know how long nothing is recorded.",
        steps=(
            "Set the shutter by hand to 1/10 s or longer, and the format you shoot series in.",
            "Shoot a dozen frames in one run, as fast as the phone goes.",
            "Drop all of them here. Only their time stamps are read.",
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
        why="Storage and bursts are worked from it.",
        steps=(
            "Choose five ordinary pictures of one format and pixel count, busy ones among them.",
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
        why="It says how many bands a pulsing lamp leaves, and how far fast things lean.",
        steps=(
            "Light a white wall with a lamp that pulses: most mains LEDs do, twice the mains.",
            "Set the shutter by hand to 1/1000 s, and ISO until the wall is mid grey.",
            "Fill the frame with the wall and take four pictures.",
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
        why="Every reading of light from this phone's pictures is shifted by it.",
        steps=(
            "Put a grey card in even light and read it with a meter or a phone you trust, as EV at "
            "ISO 100.",
            "Fill the middle of the frame with the card and take three RAW pictures by hand, a "
            "third of a stop apart.",
            "No card? A clear north sky at noon reads about the same across its middle.",
        ),
        sharpens=("meter_offset_stops",),
        work=works.meter,
        sample=samples.card_sample,
        least_files=1,
        questions=(
            Question("known_ev100", "Light on the card", "EV100", low=-8, high=20),
            Question("known_plus_minus", "It may be off by", "stops", low=0, high=2, usual=0.1),
        ),
        about=("ev100",),
    ),
    Measurement(
        "headroom",
        "Headroom",
        minutes=3,
        why="It says how bright a thing may be before it turns white.",
        steps=(
            "Fill the frame with an evenly lit white wall, the phone on a support, ISO by hand.",
            "Shoot RAW and processed together, from two stops darker than mid grey to four "
            "brighter, a third of a stop apart.",
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
        why="Dials differ: the same number looks warmer on one phone than on another.",
        steps=(
            "Put a grey card under a lamp whose Kelvin you know, or under a clear midday sun.",
            "Dial white balance near that Kelvin and take three processed pictures of the card.",
        ),
        sharpens=("white.offset_mired",),
        work=works.dial,
        sample=samples.cast_sample,
        least_files=1,
        questions=(Question("lamp_k", "Kelvin of the lamp", "K", low=1500, high=20_000),),
        about=("taken_at_k", "cast_mired"),
    ),
    Measurement(
        "noise",
        "Noise and full well",
        minutes=8,
        why="How dark a scene may be, and how far a shadow may be lifted, follow from it.",
        steps=(
            "RAW only. Fill the frame with an even wall, out of focus, the phone on a support.",
            "At your lowest ISO, and at four and sixteen times that: two frames alike at mid grey "
            "and two frames alike a stop and a half brighter.",
            "At each of those ISOs two frames with the lens covered tightly, 1/50 s.",
        ),
        sharpens=("full_well_e", "read_noise_e"),
        work=works.noise,
        sample=samples.flat_sample,
        least_files=4,
        about=("iso", "shutter_s", "level"),
    ),
    Measurement(
        "hand",
        "Your hand",
        minutes=8,
        why="How long you hold still decides every picture without a support.",
        steps=(
            "Stand four metres from a wall with fine detail, bricks or bark, in good light.",
            f"By hand, six shots at each of {SERIES_OF_TIMES}, ISO lowered as the time grows.",
            "Hold as you always do. Drop all of them here; the blur is measured in each.",
        ),
        sharpens=("stabiliser_stops",),
        work=works.in_the_hand,
        sample=samples.hand_sample,
        least_files=12,
    ),
    Measurement(
        "braced",
        "Braced on something",
        minutes=8,
        why="What a rail or a doorpost is worth is yours to know.",
        steps=(
            "The same wall, the phone pressed against a rail, a post or your knee.",
            "Six shots at each of 1/15, 1/8, 1/4, 1/2, 1, 2, 4 and 8 s.",
            "Measure your hand first: this is told as stops beyond it.",
        ),
        sharpens=("braced_stops",),
        work=works.braced,
        sample=samples.hand_sample,
        least_files=12,
    ),
    Measurement(
        "tripod",
        "On your tripod",
        minutes=8,
        why="Light tripods shake under a thumb and in wind; most hold still.",
        steps=(
            "The same wall, the phone on your tripod, released as you always do.",
            "Two shots at each of 1/15, 1/8, 1/4, 1/2, 1, 2, 4 and 8 s.",
        ),
        sharpens=("tripod_stops",),
        work=works.on_tripod,
        sample=samples.hand_sample,
        least_files=12,
    ),
    Measurement(
        "computed",
        "A mode the phone computes",
        minutes=5,
        why="Night, filter and stacking modes put frames together: how many, and how far apart?",
        steps=(
            "In the dark, the phone on a support: start the mode at its longest and move a small "
            "lamp evenly across the frame. Time it with a watch.",
            "Then take one picture of an even wall in the mode, and one ordinary one.",
        ),
        sharpens=("computed.frames", "computed.gap_s", "computed.longest_s"),
        work=works.computed,
        sample=samples.computed_sample,
        least_files=1,
        questions=(Question("took_s", "It took, by the watch", "s", low=0.2, high=3600),),
        about=("noise_share",),
        of_computed=True,
    ),
    Measurement(
        "battery",
        "Battery",
        minutes=10,
        why="Long runs end when the charge does, sooner in the cold.",
        steps=(
            "Note the charge, shoot a series for ten minutes with the screen as you keep it, and "
            "note it again.",
        ),
        sharpens=("handling.battery_percent_per_min",),
        work=works.charge,
        questions=(
            Question("start_percent", "Charge at the start", "%", low=0, high=100),
            Question("end_percent", "Charge at the end", "%", low=0, high=100),
            Question("minutes", "Minutes", "min", low=0.5, high=600, usual=10),
        ),
    ),
)


def measurement(kind: str) -> Measurement:
    """The measurement of that id; NotFound names those there are."""
    found = next((one for one in MEASUREMENTS if one.id == kind), None)
    if found is None:
        known = ", ".join(one.id for one in MEASUREMENTS)
        raise NotFound(f"There is no measurement named {kind}; there are {known}.")
    return found
