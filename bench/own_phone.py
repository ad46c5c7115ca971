"""Mystery phones: how often measurements miss what is hidden, and reading files: `bench own-phone`.

Fifty seeds; each figure is the share of phones, in percent, outside what is promised.
"""

from __future__ import annotations

import math
import tempfile
from collections import defaultdict
from collections.abc import Iterable
from pathlib import Path

import numpy as np
import tifffile
from PIL import Image

from bench.harness.measure import Figure, Figures, in_turns
from oxlen.core.hold.hand import hand_limit_s
from oxlen.core.measures.hand_curve import HandShot, hand_curve
from oxlen.core.measures.measured import Figure as MeasuredFigure
from oxlen.devices.standins import mystery_pictures as pictures
from oxlen.devices.standins import mystery_shots as shots
from oxlen.devices.standins.mystery_phone import FILTER_ID, MysteryPhone, mystery_phone
from oxlen.devices.standins.mystery_pictures import PictureFile
from oxlen.phones.file_facts import facts_of
from oxlen.phones.from_files import phone_from
from oxlen.phones.measuring.catalogue import measurement
from oxlen.phones.measuring.measurement import subject_of
from oxlen.phones.measuring.samples import MIDDLE

SEEDS = range(50)
SIZE = (512, 384)
HAND_SHOTS = 48
Noted = dict[str, list[tuple[bool, bool]]]


def figures() -> Figures:
    """Shares outside and not covered, in percent, then the ratio of reading files."""
    noted: Noted = defaultdict(list)
    with tempfile.TemporaryDirectory() as folder:
        for seed in SEEDS:
            _measure(mystery_phone(seed, size=SIZE), Path(folder), noted)
    for name, found in noted.items():
        outside = 100 * float(np.mean([not within for within, _ in found]))
        uncovered = 100 * float(np.mean([not covered for _, covered in found]))
        yield Figure("own-phone/outside-%", outside, note=name)
        yield Figure("own-phone/uncovered-%", uncovered, note=name)
    yield from _reading()


def _measure(phone: MysteryPhone, folder: Path, noted: Noted) -> None:
    base, mode = phone.mode.sensor.base_iso, phone.mode
    found = _found(phone, folder, "noise", files=pictures.flats(phone, [base, 4 * base, 16 * base]))
    well = found["full_well_e"]
    _note(noted, "full well, 3 %", _share(well, mode.sensor.full_well_e), promised=0.03)
    table = found["read_noise_e"]
    for iso, value in table.value if isinstance(table.value, tuple) else ():
        true = float(mode.read_noise_at(float(iso)))
        _note(noted, "read noise, 10 %", (value / true - 1, table.plus_minus / true), promised=0.10)
    wall = pictures.wall_bracket(phone, [k / 3 for k in range(-3, 13)])
    found = _found(phone, folder, "headroom", files=wall)
    processed, raw = found["headroom_stops.processed"], found["headroom_stops.raw"]
    _note(noted, "headroom, 0.1 stop", _off(processed, mode.headroom_processed_stops), promised=0.1)
    _note(
        noted, "headroom of RAW, 0.1 stop", _off(raw, mode.sensor.headroom_raw_stops), promised=0.1
    )
    found = _found(
        phone, folder, "readout", files=pictures.lamp_bands(phone, 100.0), pulse_hz=100.0
    )
    _note(noted, "readout, 5 %", _share(found["readout_s"], mode.readout_s or 1.0), promised=0.05)
    found = _found(phone, folder, "pace", files=pictures.shot_in_a_row(phone, 0.1, 12))
    gap = found["files.frame_gap_s"]
    _note(noted, "gap, 5 %", _share(gap, phone.hidden.frame_gap_s), promised=0.05)
    known = 11.0 + 0.05 * float(np.random.default_rng(phone.seed).standard_normal())
    card = pictures.grey_card(phone, 11.0)
    found = _found(phone, folder, "meter", files=card, known_ev100=known, known_plus_minus=0.1)
    offset = found["meter_offset_stops"]
    _note(noted, "meter, 0.1 stop", _off(offset, phone.profile.meter_offset_stops), promised=0.1)
    _note(noted, "hand, 0.3 stop", _hand(mystery_phone(phone.seed)), promised=0.3)
    _measure_by_eye(phone, folder, noted)


def _measure_by_eye(phone: MysteryPhone, folder: Path, noted: Noted) -> None:
    """The dial under a lamp, frames and gaps of the phone's own filter, the weight of a frame."""
    hidden = phone.hidden
    card = shots.lamplit_card(phone, 4000.0, (3900.0, 4000.0, 4100.0))
    found = _found(phone, folder, "dial", files=card, lamp_k=4000.0)
    dial = _off(found["white.offset_mired"], hidden.dial_mired)
    _note(noted, "dial, 5 mired", dial, promised=5.0)
    run = shots.own_filter_run(phone, 20.0)
    found = _found(phone, folder, "computed", files=run, took_s=20.0)
    place = f"computed.{FILTER_ID}"
    frames = _off(found[f"{place}.frames"], hidden.computed_frames)
    _note(noted, "frames of a filter, all", frames, promised=0.5)
    gap = _off(found[f"{place}.gap_s"], hidden.computed_gap_s)
    _note(noted, "gap of a filter, 0.05 s", gap, promised=0.05)
    found = _found(phone, folder, "weight", files=shots.sized_files(phone, 8))
    # Its ± is meant for the next picture, which may be busier or plainer.
    luck = float(np.random.default_rng([phone.seed, 37]).standard_normal())
    size = found["files.processed_mb"]
    middle, doubt = _share(size, hidden.processed_mb)
    next_off = math.exp(shots.SPREAD_OF_SIZES * luck) - 1 - middle
    noted["frame's size, 15 %"].append((abs(middle) <= 0.15, abs(next_off) <= doubt))


def _hand(phone: MysteryPhone) -> tuple[float, float]:
    """How far off the hand's limit is, in stops, and its ±, from blur as it is."""
    draw = np.random.default_rng([phone.seed, 9])
    times = 2.0 ** np.linspace(-1, 5.5, HAND_SHOTS) / phone.lens.focal35_mm
    shots = [
        HandShot(float(t), pictures.blur_of_hand(phone, float(t), support="handheld", draw=draw))
        for t in times
    ]
    sharp_px = math.hypot(phone.mode.width_px, phone.mode.height_px) / 1500
    curve = hand_curve(shots, sharp_px=sharp_px, floor_px=1.5)
    true_s = float(hand_limit_s(phone.lens.focal35_mm, phone.hidden.hand_stops))
    return math.log2(curve.limit_s / true_s), curve.plus_minus_stops


def _found(
    phone: MysteryPhone,
    folder: Path,
    kind: str,
    *,
    files: Iterable[PictureFile],
    **given: float,
) -> dict[str, MeasuredFigure]:
    measure = measurement(kind)
    samples = []
    for file in files:
        path = folder / file.name
        path.write_bytes(file.content)
        assert measure.sample is not None
        samples.append(measure.sample(path, file.name, MIDDLE))
        path.unlink()
    mode = FILTER_ID if measure.of_computed else "full"
    subject = subject_of(phone.profile, phone.profile.lenses[0].id, mode)
    return {figure.name: figure for figure in measure.measured(samples, given, subject).figures}


def _off(figure: MeasuredFigure, true: float) -> tuple[float, float]:
    value = figure.value if isinstance(figure.value, float) else 0.0
    return value - true, figure.plus_minus


def _share(figure: MeasuredFigure, true: float) -> tuple[float, float]:
    off, doubt = _off(figure, true)
    return off / true, doubt / true


def _note(noted: Noted, name: str, off: tuple[float, float], *, promised: float) -> None:
    noted[name].append((abs(off[0]) <= promised, abs(off[0]) <= off[1]))


def _reading() -> Figures:
    """Ten files of 12 megapixels: a profile of them against their tags and one small copy each."""
    phone = mystery_phone(5)
    with tempfile.TemporaryDirectory() as name:
        files: list[tuple[Path, str]] = []
        everyday = list(pictures.everyday(phone))
        for place in range(10):
            picture = everyday[place % len(everyday)]
            path = Path(name) / f"{place}-{picture.name}"
            path.write_bytes(picture.content)
            files.append((path, path.name))
        ratio = in_turns(
            lambda: phone_from(facts_of(files)[0], date="2026-01-01"),
            lambda: [_tags_and_preview(path) for path, _ in files],
        )
    yield ratio.figure("own-phone/profile-by-tags")


def _tags_and_preview(path: Path) -> int:
    if path.suffix == ".dng":
        with tifffile.TiffFile(path) as file:
            return len([tag.value for tag in file.pages.first.tags if tag.count < 10_000])
    with Image.open(path) as image:
        image.getexif().get_ifd(0x8769)
        image.draft("RGB", (image.width // 8, image.height // 8))
        image.load()
        return image.width
