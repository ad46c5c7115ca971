"""Practising on a mystery phone: its profile as files tell it, its pictures, its true figures."""

from __future__ import annotations

import hashlib
import math
import re
import tempfile
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Any

import numpy as np

from oxlen.core.errors import BadInput
from oxlen.core.hold.hand import Support
from oxlen.devices.standins import mystery_pictures as pictures
from oxlen.devices.standins import mystery_shots as shots
from oxlen.devices.standins.mystery_phone import MysteryPhone, cropped, mystery_phone, own_filter
from oxlen.devices.standins.mystery_pictures import PictureFile
from oxlen.formats.phone.answers import PhoneAnswers
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.phones.answers import answered
from oxlen.phones.file_facts import file_facts
from oxlen.phones.from_files import phone_from
from oxlen.phones.measuring.catalogue import measurement
from oxlen.phones.measuring.samples import MIDDLE

PRACTICE_ID = re.compile(r"^mystery-(\d{1,4})$")
SMALL = (640, 480)
"""Evenly lit walls need few pixels to be measured."""
CARD_EV100, PULSE_HZ, ROW_SHUTTER_S = 11.0, 100.0, 0.1
LAMP_K, LAMP_DIALS_K = 4000.0, (3900.0, 4000.0, 4100.0)
FILTER_S, BATTERY_MIN = 20.0, 30.0
HAND_SHOTS = 48
NOTE = (
    "A practice phone. The bench shoots its pictures and shows the true values after a measurement."
)
Sampled = tuple[str, str, dict[str, Any]]


def practice_profile(seed: int, date: str) -> PhoneProfile:
    """What everyday files of a mystery phone show, with its manual mode's ends given."""
    phone = mystery_phone(seed)
    with tempfile.TemporaryDirectory() as folder:
        facts = [
            file_facts(_written(Path(folder), picture), picture.name)
            for picture in pictures.everyday(phone)
        ]
    ladder = phone.profile.ladders["by-hand"]
    stated = PhoneAnswers(
        iso_low=ladder.iso[0],
        iso_high=ladder.iso[-1],
        shutter_fastest_s=ladder.shutter_s[0],
        shutter_slowest_s=ladder.shutter_s[-1],
    )
    made = answered(phone_from(facts, date=date).profile, stated, date=date)
    lens_id = made.lenses[0].id
    named = {"id": f"mystery-{seed}", "note": NOTE, "computed": [own_filter(lens_id)]}
    return PhoneProfile.model_validate({**made.model_dump(), **named})


def _noise(phone: MysteryPhone) -> Iterator[PictureFile]:
    base = phone.mode.sensor.base_iso
    return pictures.flats(cropped(phone, SMALL), [base, 4 * base, 16 * base])


def _headroom(phone: MysteryPhone) -> Iterator[PictureFile]:
    return pictures.wall_bracket(cropped(phone, SMALL), [k / 3 for k in range(-3, 13)])


def _shots(support: Support) -> Callable[[MysteryPhone], Iterator[PictureFile]]:
    def taken(phone: MysteryPhone) -> Iterator[PictureFile]:
        lowest = {"handheld": -1.0, "braced": 0.0, "tripod": 2.5}[support]
        times = 2.0 ** np.linspace(lowest, lowest + 6.5, HAND_SHOTS) / phone.lens.focal35_mm
        return pictures.hand_shots(phone, [float(t) for t in times], support)

    return taken


BENCH: dict[str, Callable[[MysteryPhone], Iterator[PictureFile]]] = {
    "pace": lambda phone: pictures.shot_in_a_row(phone, ROW_SHUTTER_S, 12),
    "readout": lambda phone: pictures.lamp_bands(cropped(phone, SMALL), PULSE_HZ),
    "meter": lambda phone: pictures.grey_card(cropped(phone, SMALL), CARD_EV100),
    "headroom": _headroom,
    "noise": _noise,
    "hand": _shots("handheld"),
    "braced": _shots("braced"),
    "tripod": _shots("tripod"),
    "weight": lambda phone: shots.sized_files(phone, 8),
    "dial": lambda phone: shots.lamplit_card(cropped(phone, SMALL), LAMP_K, LAMP_DIALS_K),
    "computed": lambda phone: shots.own_filter_run(phone, FILTER_S),
    "battery": lambda _: iter(()),
}


def bench_given(phone_id: str, kind: str) -> dict[str, float]:
    """What the bench says of a measurement beside its pictures: its lamps, watch and gauge."""
    phone = practised(phone_id)
    left = 100.0 if phone is None else 90 - BATTERY_MIN * phone.hidden.battery_percent_per_min
    given: dict[str, dict[str, float]] = {
        "readout": {"pulse_hz": PULSE_HZ},
        "meter": {"known_ev100": CARD_EV100, "known_plus_minus": 0.05},
        "dial": {"lamp_k": LAMP_K},
        "computed": {"took_s": FILTER_S},
        "battery": {"start_percent": 90, "end_percent": round(left), "minutes": BATTERY_MIN},
    }
    return given.get(kind, {})


def practised(phone_id: str) -> MysteryPhone | None:
    """The mystery phone behind a practice phone's id; None for any other phone."""
    found = PRACTICE_ID.match(phone_id)
    return None if found is None else mystery_phone(int(found[1]))


def bench_samples(phone_id: str, kind: str) -> list[Sampled]:
    """The pictures of a measurement as the bench takes them: SHA-256, name, and what is read."""
    phone, taken = practised(phone_id), BENCH.get(kind)
    sample = measurement(kind).sample
    if phone is None or taken is None:
        raise BadInput("The bench has no pictures for this measurement.", "kind")
    if sample is None:
        return []
    found = []
    with tempfile.TemporaryDirectory() as folder:
        for picture in taken(phone):
            path = _written(Path(folder), picture)
            digest = hashlib.sha256(picture.content).hexdigest()
            found.append((digest, picture.name, sample(path, picture.name, MIDDLE)))
            path.unlink()
    return found


def truth_words(phone_id: str, paths: Sequence[str]) -> list[str]:
    """The true values of figures of a practice phone, for once a measurement has ended."""
    phone = practised(phone_id)
    if phone is None:
        return []
    lens, hidden = phone.profile.lenses[0], phone.hidden
    mode = lens.modes[0]
    true: dict[str, str] = {
        "full_well_e": f"full well {mode.full_well_e:,.0f} e⁻ at ISO {mode.base_iso:g}",
        "read_noise_e": f"read noise {mode.read_noise_e[0][1]:.2f} e⁻ at ISO {mode.base_iso:g}",
        "processed": f"headroom {mode.headroom_stops.processed:.2f} stops processed",
        "raw": f"{mode.headroom_stops.raw:.2f} stops in RAW",
        "readout_s": f"readout {1000 * (mode.readout_s or 0):.1f} ms",
        "stabiliser_stops": f"your hand: {lens.stabiliser_stops:.2f} stops better than the rule",
        "braced_stops": f"braced: {lens.braced_stops:.2f} stops more",
        "meter_offset_stops": f"meter offset {phone.profile.meter_offset_stops:.2f} stops",
        "frame_gap_s": f"gap {hidden.frame_gap_s:.3f} s",
        "processed_mb": f"a usual frame {hidden.processed_mb:.1f} MB",
        "offset_mired": f"dial {hidden.dial_mired:+.0f} mired",
        "tripod_stops": f"tripod: {hidden.tripod_stops or math.inf:.1f} stops better than the rule",
        "frames": f"{hidden.computed_frames} frames",
        "gap_s": f"{hidden.computed_gap_s:.2f} s between them",
        "battery_percent_per_min": f"{hidden.battery_percent_per_min:.2f} % a minute",
    }
    named = (path.rsplit(".", 1)[-1] for path in paths)
    return [true[name].replace("-", "−") for name in named if name in true]


def _written(folder: Path, file: PictureFile) -> Path:
    path = folder / file.name
    path.write_bytes(file.content)
    return path
