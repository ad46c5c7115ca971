"""A frame of a phone's live preview, measured as a kept picture is, and forgotten."""

from __future__ import annotations

from dataclasses import dataclass
from io import BytesIO

import numpy as np
from numpy.typing import NDArray
from PIL import Image, UnidentifiedImageError

from oxlen.core.colour.tone_colour import ToneColour
from oxlen.core.constants import BLOCKED_CODE, CLIPPED_CODE
from oxlen.core.errors import BadInput, PictureError
from oxlen.core.light.meter import Spot, SpotTone, spot_tone
from oxlen.core.light.patterns import FrameLight, frame_light
from oxlen.core.live.preview_curve import PreviewCurve
from oxlen.formats.picture_report import PictureReport
from oxlen.metering.white import OwnDial, WhiteReading, white_on
from oxlen.pictures.exposure_tags import Exposure
from oxlen.pictures.opening import FileFacts, Picture
from oxlen.pictures.processed_pixels import ProcessedPixels
from oxlen.pictures.reading import read_open_picture
from oxlen.pictures.report import reading_report

LIVE = "live"
"""In place of a kept picture's content hash."""
MOST_BYTES, MOST_SIDE_PX = 40_000, 480
"""A frame as large as reading light needs; a phone sends five a second."""
LEAST_SIDE_PX = 16
MOST_CLIPPED = 0.5


@dataclass(frozen=True)
class LiveSource:
    """Where `Picture` finds a frame's pixels."""

    pixels: ProcessedPixels


class LiveFrame:
    """One preview frame and the settings in force; what is measured of a picture it gives too."""

    def __init__(
        self, codes: NDArray[np.uint8], exposure: Exposure, curve: PreviewCurve | None
    ) -> None:
        height, width = codes.shape[:2]

        def box(of: tuple[int, int, int, int]) -> NDArray[np.uint8]:
            left, top, right, bottom = of
            return codes[top:bottom, left:right]

        linear = None if curve is None else curve.linear()
        pixels = ProcessedPixels(width, height, 255, box=box, linear=linear)
        facts = FileFacts(
            "the preview", "JPEG", width, height=height, orientation=1, kind="processed"
        )
        self._picture = Picture(facts, exposure, LiveSource(pixels))
        self._codes = codes
        reading = read_open_picture(self._picture)
        self._report = PictureReport.model_validate(reading_report(reading))

    @property
    def clipped_share(self) -> float:
        """Share of the frame at white in any channel."""
        return float(np.mean(self._codes.max(axis=-1) >= CLIPPED_CODE))

    @property
    def blocked_share(self) -> float:
        """Share of the frame at black in all channels."""
        return float(np.mean(self._codes.max(axis=-1) <= BLOCKED_CODE))

    def report(self, sha256: str) -> PictureReport:  # noqa: ARG002
        """What is known of the frame."""
        return self._report

    def spot_tone(self, sha256: str, spot: Spot) -> SpotTone:  # noqa: ARG002
        """The tone of a spot."""
        return spot_tone(self._picture.spot(spot))

    def frame_light(self, sha256: str) -> FrameLight | None:  # noqa: ARG002
        """The light of the whole frame."""
        tones = self._picture.pixels.sample(strongest=True)
        rows = (-1, tones.row_length or 1)
        strongest = None if tones.strongest is None else tones.strongest.reshape(rows)
        return frame_light(tones.luminance.reshape(rows), strongest)

    def tone_colour(self, sha256: str, spot: Spot) -> ToneColour | None:  # noqa: ARG002
        """The colour of a spot; None where it is lost, or the colour temperature is unknown."""
        patch = self._picture.patch(spot)
        if patch.clipped_share > MOST_CLIPPED or not np.all(patch.colour > 0):
            return None
        red, green, blue = (float(channel) for channel in patch.colour)
        return ToneColour((red, green, blue), self._picture.exposure.white_k)

    def white(self, spot: Spot, own_dial: OwnDial | None) -> WhiteReading:
        """The light on a grey or white patch. BadInput where it is clipped, black or no neutral."""
        return white_on(self._picture, spot, own_dial=own_dial)


def codes_of_frame(data: bytes) -> NDArray[np.uint8]:
    """A small JPEG's codes (h, w, 3). BadInput for what is no small JPEG."""
    if len(data) > MOST_BYTES:
        raise BadInput(f"A live frame has at most {MOST_BYTES // 1000} kB.", "frame")
    try:
        with Image.open(BytesIO(data), formats=("JPEG",)) as image:
            # Known from its header, before anything is unpacked.
            if not LEAST_SIDE_PX <= min(image.size) <= max(image.size) <= MOST_SIDE_PX:
                raise BadInput(f"A live frame has sides of at most {MOST_SIDE_PX} px.", "frame")
            return np.asarray(image.convert("RGB"))
    except (OSError, SyntaxError, ValueError, UnidentifiedImageError, PictureError) as error:
        raise BadInput("That is not a JPEG frame.", "frame") from error
