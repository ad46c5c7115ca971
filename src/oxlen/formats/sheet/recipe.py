"""How a picture is developed, as numbers in JSON."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from oxlen.core.develop.recipe import Gradient, Oval, Recipe
from oxlen.formats.strict import Strict

Stops = Annotated[float, Field(ge=-6, le=6)]
Share = Annotated[float, Field(ge=0, le=1)]


class GradientFile(Strict):
    """Light above a slanting edge changed, fading over a share of the height."""

    height_share: Share
    stops: Stops
    tilt_deg: Annotated[float, Field(ge=-60, le=60)] = 0.0
    fade_share: Annotated[float, Field(ge=0.01, le=1)] = 0.15


class OvalFile(Strict):
    """Light within an oval changed, fading to its rim."""

    x: Share
    y: Share
    across: Annotated[float, Field(ge=0.02, le=1)]
    down: Annotated[float, Field(ge=0.02, le=1)]
    stops: Stops


class RecipeFile(Strict):
    """The steps of development; `crop` is left, top, right, bottom in shares of the sides."""

    written_as: Literal["oxlen-recipe/1"] = "oxlen-recipe/1"
    exposure_stops: Stops = 0.0
    white_k: Annotated[float, Field(ge=1500, le=20000)] | None = None
    tint_duv: Annotated[float, Field(ge=-0.05, le=0.05)] = 0.0
    shadows_stops: Stops = 0.0
    highlights_stops: Stops = 0.0
    black_share: Annotated[float, Field(ge=0, le=0.5)] = 0.0
    crop: tuple[Share, Share, Share, Share] = (0.0, 0.0, 1.0, 1.0)
    level_deg: Annotated[float, Field(ge=-20, le=20)] = 0.0
    gradient: GradientFile | None = None
    oval: OvalFile | None = None
    local_contrast: Share = 0.0
    sharpening: Share = 0.3
    noise_reduction: Share = 0.0

    def to_recipe(self) -> Recipe:
        """As the core takes it; OutOfRange for a crop that leaves nothing."""
        reported = self.model_dump(exclude={"written_as", "gradient", "oval"})
        return Recipe(
            **reported,
            gradient=None if self.gradient is None else Gradient(**self.gradient.model_dump()),
            oval=None if self.oval is None else Oval(**self.oval.model_dump()),
        )


def recipe_file(recipe: Recipe) -> RecipeFile:
    """A recipe as a file."""
    reported = dict(vars(recipe))
    reported["gradient"] = None if recipe.gradient is None else vars(recipe.gradient)
    reported["oval"] = None if recipe.oval is None else vars(recipe.oval)
    return RecipeFile.model_validate(reported)
