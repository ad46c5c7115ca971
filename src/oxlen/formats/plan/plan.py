"""The plan as it leaves Oxlen: the same fields on the command line and over HTTP."""

from __future__ import annotations

from pydantic import BaseModel, Field

from oxlen.core.decisions.exposure.auto.choice import AutoChoice
from oxlen.core.decisions.exposure.words.slip import Reason
from oxlen.core.decisions.frames import Exposed
from oxlen.core.decisions.framework.brief import Role
from oxlen.core.decisions.framework.limit import Axis, Owner
from oxlen.core.decisions.plan import Window
from oxlen.core.decisions.solver.frontier import Figures
from oxlen.core.decisions.solver.outcome import SpotState


class SlipFile(BaseModel):
    """Values to dial in, `order` naming them in dialling order."""

    lens: str
    iso: float
    shutter_s: float
    f_number: float
    ev100_set: float = Field(description="filters included, comparable with the scene's EV")
    glass_stops: float = Field(description="light taken by the filters on the lens")
    residual_stops: float = Field(description="positive = brighter than wanted")
    residual_words: str
    order: list[str]
    white_k: float | None = Field(default=None, description="to dial; null = leave it on auto")
    tint: float | None = None
    focus_slider: float | None = Field(default=None, description="null = tap, or no scale is known")
    focus_m: float | None = Field(default=None, description="null = unknown, or infinity")
    save: str | None = Field(default=None, description="processed, raw or both")


class SettingFile(BaseModel):
    """One line of the slip: what to set, to what, the one reason, how sure, and its formula.

    `on_map` marks what the exposure map moves.
    """

    field: str
    name: str
    value: float | str
    label: str
    unit: str
    reason: str
    because: str
    plus_minus: float | None
    plus_minus_unit: str
    why_plus_minus: str
    formula: str | None
    inputs: dict[str, float | str]
    on_map: bool
    notes: list[str]
    figures: dict[str, float | None] = Field(description="units in the names; null = infinite")


class ExposureFile(BaseModel):
    """One exposure of the plan: its settings, what it exposes for, and how many frames of it."""

    settings: list[SettingFile]
    ev100_set: float
    residual_stops: float = Field(description="positive = brighter than this exposure is meant")
    frames: int


class SpotOutcomeFile(BaseModel):
    """Where one spot lands against what was wanted of it, in stops from mid, and in words."""

    name: str
    role: Role
    wanted_stops: float
    lands_stops: float
    misses_stops: float = Field(description="positive = brighter than wanted")
    state: SpotState
    words: str


class LimitFile(BaseModel):
    """A bound on one axis; `computation` and `inputs` reopen the formula behind it.

    `slack_stops` is the room the slip leaves, `only` the values allowed where not all between are.
    """

    id: str
    kind: str
    axis: Axis
    min: float | None
    max: float | None
    only: list[float] | None
    name: str
    reason: str
    source: str
    owner: Owner
    edited_by: list[str] = Field(description="names of the asks it depends on")
    binding: bool
    slack_stops: float | None
    computation: str | None
    inputs: dict[str, float | str]


class TradeFile(BaseModel):
    """A way out, its cost in words, the slip it buys and what that gives.

    `exposures` are its frames where they are not all alike; `steps` counts the changes it makes.
    """

    id: str
    text: str
    cost: str
    slip: SlipFile
    figures: Figures
    outcome: list[SpotOutcomeFile]
    exposures: list[Exposed]
    steps: int
    on_auto: bool


class ConflictFile(BaseModel):
    """The two limits that collide, the stops missing between them, and the ways out."""

    between: list[str]
    short_by_stops: float
    sentence: str
    needs: str = Field(description="what would have to change, and by how much")
    trades: list[TradeFile]


class CompromiseFile(BaseModel):
    """The slip that gives up least, by how many stops it breaks what, and what it would look like.

    It is not recommended.
    """

    slip: SlipFile
    gives_up_stops: dict[str, float]
    words: str
    outcome: list[SpotOutcomeFile]


class AlternativeFile(BaseModel):
    """A slip between least blur and least noise, and the limits it breaks."""

    slip: SlipFile
    figures: Figures
    broken: list[str]


class FormatSpanFile(BaseModel):
    """Tones one frame holds, in stops from mid."""

    darkest_stops: float
    clipping_stops: float
    range_stops: float
    fits: bool


class SpanFile(BaseModel):
    """The scene's range against what a frame holds, and the exposures that take it in."""

    range_stops: float
    raw: FormatSpanFile
    processed: FormatSpanFile
    exposures: int
    step_stops: float
    ev100s: list[float]
    words: str


class LensOptionFile(BaseModel):
    """One lens for the same picture; growth and moved limits are against the lens in use."""

    lens_id: str
    name: str
    focal35_mm: float
    equivalent_f_number: float
    distance_m: float | None
    background_growth: float | None
    background_share: float | None
    edge_shape: float
    slip: SlipFile | None
    figures: Figures | None
    conflict: str | None
    moved_stops: dict[str, float]
    rank: int
    because: str


class AutoStepsFile(BaseModel):
    """The same picture with the phone left on auto: four steps, or why auto will not do."""

    steps: list[str]
    compensation_stops: float
    iso: float
    shutter_s: float
    why_not: str


class PairFile(BaseModel):
    """A pair of steps within half a step of the wanted exposure, and what it gives and breaks."""

    iso: float
    shutter_s: float
    residual_stops: float
    figures: Figures
    broken: list[str]


class PlanFile(BaseModel):
    """The whole decision."""

    slip: SlipFile | None
    settings: list[SettingFile] = Field(
        description="without a slip, only those that do not depend on the exposure"
    )
    exposures: list[ExposureFile]
    outcome: list[SpotOutcomeFile]
    outcome_words: str = Field(description="what matters most about where the spots land")
    figures: Figures | None
    snr_pixel: float | None = Field(
        default=None, description="SNR predicted of the subject for a pixel of the file"
    )
    limits: list[LimitFile]
    window: Window | None
    conflict: ConflictFile | None
    compromise: CompromiseFile | None
    trades: list[TradeFile]
    alternatives: list[AlternativeFile]
    pairs: list[PairFile]
    span: SpanFile | None
    auto: AutoChoice | None
    auto_steps: AutoStepsFile
    lenses: list[LensOptionFile]
    reasons: list[Reason]
    cautions: list[str] = Field(default=[], description="cautions, the most serious first")
    wanted_ev100: float
    motion_asked: bool = Field(description="whether motion is set")
    strategy: str
