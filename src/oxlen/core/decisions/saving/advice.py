"""Which file to save: RAW, processed or both, from what the picture is for and what it holds."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from oxlen.core.decisions.saving.ask import Editing, SavingStrategy
from oxlen.core.kit.file_cost import WrittenFiles
from oxlen.core.kit.phone_words import FileFormat
from oxlen.core.labels import stops_label, two_digits

LARGE_PRINT_PX = 12e6
"""An output of more pixels is a large print: every bit of detail is looked at."""
LIFTED_STOPS = 1.0
"""Tones lifted by more than this show the steps and the smoothing of a processed file."""
COLOUR_SURE_MIRED = 20.0
SHORT_MIRED = 12.0
"""A cast of so much is seen beside a neutral."""
SHARED_AT_ONCE = ("message",)


@dataclass(frozen=True)
class Situation:
    """What the choice of a file depends on.

    `over_processed_stops` is how far the brightest detail is beyond what a processed file holds,
    `over_raw_stops` beyond RAW; `lift_stops` how far the darkest will be lifted.
    `colour_doubt_mired` is None where nothing is known of the light; `is_controlled` for a lamp or
    lit box of one's own. `dial_short_mired` is how far the white balance dial ends short of the
    light.
    """

    files: WrittenFiles
    use: str | None = None
    output_px: float = 2.8e6
    editing: Editing = "light"
    over_processed_stops: float = -9.0
    over_raw_stops: float = -9.0
    lift_stops: float = 0.0
    colour_doubt_mired: float | None = None
    is_controlled: bool = False
    mixed_lamps: bool = False
    fps: float | None = None
    frames: int = 1
    free_mb: float | None = None
    stars: bool = False
    dial_short_mired: float = 0.0

    @property
    def colour_is_sure(self) -> bool:
        """Whether the colour a processed file keeps for good is known to be right."""
        doubt = self.colour_doubt_mired
        return doubt is not None and doubt <= COLOUR_SURE_MIRED and not self.mixed_lamps


@dataclass(frozen=True)
class Advice:
    """The file to save, the one reason that decided it, and that reason's id."""

    file_format: FileFormat
    because: str
    reason: str


Rule = Callable[[Situation], Advice | None]


def no_raw(at: Situation) -> Advice | None:
    """A mode that writes no RAW."""
    if at.files.raw_mb is not None:
        return None
    return Advice("processed", "no-raw", "This mode writes no RAW")


def fast(at: Situation) -> Advice | None:
    """A burst faster than RAW is written."""
    files = at.files
    if at.fps is None or at.fps <= files.raw_fps:
        return None
    held = f"RAW: {files.raw_fps:g} frames a second, processed: {files.processed_fps:g}"
    return Advice("processed", "burst", held)


def long_burst(at: Situation) -> Advice | None:
    """A burst that RAW would stall."""
    if at.fps is None or at.frames <= at.files.raw_burst:
        return None
    return Advice("processed", "burst", f"A burst of RAW stalls after {at.files.raw_burst} frames")


def raw_fits(at: Situation, *, packed: bool) -> bool:
    """Whether the storage takes all frames as RAW, packed or without loss."""
    return at.free_mb is None or at.frames <= at.files.fits("raw", at.free_mb, packed=packed)


def full(at: Situation) -> Advice | None:
    """More than the storage takes, packed too."""
    can_pack = at.files.raw_packed_mb is not None
    if at.free_mb is None or raw_fits(at, packed=False) or (can_pack and raw_fits(at, packed=True)):
        return None
    fits = at.files.fits("raw", at.free_mb, packed=can_pack)
    return Advice("processed", "storage", f"Storage takes {fits} of {at.frames} RAW files")


def wide(at: Situation) -> Advice | None:
    """Detail that a processed file clips and RAW holds, or holds more of."""
    gained = at.over_processed_stops - at.over_raw_stops
    if at.over_processed_stops <= 0.05 or gained < 0.1:
        return None
    over = stops_label(at.over_processed_stops)
    if at.over_raw_stops > 0.3:
        words = f"{stops_label(gained)} more highlight detail"
        return Advice("raw", "range", words)
    return Advice("raw", "range", f"Highlights clip by {over} in JPEG")


def lifted(at: Situation) -> Advice | None:
    """Shadows that will be lifted."""
    if at.lift_stops <= LIFTED_STOPS:
        return None
    lift = stops_label(at.lift_stops)
    return Advice("raw", "lift", f"Shadows are lifted by {lift}; RAW keeps their detail")


def night_sky(at: Situation) -> Advice | None:
    """Stars, which are developed anyway."""
    return Advice("raw", "stars", "Stars need strong development") if at.stars else None


def dial_ends(at: Situation) -> Advice | None:
    """A white balance dial that ends before the light."""
    if at.dial_short_mired <= SHORT_MIRED:
        return None
    short = f"The dial is {at.dial_short_mired:.0f} mired short of this light"
    return Advice("raw", "dial", f"{short}; RAW brings the rest")


def edited(at: Situation) -> Advice | None:
    """Heavy editing."""
    if at.editing != "heavy":
        return None
    return Advice("raw", "editing", "Heavy editing needs RAW tones")


def printed_large(at: Situation) -> Advice | None:
    """A large print."""
    if at.output_px < LARGE_PRINT_PX:
        return None
    size = two_digits(at.output_px / 1e6)
    return Advice("both", "print", f"A {size} MP print shows the phone's sharpening")


def shared(at: Situation) -> Advice | None:
    """Shared today, as it is."""
    if at.use not in SHARED_AT_ONCE or at.editing == "heavy":
        return None
    return Advice("processed", "share", "Shared small: RAW shows no gain")


def mixed(at: Situation) -> Advice | None:
    """Lamps of different colours."""
    if not at.mixed_lamps:
        return None
    return Advice("both", "colour", "Mixed lamps: balance each part in RAW")


def controlled(at: Situation) -> Advice | None:
    """Light of one's own, its colour known."""
    if not (at.is_controlled and at.colour_is_sure):
        return None
    return Advice("processed", "controlled", "Your own light, colour known")


def unsure(at: Situation) -> Advice | None:
    """A colour that is not known well enough to be kept for good."""
    if at.colour_is_sure:
        return None
    if at.colour_doubt_mired is None:
        return Advice("both", "colour", "Light colour unknown. Set it later in RAW")
    doubt = f"Light colour uncertain by {at.colour_doubt_mired:.0f} mired"
    return Advice("both", "colour", f"{doubt}. Set it later in RAW")


FORCED: tuple[Rule, ...] = (no_raw, fast, long_burst, full)
"""What the phone cannot do otherwise."""
WEIGHED: tuple[Rule, ...] = (
    wide,
    lifted,
    night_sky,
    dial_ends,
    edited,
    printed_large,
    shared,
    mixed,
    controlled,
    unsure,
)
"""In order of weight: the first that speaks decides."""
ENOUGH = Advice("processed", "enough", "Holds all tones; colour is certain")
"""Where nothing speaks for more."""


def advise(at: Situation) -> Advice:
    """The file that serves a situation best, and the one reason."""
    for rule in (*FORCED, *WEIGHED):
        found = rule(at)
        if found is not None:
            return found
    return ENOUGH


def by_strategy(strategy: SavingStrategy, at: Situation) -> Advice:
    """What a strategy saves; the phone's own bounds hold for every one."""
    forced = next((found for found in (rule(at) for rule in FORCED) if found), None)
    if strategy == "advise" or forced is not None:
        return forced or advise(at)
    if strategy == "both":
        return Advice("both", "strategy", "Your choice: always both")
    if strategy == "raw_to_edit":
        return (
            edited(at)
            or _for_print(at)
            or Advice("processed", "strategy", "Your choice: RAW only for print")
        )
    return controlled(at) or Advice("both", "strategy", "Light not controlled")


def _for_print(at: Situation) -> Advice | None:
    is_print = at.use is not None and at.use.startswith("print")
    return Advice("raw", "print", "Most latitude for print") if is_print else None
