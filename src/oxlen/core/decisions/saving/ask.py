"""What may be asked of saving: by which school, how it will be edited, how fast, how much room."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from oxlen.core.ask import Ask, Checked, Choices, Quantity

SavingSchool = Literal["as_asked", "advise", "both", "raw_to_edit", "processed_when_controlled"]
SAVING_SCHOOLS = {
    "as_asked": "As I say",
    "advise": "What fits best",
    "both": "Always both",
    "raw_to_edit": "RAW only for print or heavy editing",
    "processed_when_controlled": "Processed when the light is controlled",
}
Editing = Literal["none", "light", "heavy"]
EDITING = {"none": "none, as it comes", "light": "a little", "heavy": "heavy"}
Compression = Literal["lossless", "packed"]
COMPRESSION = {"lossless": "without loss", "packed": "packed, with a little loss"}


@dataclass(frozen=True)
class Saving(Checked):
    """How files are chosen; where the picture will be seen is asked under `output`.

    `fps` is the rate a burst needs, `free_mb` the storage left, `pictures` how many an outing
    brings.
    """

    school: Annotated[SavingSchool, Choices(SAVING_SCHOOLS, "How to choose")] = "as_asked"
    editing: Annotated[Editing, Choices(EDITING, "Edited afterwards")] = "light"
    compression: Annotated[Compression, Choices(COMPRESSION, "RAW files")] = "lossless"
    fps: (
        Annotated[float, Quantity(0.1, 1000, "frames a second", label="Burst", usual=8.0)] | None
    ) = None
    free_mb: Annotated[float, Quantity(1, 1e8, "MB", label="Storage left", usual=8000.0)] | None = (
        None
    )
    pictures: Annotated[int, Quantity(1, 100_000, "pictures", label="On this outing")] = 1


SAVING: Ask[Saving] = Ask("saving", Saving, Saving(), label="What to save")
