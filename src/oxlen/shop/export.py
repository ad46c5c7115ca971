"""A shop series handed over: every picture made to match, named by a pattern, with a list."""

from __future__ import annotations

import csv
import io
import math
import re
import string
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any
from zipfile import ZIP_STORED, ZipFile

import numpy as np
from PIL import Image

from oxlen.core.errors import BadInput, OxlenError
from oxlen.core.light.meter import Spot
from oxlen.core.series.matching import Recipe, matched, with_common_crop
from oxlen.core.series.white import WhiteCurve
from oxlen.pictures.opening import open_picture
from oxlen.shop.check_files import checked_file, look_at
from oxlen.shop.kept_settings import settings_only
from oxlen.shop.uses import ENDINGS, FULL, Use, written_for

PATTERN_FIELDS = ("number", "name", "view", "use")
WIDTH = re.compile(r"(0?\d{1,2})?d?")
LIST, CONTACT_SHEET = "series.csv", "contact-sheet.pdf"
COLUMNS = ("number", "name", "view", "files", "from", "verdict", "reasons", "held_stops")
LARGEST_PX, CONTACT_PX = 20_000, 320
Sink = Callable[[str, bytes], None]
"""Where a file goes: its name, with folders, and its bytes."""


@dataclass(frozen=True)
class SeriesPicture:
    """A picture to hand over: its file, what it shows, and what makes it match.

    Without a recipe it is left out, and `why` says so. `position` counts from 1.
    """

    path: Path
    source: str
    position: int
    recipe: Recipe | None
    number: str = ""
    name: str = ""
    view: str = ""
    reasons: tuple[str, ...] = ()
    why: str = ""


@dataclass(frozen=True)
class HandOver:
    """How a series is handed over; `white` is None where backgrounds stay as they are.

    Exposure and time go along where `keeps_settings`; place, owner and serial numbers never do.
    """

    pattern: str = "{number:02d}"
    uses: tuple[Use, ...] = (FULL,)
    white: WhiteCurve | None = None
    keeps_settings: bool = False

    def file_name(self, picture: SeriesPicture, use: Use) -> str:
        """The name of a picture's file for a use. BadInput for a pattern that cannot be filled.

        `{number}` is the thing's own number, or its place in the list.
        """
        number = picture.number
        given = {
            "number": int(number) if number.isdecimal() else number or picture.position,
            "name": _plain(picture.name or Path(picture.source).stem),
            "view": _plain(picture.view),
            "use": use.id,
        }
        # Several views of a thing have a name each, whether the pattern says so or not.
        pattern = self.pattern if "{view" in self.pattern else f"{self.pattern}-{{view}}"
        try:
            stem = _Filled().format(pattern, **given).strip("-_ ")
        except (KeyError, IndexError, ValueError, AttributeError) as error:
            fields = ", ".join(f"{{{field}}}" for field in PATTERN_FIELDS)
            words = f"The pattern {self.pattern} may only use {fields}."
            raise BadInput(words, "name") from error
        if not stem or "/" in stem or "\0" in stem or stem.startswith("."):
            raise BadInput(f"{stem} is no file name.", "name")
        folder = f"{use.id}/" if len(self.uses) > 1 else ""
        return f"{folder}{stem}{ENDINGS[use.kind]}"


@dataclass(frozen=True)
class Exported:
    """A picture as handed over; `file` is "" and `why` says so where it was left out."""

    source: str
    file: str
    reasons: tuple[str, ...] = ()
    held_stops: float = 0.0
    why: str = ""
    files: tuple[str, ...] = ()


class _Filled(string.Formatter):
    """Names alone, and for numbers a width; one with letters has none: 7b stays 7b."""

    def get_field(
        self, field_name: str, _args: Sequence[Any], kwargs: Mapping[str, Any]
    ) -> tuple[Any, str]:
        """A field by its whole name: nothing of what it is made of."""
        return kwargs[field_name], field_name

    def format_field(self, value: object, format_spec: str) -> str:
        """A number by its width, text as it is. ValueError for a width over two digits."""
        if WIDTH.fullmatch(format_spec) is None:
            raise ValueError(format_spec)
        return str(value) if isinstance(value, str) else str(format(value, format_spec))


def export_files(
    files: Sequence[Path],
    reference: Path,
    to: HandOver,
    *,
    sink: Sink,
    grey: Spot | None = None,
    progress: Callable[[int], None] = lambda _: None,
) -> list[Exported]:
    """Compare files with the reference and hand over all that can be made to match."""
    wanted = look_at(reference, grey)
    checked = [checked_file(path, path.name, wanted, grey=grey) for path in files]
    recipes = iter(
        with_common_crop((each.recipe for each in checked if each.recipe), wanted.lost.shape)
    )
    pictures = [
        SeriesPicture(
            path=path,
            source=path.name,
            position=number,
            recipe=next(recipes) if each.recipe else None,
            reasons=() if each.difference is None else each.difference.reasons,
            why=each.why,
        )
        for number, (path, each) in enumerate(zip(files, checked, strict=True), start=1)
    ]
    return hand_over(pictures, to, sink, progress=progress)


def hand_over(
    pictures: Sequence[SeriesPicture],
    to: HandOver,
    sink: Sink,
    *,
    progress: Callable[[int], None] = lambda _: None,
) -> list[Exported]:
    """Write every picture once for each use, the list and a contact sheet; one open at a time.

    BadInput where two pictures would have the same name. One that cannot be read is left out.
    """
    from oxlen.cards.contact_sheet import Contact, contact_sheet_pdf  # slow to load

    refuse_same_names(pictures, to)
    done, contacts = [], []
    for picture in pictures:
        exported, small = _written(picture, to, sink)
        done.append(exported)
        if small is not None:
            caption = picture.name or Path(exported.file).stem
            contacts.append(Contact(picture.number or str(picture.position), caption, small))
        progress(len(done))
    sink(LIST, _list(pictures, done))
    sink(CONTACT_SHEET, contact_sheet_pdf(contacts))
    return done


def refuse_same_names(pictures: Sequence[SeriesPicture], to: HandOver) -> list[str]:
    """The names of all files. BadInput where two are the same, whatever their case."""
    names = [to.file_name(picture, use) for picture in pictures for use in to.uses]
    if len({name.casefold() for name in names}) < len(names):
        raise BadInput(f"The pattern {to.pattern} gives two pictures the same name.", "name")
    return names


def folder_sink(folder: Path, names: Iterable[str]) -> Sink:
    """A folder that files are written to; BadInput where one is there already."""
    there = [name for name in (*names, LIST, CONTACT_SHEET) if (folder / name).exists()]
    if there:
        raise BadInput(f"{there[0]} is in the folder already. Choose an empty one.", "out")

    def write(name: str, contents: bytes) -> None:
        (folder / name).parent.mkdir(parents=True, exist_ok=True)
        (folder / name).write_bytes(contents)

    return write


def zip_sink(archive: ZipFile) -> Sink:
    """A zip that files are added to; pictures are compressed already."""

    def write(name: str, contents: bytes) -> None:
        archive.writestr(name, contents, compress_type=ZIP_STORED)

    return write


def _written(
    picture: SeriesPicture, to: HandOver, sink: Sink
) -> tuple[Exported, Image.Image | None]:
    """One picture for every use, and small for the contact sheet."""
    how = picture.recipe
    if how is None:
        return Exported(picture.source, "", picture.reasons, why=picture.why), None
    try:
        with open_picture(picture.path, picture.source) as opened:
            codes = np.asarray(opened.quick_preview(_side_px(to.uses, how)))
            exif = settings_only(opened.exposure, picture.name) if to.keeps_settings else None
    except OxlenError as error:
        return Exported(picture.source, "", picture.reasons, why=error.message), None
    made = matched(codes, how, to.white)
    names = tuple(to.file_name(picture, use) for use in to.uses)
    for use, name in zip(to.uses, names, strict=True):
        sink(name, written_for(made, use, exif))
    small = Image.fromarray(made).reduce(max(1, max(made.shape) // CONTACT_PX))
    exported = Exported(
        picture.source, names[0], picture.reasons, held_stops=how.held_stops, files=names
    )
    return exported, small


def _side_px(uses: Sequence[Use], how: Recipe) -> int:
    """How large a picture is read: no larger than the largest use needs after crop and zoom."""
    sides = [use.side_px for use in uses]
    if None in sides:
        return LARGEST_PX
    left, top, right, bottom = how.crop
    share = min(right - left, bottom - top) / max(how.zoom, 1.0)
    return min(LARGEST_PX, math.ceil(max(side for side in sides if side) / share))


def _list(pictures: Sequence[SeriesPicture], done: Sequence[Exported]) -> bytes:
    file = io.StringIO(newline="")
    rows = csv.writer(file)
    rows.writerow(COLUMNS)
    for picture, each in zip(pictures, done, strict=True):
        verdict = "left out" if each.why else "matched"
        reasons = each.why or " ".join(each.reasons)
        number = picture.number or str(picture.position)
        files, held = " ".join(each.files), f"{each.held_stops:.2f}"
        row = (number, picture.name, picture.view, files, each.source, verdict, reasons, held)
        rows.writerow([_harmless(cell) for cell in row])
    return file.getvalue().encode()


def _harmless(cell: str) -> str:
    """Text that a spreadsheet does not take for a formula."""
    return f"'{cell}" if cell[:1] in ("=", "+", "-", "@") and not _is_number(cell) else cell


def _is_number(cell: str) -> bool:
    return re.fullmatch(r"[-+]?\d+(\.\d+)?", cell) is not None


def _plain(text: str) -> str:
    """A name as part of a file name: spaces become hyphens, what no system takes goes."""
    kept = re.sub(r'[\x00-\x1f<>:"/\\|?*{}]+', "", text).strip()
    return re.sub(r"\s+", "-", kept)[:80]
