"""A kept shop series in a worker: codes read, takes compared, and all of it handed over."""

from __future__ import annotations

import dataclasses
import io
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any
from zipfile import ZipFile

from PIL import Image
from pydantic import BaseModel

from oxlen.core.errors import NotFound
from oxlen.core.light.meter import Spot
from oxlen.core.series.framing import Framing
from oxlen.core.series.look import SeriesLook
from oxlen.core.series.matching import Recipe, matched, with_common_crop
from oxlen.core.series.next_step import NextStep, badness, next_step
from oxlen.core.series.white import white_curve
from oxlen.formats.shop_options import ASPECTS, ShopOptions
from oxlen.formats.shop_series import SeriesFileChecked, file_checked
from oxlen.shop.check_files import CheckedSeriesFile, checked_file, look_at, shown
from oxlen.shop.codes import thing_of_code
from oxlen.shop.export import HandOver, SeriesPicture, hand_over, zip_sink
from oxlen.shop.uses import use_of
from oxlen.store.library import Library
from oxlen.store.long_work import ProgressReporter
from oxlen.store.shop import keep_check

MEASURED = "1"
"""Which version of the measurement a kept result is of."""


class KeptRecipe(BaseModel):
    """What makes a take match, as it is kept."""

    gains: tuple[float, float, float]
    turn_deg: float
    zoom: float
    centre: tuple[float, float]
    middle: tuple[float, float]
    held_stops: float

    def recipe(self) -> Recipe:
        """As the core applies it."""
        return Recipe(**self.model_dump())


class KeptCheck(BaseModel):
    """What was measured of a take: how it differs, what to do, what makes it match.

    `badness` is how far over the worst limit it is, 1 at the limit; `same_shape` is False for a
    thing of another kind than the reference's.
    """

    checked: SeriesFileChecked
    next_step: NextStep
    badness: float
    same_shape: bool
    recipe: KeptRecipe | None


@dataclass(frozen=True)
class TakeToCheck:
    """A take to compare: its picture, the reference's, and the key its result is kept under."""

    take_id: int
    name: str
    sha256: str
    reference: str
    key: str


@dataclass(frozen=True)
class TakeToHandOver:
    """A take to hand over: its picture, what it shows, and what is kept of its check."""

    sha256: str
    source: str
    position: int
    number: str
    name: str
    view: str
    reference: str
    found: str | None


def check_key(sha256: str, reference: str, grey: Spot | None) -> str:
    """What a measurement depends on."""
    patch = "" if grey is None else f"{grey.x:.5f},{grey.y:.5f},{grey.r:.5f}"
    return f"{MEASURED}:{sha256}:{reference}:{patch}"


def codes_seen(folder: Path, pictures: Sequence[str]) -> list[str | None]:
    """The uid of the thing whose code is in each kept picture; None without a code."""
    library = Library(folder)
    return [thing_of_code(shown(library.picture_path(sha256))) for sha256 in pictures]


def check_shop_series(
    folder: Path, source: Path, takes: Sequence[TakeToCheck], *, grey: Spot | None
) -> Mapping[str, Any]:
    """Compare kept takes with their references and keep what was measured of each.

    Reports progress beside `source`. Cancelled where it is stopped: what is measured stays.
    """
    library, tell = Library(folder), ProgressReporter(source).tell
    for done, take in enumerate(takes):
        tell(done, len(takes))
        wanted = _reference(library.picture_path(take.reference), grey)
        path = library.picture_path(take.sha256)
        found = kept_of(checked_file(path, take.name, wanted, grey=grey))
        with library.writer() as connection:
            keep_check(connection, take.take_id, key=take.key, found=found.model_dump_json())
    tell(len(takes), len(takes))
    return {"measured": len(takes)}


def kept_of(checked: CheckedSeriesFile) -> KeptCheck:
    """A measurement as it is kept."""
    found, how = checked.difference, checked.recipe
    return KeptCheck(
        checked=file_checked(checked.name, found, why=checked.why),
        next_step=next_step(found),
        badness=0.0 if found is None else badness(found),
        same_shape=found is None or found.same_shape,
        recipe=None if how is None else KeptRecipe(**_without_crop(how)),
    )


def hand_over_shop_series(
    folder: Path,
    source: Path,
    takes: Sequence[TakeToHandOver],
    *,
    options: ShopOptions,
    target: Path,
) -> Mapping[str, Any]:
    """Write the matched takes of a series, its list and its contact sheet into a zip.

    Reports progress beside `source`. BadInput for a pattern that cannot be filled.
    """
    library, tell = Library(folder), ProgressReporter(source).tell
    grey = None if options.grey is None else options.grey.spot
    pictures = _pictures(library, takes, options)
    main = _reference(library.picture_path(takes[0].reference), grey)
    to = HandOver(
        pattern=options.pattern,
        uses=tuple(use_of(use_id) for use_id in options.uses),
        white=None if options.white_code is None else white_curve(main, options.white_code),
        keeps_settings=options.keeps_settings,
    )
    unfinished = target.with_suffix(".new")
    try:
        with ZipFile(unfinished, "w") as archive:
            done = hand_over(
                pictures, to, zip_sink(archive), progress=lambda count: tell(count, len(pictures))
            )
        unfinished.replace(target)
    finally:
        unfinished.unlink(missing_ok=True)
    left_out = [{"source": each.source, "why": each.why} for each in done if not each.file]
    return {
        "pictures": sum(bool(each.file) for each in done),
        "left_out": left_out,
        "white_lift_stops": None if to.white is None else to.white.lift_stops,
    }


def matched_look(
    folder: Path,
    takes: Sequence[TakeToHandOver],
    *,
    place: int,
    options: ShopOptions,
    side_px: int,
) -> bytes:
    """One of the takes as it will be handed over, small, as JPEG. NotFound without a check.

    All of them are given, for their crop is one.
    """
    library, take = Library(folder), takes[place]
    picture = _pictures(library, takes, options)[place]
    if picture.recipe is None:
        raise NotFound("This take cannot be matched.", picture=take.sha256)
    wanted = _reference(library.picture_path(take.reference), _grey(options))
    white = None if options.white_code is None else white_curve(wanted, options.white_code)
    image = Image.fromarray(matched(shown(picture.path), picture.recipe, white))
    image.thumbnail((side_px, side_px))
    drawn = io.BytesIO()
    image.save(drawn, "JPEG", quality=88)
    return drawn.getvalue()


def _grey(options: ShopOptions) -> Spot | None:
    return None if options.grey is None else options.grey.spot


def _pictures(
    library: Library, takes: Sequence[TakeToHandOver], options: ShopOptions
) -> list[SeriesPicture]:
    """Takes with their recipes; those of one view and reference share a crop."""
    made = [_picture(library, take) for take in takes]
    for reference in dict.fromkeys(take.reference for take in takes):
        wanted = _reference(library.picture_path(reference), _grey(options))
        of_it = [
            place
            for place, take in enumerate(takes)
            if take.reference == reference and made[place].recipe is not None
        ]
        framing = None
        if wanted.thing is not None and not (
            options.aspect == "as-shot" and options.margin is None
        ):
            framing = Framing(wanted.thing.box, ASPECTS[options.aspect], options.margin)
        recipes = [recipe for place in of_it if (recipe := made[place].recipe) is not None]
        cropped = with_common_crop(recipes, wanted.lost.shape, framing)
        for place, recipe in zip(of_it, cropped, strict=True):
            made[place] = dataclasses.replace(made[place], recipe=recipe)
    return made


def _picture(library: Library, take: TakeToHandOver) -> SeriesPicture:
    found = None if take.found is None else KeptCheck.model_validate_json(take.found)
    return SeriesPicture(
        path=library.picture_path(take.sha256),
        source=take.source,
        position=take.position,
        recipe=None if found is None or found.recipe is None else found.recipe.recipe(),
        number=take.number,
        name=take.name,
        view=take.view,
        reasons=() if found is None else tuple(found.checked.reasons),
        why="" if found is None else found.checked.why,
    )


def _without_crop(how: Recipe) -> dict[str, Any]:
    return {name: value for name, value in vars(how).items() if name != "crop"}


@lru_cache(maxsize=4)
def _reference(path: Path, grey: Spot | None) -> SeriesLook:
    """A reference is measured once for all that is compared with it."""
    return look_at(path, grey)
