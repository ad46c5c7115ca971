/** What one page is for: shown by its help button. */
export interface PageHelp {
  /** The addresses it holds for. */
  at: RegExp;
  name: string;
  what: string;
  /** The three usual tasks. */
  tasks: [string, string, string];
  /** The page of the guide that goes on from here. */
  guide: GuidePage;
}

export type GuidePage = "plan" | "at-the-spot" | "check" | "long-exposure" | "night" | "kit";

/** Keys that work on a sheet; the first two work on every page. */
export const KEYS: readonly [string, string][] = [
  ["?", "help for this page"],
  ["Tab, Shift Tab", "next and previous control"],
];

export const SHEET_KEYS: readonly [string, string][] = [
  ["u, Shift u", "undo, redo"],
  ["Ctrl Z, Ctrl Shift Z", "undo, redo (Cmd on a Mac)"],
  ["1 to 9", "the slip line with that number"],
  ["n", "new spot in the centre"],
  ["Arrow keys on a spot", "move it; with Shift in larger steps"],
  ["+ and − on a spot", "make it larger or smaller"],
  ["Delete on a spot", "remove it"],
  ["← → on the map", "along the wanted exposure, shorter or longer"],
  ["Wheel on the map", "the same"],
  ["↑ ↓ on the map", "ISO alone (changes the exposure)"],
  ["Home on the map", "back to the plan"],
  ["c", "copy the slip as text"],
];

/** The first one whose address fits holds. */
export const PAGES: readonly PageHelp[] = [
  {
    at: /^\/sheets\/\d+\/run$/,
    name: "Checklist",
    what: "The steps at the spot, in order, large enough to read beside the camera app.",
    tasks: [
      "Tap a step when it is done.",
      "Start the timers for self-timer, long exposures and intervals.",
      "Shoot, then add the takes to the sheet.",
    ],
    guide: "at-the-spot",
  },
  {
    at: /^\/sheets\/\d+\/live$/,
    name: "Live",
    what: "Reads the light through the phone’s own camera, dials the slip where it can, and shoots.",
    tasks: [
      "Start the camera and tap what matters.",
      "Dial it: what the browser cannot set is listed for you to dial.",
      "Shoot, read the verdict, and dial the correction.",
    ],
    guide: "at-the-spot",
  },
  {
    at: /^\/sheets\/\d+\/drawing$/,
    name: "Lamp drawing",
    what: "Plans a word or shape drawn with a lamp in the dark: speed, exposure and a rehearsal.",
    tasks: [
      "Choose the shape, its size and the lamp.",
      "Look at the predicted frame and change the speed.",
      "Start the rehearsal and draw to its count.",
    ],
    guide: "long-exposure",
  },
  {
    at: /^\/sheets\/\d+\/exposures$/,
    name: "Multiple exposure",
    what: "Shares the light over several exposures of one frame.",
    tasks: [
      "Set how many exposures there are.",
      "Give each its share of the light.",
      "Look at the predicted frame of all of them.",
    ],
    guide: "long-exposure",
  },
  {
    at: /^\/sheets\/\d+\/time$/,
    name: "Long exposure",
    what: "Lists every route to the shutter time you want: filters, dusk, a darker lens, stacked frames.",
    tasks: [
      "Set the time, or the look of the water.",
      "Compare the routes and their costs.",
      "Press Use this to put one on the slip.",
    ],
    guide: "long-exposure",
  },
  {
    at: /^\/sheets\/\d+\/shop$/,
    name: "Shop series",
    what: "Photographs a list of things alike: set up once, shoot thing by thing, check, match, hand over.",
    tasks: [
      "Enter the things, or import a CSV.",
      "Add the takes, and check them against the reference.",
      "Make the zip with matched pictures and their names.",
    ],
    guide: "check",
  },
  {
    at: /^\/sheets\/\d+$/,
    name: "Sheet",
    what: "One planned picture. The slip lists the settings to dial, each with its reason.",
    tasks: [
      "Mark what matters in the picture, and say how bright it should be.",
      "Open a line of the slip to change it or see its limits.",
      "Add takes to compare them with the plan.",
    ],
    guide: "plan",
  },
  {
    at: /^\/outings\/\d+\/light$/,
    name: "Light",
    what: "Shows when each sheet of an outing works: daylight by the hour, and dark nights.",
    tasks: [
      "See the best time for every sheet.",
      "Set or change the outing’s place.",
      "Plan a picture of the night sky.",
    ],
    guide: "night",
  },
  {
    at: /^\/places/,
    name: "Places",
    what: "Places with their horizon and light pollution. Daylight and nights are computed for them.",
    tasks: [
      "Add a place by name, coordinates or on the map.",
      "Draw its horizon.",
      "Set how bright its night sky is.",
    ],
    guide: "night",
  },
  {
    at: /^\/takes\/stacks/,
    name: "Stacking",
    what: "Stacks 2 to 500 frames into one picture: less noise, no passers-by, star trails.",
    tasks: [
      "Add the frames.",
      "Choose what happens to what moves.",
      "Press Start, and find the result among the takes.",
    ],
    guide: "long-exposure",
  },
  {
    at: /^\/takes\/learned$/,
    name: "Learned from takes",
    what: "What your takes show: your safe shutter, your meter’s error, how often predictions were right.",
    tasks: [
      "See your own safe shutter, handheld.",
      "See how far your meter is off.",
      "Accept a suggestion into the kit.",
    ],
    guide: "check",
  },
  {
    at: /^\/takes/,
    name: "Takes",
    what: "Every picture you shot, with what its check found.",
    tasks: [
      "Drop new pictures; Oxlen suggests a sheet for each.",
      "Find takes by words and filters.",
      "Compare two to four side by side.",
    ],
    guide: "check",
  },
  {
    at: /^\/kit\/new$/,
    name: "Add a phone",
    what: "Makes a profile of your phone from a few of its own pictures.",
    tasks: [
      "Drop 3 to 10 original pictures from each lens.",
      "Answer four short questions. Anything you skip is assumed.",
      "Save the phone, and measure what would help most.",
    ],
    guide: "kit",
  },
  {
    at: /^\/kit/,
    name: "Kit",
    what: "Your phones, filters, lenses, lamps and supports, with their measured values.",
    tasks: ["Add your phone.", "Measure what would help most.", "Add filters, lamps and lenses."],
    guide: "kit",
  },
  {
    at: /^\/phone/,
    name: "Phone",
    what: "Opens Oxlen on your phone over the local network, also offline.",
    tasks: [
      "Show the code and scan it with the phone.",
      "Allow the phone here.",
      "Unpair phones you no longer use.",
    ],
    guide: "at-the-spot",
  },
  {
    at: /^\/begin/,
    name: "New picture",
    what: "The quickest way to a slip: a situation and two or three questions.",
    tasks: [
      "Choose the nearest situation.",
      "Answer its questions.",
      "Or drop a picture taken on auto.",
    ],
    guide: "plan",
  },
  {
    at: /^\/words/,
    name: "Glossary",
    what: "Explains the words used in Oxlen: its own first, then photography’s.",
    tasks: ["Read Oxlen’s own words.", "Find a word.", "Tap a dotted word on any page to open it."],
    guide: "plan",
  },
  {
    at: /^\/guide/,
    name: "Guide",
    what: "One page for each task, with pictures.",
    tasks: ["Choose a task.", "Follow its steps.", "Go back to your sheet."],
    guide: "plan",
  },
  {
    at: /^\//,
    name: "Outings",
    what: "Your planned pictures by place and time.",
    tasks: [
      "Press New picture to plan one.",
      "Open a sheet to see or change its slip.",
      "Open an outing’s light to see when its sheets work.",
    ],
    guide: "plan",
  },
];

/** The help of the page at an address. */
export function helpOf(path: string): PageHelp {
  const found = PAGES.find(({ at }) => at.test(path));
  if (!found) throw new Error(`No help for ${path}`);
  return found;
}
