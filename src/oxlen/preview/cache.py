"""What dry runs are made from, kept at hand: plans, scenes, pictures as light."""

from __future__ import annotations

from collections import OrderedDict
from threading import Lock
from typing import Literal

from oxlen.core.decisions.plan import Plan, plan
from oxlen.core.errors import BadInput
from oxlen.core.light.linear_picture import LinearPicture
from oxlen.core.simulate.exposing import Camera
from oxlen.core.simulate.relight import Source, coarser, source_of
from oxlen.core.simulate.scene import Scene, reduced
from oxlen.core.simulate.variation import varied
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.scene_file import shipped_scene
from oxlen.formats.sheet.file import SheetBody
from oxlen.metering.light import SheetLight
from oxlen.metering.picture_cache import PictureCache
from oxlen.phones.briefed_sheet import briefed_sheet

Quality = Literal["coarse", "full"]
SOURCE_SIDE_PX = 960
COARSE_STEP = 3
"""A quick look has a third of the rows and columns."""
MAX_SOURCES = 6


class PreviewCache:
    """Plans, scenes and sources of dry runs at hand; pictures by content hash and exposure."""

    def __init__(self, pictures: PictureCache) -> None:
        self._pictures = pictures
        self._sources: OrderedDict[tuple[str, float, str], dict[Quality, Source]] = OrderedDict()
        self._scenes: dict[tuple[str, Quality, float], Scene] = {}
        self._decided: dict[tuple[str, str], tuple[SheetLight, Plan]] = {}
        self._lock = Lock()

    def decided(self, body: SheetBody, profile: PhoneProfile) -> tuple[SheetLight, Plan]:
        """The light and plan of a sheet, kept while its dot is dragged. BadInput without light."""
        key = (body.model_dump_json(), profile.model_dump_json())
        with self._lock:
            if key not in self._decided:
                briefed = briefed_sheet(body, profile, self._pictures)
                if not briefed.brief.readings:
                    words = "A dry run needs a picture or a reading."
                    raise BadInput(words, "readings")
                self._decided = {key: (briefed.light, plan(briefed.brief))}
            return self._decided[key]

    def scene(self, scene_id: str, quality: Quality, light_shift_stops: float) -> Scene:
        """A known scene by the light expected then; at a third of its size for a quick look."""
        key = (scene_id, quality, light_shift_stops)
        with self._lock:
            if key not in self._scenes:
                seen = shipped_scene(scene_id)
                if quality == "coarse":
                    seen = reduced(seen, COARSE_STEP)
                if light_shift_stops:
                    seen = varied(seen, light=2.0**light_shift_stops)
                same = {k: v for k, v in self._scenes.items() if (k[0], k[2]) == (key[0], key[2])}
                self._scenes = {**same, key: seen}
            return self._scenes[key]

    def source(
        self, sha256: str, ev100_set: float, camera: Camera, *, iso: float, quality: Quality
    ) -> Source:
        """A kept picture as light; decoded once for both qualities."""
        key = (sha256, ev100_set, camera.lens.id)
        with self._lock:
            if key not in self._sources:
                light = _even(self._pictures.small_light(sha256, SOURCE_SIDE_PX))
                full = source_of(light, ev100_set, camera, iso=iso)
                self._sources[key] = {"full": full, "coarse": coarser(full, COARSE_STEP)}
                while len(self._sources) > MAX_SOURCES:
                    self._sources.popitem(last=False)
            return self._sources[key][quality]


def _even(light: LinearPicture) -> LinearPicture:
    """The light with an even number of rows and columns, as a mosaic needs."""
    height, width = (size // 2 * 2 for size in light.lost.shape)
    cut = light.colour[:height, :width], light.lost[:height, :width]
    return LinearPicture(*cut, light.is_balanced)
