"""What a shop series is asked: its views, its light, how it is compared and handed over."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from oxlen.core.light.meter import Spot
from oxlen.core.series.set_up import LEAST_SHARE, MOST_SHARE
from oxlen.core.series.white import HIGHEST_WHITE, LOWEST_WHITE
from oxlen.formats.strict import Slug, Strict

MOST_VIEWS = 6
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
ViewName = Annotated[str, Field(min_length=1, max_length=20, pattern=r"^[^\x00-\x1f/\\]+$")]
Aspect = Literal["as-shot", "square", "4:5", "4:3"]
ASPECTS: dict[Aspect, float | None] = {"as-shot": None, "square": 1.0, "4:5": 0.8, "4:3": 4 / 3}
UseId = Literal["shop", "menu", "print", "full"]
Light = Literal["one-lamp", "two-lamps", "window"]


def _each_once(names: list[str]) -> list[str]:
    if len({name.casefold() for name in names}) < len(names):
        raise ValueError("a name is there twice")
    return names


class GreySpot(Strict):
    """A grey patch that every picture shows: x and y as shares of width and height.

    `r` is a share of the shorter side.
    """

    x: Share
    y: Share
    r: Annotated[float, Field(ge=0.002, le=0.2, allow_inf_nan=False)] = 0.02

    @property
    def spot(self) -> Spot:
        """As the core measures it."""
        return Spot("grey", self.x, self.y, r=self.r)


class SetUp(Strict):
    """How a series is set up: the largest thing's share of the frame, the background, the light.

    `lens` is one of the sheet's phone; None for the one that suits best. `falloff_stops` is how
    uneven the background may be.
    """

    share: Annotated[float, Field(ge=LEAST_SHARE, le=MOST_SHARE)] = 0.6
    lens: Slug | None = None
    light: Light = "two-lamps"
    lumens: Annotated[float, Field(ge=1, le=1e6)] = 1000.0
    background_cm: Annotated[float, Field(ge=5, le=1000)] = 60.0
    falloff_stops: Annotated[float, Field(ge=0.05, le=3)] = 0.3


class ShopOptions(Strict):
    """Everything a shop series is asked; a new one has the usual answers.

    `white_code` is the sRGB code the background is taken to, `margin` the room around the thing as
    a share of the picture; None leaves both as shot.
    """

    views: Annotated[
        list[ViewName], Field(min_length=1, max_length=MOST_VIEWS), AfterValidator(_each_once)
    ] = ["front"]  # noqa: RUF012  copied by Pydantic
    uses_codes: bool = False
    grey: GreySpot | None = None
    white_code: Annotated[int, Field(ge=LOWEST_WHITE, le=HIGHEST_WHITE)] | None = None
    aspect: Aspect = "as-shot"
    margin: Annotated[float, Field(ge=0, le=0.4)] | None = None
    uses: Annotated[list[UseId], Field(min_length=1, max_length=4), AfterValidator(_each_once)] = [  # noqa: RUF012
        "shop"
    ]
    pattern: Annotated[str, Field(min_length=1, max_length=80)] = "{number:02d}-{name}"
    keeps_settings: bool = False
    set_up: SetUp = SetUp()
