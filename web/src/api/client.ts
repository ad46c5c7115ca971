import { noteSource } from "../offline/offline";
import type { components } from "./schema";

type Schemas = components["schemas"];
export type Problem = Schemas["Problem"];
export type OutingView = Schemas["OutingView"];
export type OutingChange = Schemas["OutingChange"];
export type OutingFields = Schemas["OutingFields"];
export type SheetSummary = Schemas["SheetSummary"];
export type SheetView = Schemas["SheetView"];
export type SeriesOfSheet = Schemas["SeriesOfSheet"];
export type SeriesView = Schemas["SeriesView"];
export type SeriesStart = Schemas["SeriesStart"];
export type Members = Schemas["Members"];
export type SheetBody = Schemas["SheetBody"];
export type SpotBody = Schemas["SpotBody"];
export type ReadingBody = Schemas["ReadingBody"];
export type Answer = Schemas["Answer"];
export type Correction = Schemas["Correction"];
export type LightReading = Schemas["LightReading"];
export type ExposureMap = Schemas["ExposureMap"];
export type Plan = Schemas["PlanFile"];
export type Limit = Schemas["LimitFile"];
export type Trade = Schemas["TradeFile"];
export type Alternative = Schemas["AlternativeFile"];
export type Figures = Schemas["Figures"];
export type LensOption = Schemas["LensOptionFile"];
export type LimitFields = Schemas["LimitFields"];
export type EditableField = Schemas["EditableField"];
export type Asks = Schemas["Asks"];
export type Ask = Schemas["AskView"];
export type PictureLight = Schemas["PictureLight"];
export type FrameFigures = Schemas["FrameFigures"];
export type Take = Schemas["TakeView"];
export type SlipLine = Schemas["SlipLine"];
export type WarmthRibbon = Schemas["WarmthRibbon"];
export type WarmthStep = Schemas["WarmthStep"];
export type DepthStrip = Schemas["DepthStrip"];
export type StripPlace = Schemas["StripPlace"];
export type SavingBars = Schemas["SavingBars"];
export type SavingBar = Schemas["SavingBar"];
export type KitLamp = Schemas["LampView"];
export type KitClipOn = Schemas["ClipOnView"];
export type Situation = Schemas["SituationView"];
export type Begun = Schemas["Begun"];
export type WhiteMeasured = Schemas["WhiteMeasured"];
export type SharpnessMeasured = Schemas["SharpnessMeasured"];
export type LadderLook = Schemas["LadderLook"];
export type PatchDetail = Schemas["PatchDetail"];
export type LadderFound = Schemas["LadderFound"];
export type FileSeen = Schemas["FileSeen"];
export type FilesCompared = Schemas["FilesCompared"];
export type ToneScale = Schemas["ToneScale"];
export type Motion = SheetBody["motion"][number];
export type Look = SheetBody["looks"][number];
export type Usual = Schemas["Usual"];
export type MoverPreset = Schemas["MoverView"];
export type PresetView = Schemas["PresetView"];
export type Preset = PresetView["preset"];
export type LensFilter = Schemas["FilterView"];
export type KitPhone = Schemas["KitPhone"];
export type UnreadablePhone = Schemas["UnreadablePhone"];
export type PhoneProfile = KitPhone["profile"];
export type ReportedFacts = Schemas["ReportedFacts"];
export type PhoneAnswers = Schemas["PhoneAnswers"];
export type PhoneMade = Schemas["PhoneMade"];
export type OwnMode = Schemas["OwnMode"];
export type Network = Schemas["NetworkView"];
export type Device = Schemas["Device"];
export type PairingCode = Schemas["PairingCode"];
export type Me = Schemas["Me"];
export type TakeChecked = Schemas["TakeChecked"];
export type RunStep = Schemas["RunStep"];
export type MergedEdits = Schemas["MergedView"];
export type EditsClash = Schemas["ClashView"];
export type ChangedLight = Schemas["ChangedLight"];
export type MeasurementKind = Schemas["MeasurementKind"];
export type Measurement = Schemas["MeasurementView"];
export type AddedPicture = Schemas["AddedPicture"];
export type Plot = Schemas["Plot"];
export type PhonePortrait = Schemas["PhonePortrait"];
export type LensPortrait = Schemas["LensPortrait"];
export type ComparedLine = Schemas["ComparedLine"];
export type OutingTaken = Schemas["OutingTaken"];
export type ImportView = Schemas["ImportView"];
export type Bin = Schemas["Bin"];
export type TonePlace = Schemas["TonePlace"];
export type LightLevel = Schemas["LightLevel"];
export type Formula = Schemas["Formula"];
export type ImportedPicture = Schemas["ImportedView"];
export type InboxEntry = Schemas["InboxView"];
export type LogEntry = Schemas["LogEntryView"];
export type LogbookPage = Schemas["LogbookView"];
export type LogbookChoices = Schemas["LogbookChoices"];
export type LogbookCount = Schemas["LogbookCount"];
export type Learned = Schemas["LearnedView"];
export type LearnedFigure = Schemas["LearnedFigure"];
export type Bundle = Schemas["BundleView"];
export type Why = Schemas["WhyView"];
export type Development = Schemas["DevelopmentView"];
export type Recipe = Schemas["RecipeFile"];
export type KeptRecipe = Schemas["KeptRecipe"];
export type ComparedTake = Schemas["ComparedTake"];
export type LongTime = Schemas["LongTimeView"];
export type TimeLane = Schemas["Lane"];
export type TimeWay = Schemas["WayView"];
export type FlowMeasured = Schemas["FlowMeasured"];
export type LampDrawing = Required<Schemas["DrawingFile"]>;
export type LampDrawingPlan = Omit<Schemas["DrawingView"], "drawing"> & { drawing: LampDrawing };
export type LampDrawingSeen = Schemas["DrawingSeen"];
export type SharedFrame = Schemas["SharedView"];
export type SharedAsked = Schemas["SharedAsked"];
export type RampMeasured = Schemas["RampMeasured"];
export type PlaceBody = Schemas["PlaceBody"];
export type PlaceView = Schemas["PlaceView"];
export type PlacePosition = Schemas["Position"];
export type DarkSkyClass = Schemas["DarkSkyClass"];
export type DayView = Schemas["DayView"];
export type Darkness = Schemas["Darkness"];
export type HoursFile = Schemas["HoursFile"];
export type OutingWhen = Schemas["OutingWhen"];
export type CardState = Schemas["CardState"];
export type SheetWhen = Schemas["SheetWhen"];
export type Nights = Schemas["Nights"];
export type NightWindow = Schemas["DarkWindowFile"];
export type NightPlan = Schemas["NightFile"];
export type NightWay = Schemas["NightWayFile"];
export type SkySeen = Schemas["NightFrameFile"];
export type Stack = Schemas["StackView"];
export type StackAsked = Schemas["StackAsked"];
export type Role = ReadingBody["role"];
export type SpotRole = SpotBody["role"];

/** A refusal from the server: its sentence is fit to be shown. */
export class Refusal extends Error {
  constructor(
    readonly problem: Pick<Problem, "detail" | "code" | "status"> & { field?: string | null },
  ) {
    super(problem.detail);
  }
}

/**
 * Whether a refusal passes by itself: no answer, a busy or failing server, a full disk, or a phone
 * that must be paired again. What was to be sent waits.
 */
export function isPassing(error: unknown): boolean {
  if (!(error instanceof Refusal)) return false;
  const { status } = error.problem;
  return status === 0 || status === 401 || status === 429 || status >= 500;
}

const UNREACHABLE = {
  detail: "Oxlen does not answer. Start it again. Everything saved so far is safe.",
  code: "unreachable",
  status: 0,
};

/** This page among those that are open, so that it need not hear of its own changes. */
export const PAGE = `p-${Math.random().toString(36).slice(2)}`;

/** Ask the API; a refusal or silence is thrown as `Refusal`. */
export async function ask<T>(
  path: string,
  options: { method?: string; body?: unknown; signal?: AbortSignal; keepalive?: boolean } = {},
): Promise<T> {
  const { body, ...rest } = options;
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      ...rest,
      headers: {
        "x-oxlen-page": PAGE,
        ...(body === undefined ? {} : { "content-type": "application/json" }),
      },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
  } catch {
    throw new Refusal(UNREACHABLE);
  }
  const isRead = !rest.method || rest.method === "GET";
  if (isRead) noteSource(response.headers.get("x-oxlen-kept"));
  if (response.status === 204) return undefined as T;
  const answer: unknown = await response.json().catch(() => null);
  if (!response.ok) throw new Refusal(asProblem(answer, response.status));
  return answer as T;
}

/** An image of the API, decoded, and the headers it came with; its URL is the caller's to release. */
export async function askForImage(
  path: string,
  signal: AbortSignal,
): Promise<{ image: HTMLImageElement; header: (name: string) => string | null }> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, { signal });
  } catch (error) {
    if (signal.aborted) throw error;
    throw new Refusal(UNREACHABLE);
  }
  if (!response.ok) {
    const answer: unknown = await response.json().catch(() => null);
    throw new Refusal(asProblem(answer, response.status));
  }
  const image = new Image();
  image.src = URL.createObjectURL(await response.blob());
  await image.decode();
  return { image, header: (name) => response.headers.get(name) };
}

/** Ask for a file made of what is sent; its bytes. */
export async function askForFile(path: string, body: unknown, signal?: AbortSignal): Promise<Blob> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method: "POST",
      headers: { "x-oxlen-page": PAGE, "content-type": "application/json" },
      body: JSON.stringify(body),
      signal: signal ?? null,
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new Refusal(UNREACHABLE);
  }
  if (!response.ok) {
    const answer: unknown = await response.json().catch(() => null);
    throw new Refusal(asProblem(answer, response.status));
  }
  return response.blob();
}

/** Send a file as it is, with its progress from 0 to 1. */
export function sendFile<T>(
  path: string,
  file: File,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<T> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", `/api${path}`);
    request.responseType = "json";
    request.setRequestHeader("x-oxlen-page", PAGE);
    request.upload.onprogress = (event) => {
      if (event.lengthComputable) onProgress(event.loaded / event.total);
    };
    request.onload = () => {
      if (request.status < 300) resolve(request.response as T);
      else reject(new Refusal(asProblem(request.response, request.status)));
    };
    request.onerror = () => reject(new Refusal(UNREACHABLE));
    request.onabort = () => reject(new DOMException("cancelled", "AbortError"));
    signal.addEventListener("abort", () => request.abort());
    request.send(file);
  });
}

function asProblem(answer: unknown, status: number): Problem {
  if (typeof answer === "object" && answer !== null && "detail" in answer) return answer as Problem;
  return {
    type: "about:blank",
    title: "Refused",
    detail: "Oxlen could not do that. Nothing was changed.",
    code: "unknown",
    status,
    field: null,
  };
}
