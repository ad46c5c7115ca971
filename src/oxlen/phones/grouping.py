"""Files of one phone sorted by lens and by the pixels they hold; what does not fit is named."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from oxlen.core.errors import BadInput
from oxlen.phones.file_facts import FileFacts

SAME_FOCAL, SAME_APERTURE = 0.02, 0.03
SAME_SIDE = 0.035
"""A raw file's sides may be so much longer than those of the processed file beside it."""
UNZOOMED = 1.03
ROUND_CROPS = (1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 8.0, 10.0)
"""Crops that phones offer as a button of their own; any other zoom is somebody's fingers."""
SAME_CROP = 0.02
ASPECTS = (4 / 3, 3 / 2, 16 / 9, 1.0, 2.0, 19.5 / 9, 20 / 9, 21 / 9, 5 / 4)
SAME_ASPECT = 0.015
MAIN_MM = 26.0


@dataclass
class FoundMode:
    """Files of one pixel count, RAW and processed together."""

    long_px: int
    short_px: int
    files: list[FileFacts] = field(default_factory=list)

    @property
    def megapixels(self) -> float:
        """Millions of pixels written."""
        return self.long_px * self.short_px / 1e6


@dataclass
class FoundLens:
    """A lens as files tell it; `crop` is above 1 where only the middle of its sensor is written."""

    focal_mm: float | None
    focal35_mm: float | None
    f_number: float | None
    named: str
    crop: float = 1.0
    modes: list[FoundMode] = field(default_factory=list)
    files: list[FileFacts] = field(default_factory=list)


@dataclass(frozen=True)
class Sorted:
    """A phone's files by lens, the main one first; `notes` say what was left out and why."""

    make: str
    model: str
    lenses: tuple[FoundLens, ...]
    files: tuple[FileFacts, ...]
    notes: tuple[str, ...]


def sort_files(files: Sequence[FileFacts]) -> Sorted:
    """Sort a phone's files; BadInput when they tell of no lens, or come from two phones."""
    known_files = [facts for facts in files if facts.has_lens]
    notes = [_no_lens(facts) for facts in files if not facts.has_lens]
    if not known_files:
        raise BadInput(
            " ".join([*notes, "No picture among these tells of a lens; take them from the phone"])
            + " as files, not as screenshots or from a message.",
            "files",
        )
    make, model = _one_phone(known_files)
    groups: list[list[FileFacts]] = []
    for facts in sorted(known_files, key=lambda file: file.focal35_mm or 0.0):
        near = next((group for group in groups if _same_optics(group[0], facts)), None)
        if near is None:
            groups.append([facts])
        else:
            near.append(facts)
    lenses = [lens for group in groups for lens in _lenses(group, notes)]
    for lens in lenses:
        lens.modes = _modes(lens, notes)
    ordered = sorted((lens for lens in lenses if lens.modes), key=_from_main)
    if not ordered:
        raise BadInput(" ".join([*notes, "None of these pictures is complete."]), "files")
    return Sorted(make, model, tuple(ordered), files=tuple(known_files), notes=tuple(notes))


def _no_lens(facts: FileFacts) -> str:
    return (
        f"{facts.name} has no lens data (a screenshot or a copy from a message?). It was left out."
    )


def _one_phone(files: Sequence[FileFacts]) -> tuple[str, str]:
    """Maker and model; BadInput names the phones where there are two."""
    by_phone: dict[tuple[str, str], list[FileFacts]] = {}
    for file in files:
        if any(file.phone):
            key = (file.phone[0].casefold().strip(), file.phone[1].casefold().strip())
            by_phone.setdefault(key, []).append(file)
    if len(by_phone) > 1:
        named = "; ".join(
            f"{' '.join(filter(None, found[0].phone))}: {', '.join(f.name for f in found[:4])}"
            for found in by_phone.values()
        )
        raise BadInput(
            f"These pictures are from {len(by_phone)} phones. Add one phone at a time: {named}.",
            "files",
        )
    return next(iter(by_phone.values()))[0].phone if by_phone else ("", "")


def _same_optics(a: FileFacts, b: FileFacts) -> bool:
    """Whether two files came through the same lens; a zoom in pixels changes neither figure."""
    if a.focal_mm is None or b.focal_mm is None:
        return (a.focal35_mm, a.f_number, a.lens) == (b.focal35_mm, b.f_number, b.lens)
    if abs(a.focal_mm / b.focal_mm - 1) > SAME_FOCAL or a.is_front != b.is_front:
        return False
    return not (a.f_number and b.f_number) or abs(a.f_number / b.f_number - 1) <= SAME_APERTURE


def _lenses(group: list[FileFacts], notes: list[str]) -> Iterable[FoundLens]:
    """The lens of a group, and its crops that a phone offers as if they were lenses."""
    native = _native_f35(group)
    first = group[0]
    by_crop: dict[float, list[FileFacts]] = {}
    for file in group:
        crop = _crop(file, native)
        known = next((c for c in ROUND_CROPS if abs(crop / c - 1) <= SAME_CROP), None)
        if crop < UNZOOMED:
            by_crop.setdefault(1.0, []).append(file)
        elif known is None:
            notes.append(f"{file.name} has {crop:.2g}× digital zoom. Only its lens is used.")
        else:
            by_crop.setdefault(known, []).append(file)
    for crop, files in sorted(by_crop.items()):
        focal35 = None if native is None else native * crop
        f_number = next((f.f_number for f in files if f.f_number), None)
        yield FoundLens(first.focal_mm, focal35, f_number, named=first.lens, crop=crop, files=files)


def _native_f35(group: list[FileFacts]) -> float | None:
    """The 35 mm-equivalent of the whole sensor: the shortest, zoom in pixels undone."""
    values = [
        file.focal35_mm / (file.zoom if _zooms_f35(file, group) else 1.0)
        for file in group
        if file.focal35_mm
    ]
    return min(values, default=None)


def _zooms_f35(facts: FileFacts, group: list[FileFacts]) -> bool:
    """Whether the phone multiplies f35 by its zoom; some leave it as it is."""
    reported, zoom = facts.focal35_mm or 0.0, facts.zoom
    if zoom < UNZOOMED:
        return False
    plain = [f.focal35_mm for f in group if f.zoom < UNZOOMED]
    return not any(p is not None and abs(reported / p - 1) < SAME_CROP for p in plain)


def _crop(facts: FileFacts, native: float | None) -> float:
    by_f35 = 1.0
    if native is not None and facts.focal35_mm is not None:
        by_f35 = facts.focal35_mm / native
    return max(by_f35, facts.zoom)


def _modes(lens: FoundLens, notes: list[str]) -> list[FoundMode]:
    """Its pixel counts, the one most used first; edited files and other aspects kept apart."""
    whole = [file for file in lens.files if file.long_px and file.short_px]
    for facts in lens.files:
        if facts not in whole:
            notes.append(f"{facts.name} is cut short. Only its lens is used.")
    edited = [facts for facts in whole if facts.is_edited]
    notes.extend(f"{facts.name} was edited. Only its lens is used." for facts in edited)
    sizes = sorted((facts for facts in whole if facts not in edited), key=_area, reverse=True)
    modes: list[FoundMode] = []
    for facts in sizes:
        long_px, short_px = facts.long_px or 0, facts.short_px or 0
        same = next((mode for mode in modes if _same_sides(mode, long_px, short_px)), None)
        if same is not None:
            same.files.append(facts)
        elif any(_is_aspect_of(mode, long_px, short_px) for mode in modes):
            notes.append(_aspect_words(facts, modes))
        else:
            modes.append(FoundMode(long_px, short_px, [facts]))
    for mode in modes:
        mode.long_px, mode.short_px = _usual_sides(mode)
    return sorted(modes, key=lambda mode: (-len(mode.files), mode.megapixels))


def _area(facts: FileFacts) -> int:
    return (facts.long_px or 0) * (facts.short_px or 0)


def _same_sides(mode: FoundMode, long_px: int, short_px: int) -> bool:
    return (
        abs(long_px / mode.long_px - 1) <= SAME_SIDE
        and abs(short_px / mode.short_px - 1) <= SAME_SIDE
    )


def _is_aspect_of(mode: FoundMode, long_px: int, short_px: int) -> bool:
    """Whether one side is the mode's and the other shorter: cut, not another count of pixels."""
    same_long = abs(long_px / mode.long_px - 1) <= SAME_SIDE and short_px < mode.short_px
    same_short = abs(short_px / mode.short_px - 1) <= SAME_SIDE and long_px < mode.long_px
    return same_long or same_short


def _aspect_words(facts: FileFacts, modes: list[FoundMode]) -> str:
    long_px, short_px = facts.long_px or 1, facts.short_px or 1
    whole = next(mode for mode in modes if _is_aspect_of(mode, long_px, short_px))
    lost = 1 - long_px * short_px / (whole.long_px * whole.short_px)
    ratio = long_px / short_px
    if any(abs(ratio / aspect - 1) <= SAME_ASPECT for aspect in ASPECTS):
        return f"{facts.name} has another aspect, which crops {lost:.0%} of the pixels."
    return f"{facts.name} is cropped. Only its lens is used."


def _usual_sides(mode: FoundMode) -> tuple[int, int]:
    """The sides that most processed files have; those of the RAW where there are no others."""
    processed = [file for file in mode.files if file.kind == "processed"] or mode.files
    counted = Counter((facts.long_px or 0, facts.short_px or 0) for facts in processed)
    return counted.most_common(1)[0][0]


def _from_main(lens: FoundLens) -> tuple[bool, bool, float]:
    """The main lens first: uncropped, at the back, nearest to 26 mm; then the others by length."""
    front = "front" in lens.named.lower()
    away = abs((lens.focal35_mm or MAIN_MM) / MAIN_MM - 1)
    return front, lens.crop > 1, away
