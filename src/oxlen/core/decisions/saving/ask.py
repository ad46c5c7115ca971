"""What may be asked of saving: strategy, editing, frames a second, free storage."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from oxlen.core.ask import Ask, Checked, Choices, Formerly, Quantity

SavingStrategy = Literal["as_asked", "advise", "both", "raw_to_edit", "processed_when_controlled"]
SAVING_STRATEGIES = {
    "as_asked": "My choice",
    "advise": "Recommended",
    "both": "Always both",
    "raw_to_edit": "RAW only for print or heavy editing",
    "processed_when_controlled": "Processed when the light is controlled",
}
Editing = Literal["none", "light", "heavy"]
EDITING = {"none": "none", "light": "a little", "heavy": "heavy"}
Compression = Literal["lossless", "packed"]
COMPRESSION = {"lossless": "lossless", "packed": "compressed, slight loss"}


@dataclass(frozen=True)
class Saving(Checked):
    """How files are chosen; where the picture will be seen is asked under `output`.

    `fps` is the rate a burst needs, `free_mb` the storage left, `pictures` how many an outing
    brings.
    """

    strategy: Annotated[
        SavingStrategy, Choices(SAVING_STRATEGIES, "Strategy"), Formerly("school")
    ] = "as_asked"
    editing: Annotated[Editing, Choices(EDITING, "Editing")] = "light"
    compression: Annotated[Compression, Choices(COMPRESSION, "RAW files")] = "lossless"
    fps: (
        Annotated[float, Quantity(0.1, 1000, "frames a second", label="Burst", usual=8.0)] | None
    ) = None
    free_mb: Annotated[float, Quantity(1, 1e8, "MB", label="Storage left", usual=8000.0)] | None = (
        None
    )
    pictures: Annotated[int, Quantity(1, 100_000, "pictures", label="On this outing")] = 1


SAVING: Ask[Saving] = Ask("saving", Saving, Saving(), label="What to save")
