/** A word that is used on screen, and what it means. */
export interface Word {
  id: string;
  name: string;
  text: string;
  /** The lines under each frame, in order; pictures only where one helps. */
  frames?: string[];
}

/** Words that are Oxlen's own. */
export const OWN_WORDS: Word[] = [
  { id: "outing", name: "Outing", text: "A place and a time, with the sheets you plan for it." },
  {
    id: "sheet",
    name: "Sheet",
    text: "One planned picture: its light, its spots, its limits, its takes.",
  },
  {
    id: "slip",
    name: "Slip",
    text: "The settings to dial, in order: lens, ISO, shutter, white balance, focus, file. Each has one reason.",
  },
  {
    id: "spot",
    name: "Spot",
    text: "A place in the picture with a role (subject, hold highlight, hold shadow, neutral) and a wanted tone.",
  },
  {
    id: "take",
    name: "Take",
    text: "A picture shot for a sheet. Oxlen compares it with the plan.",
  },
  {
    id: "kit",
    name: "Kit",
    text: "Your phones, lenses, filters, lamps and supports, with their measured values.",
  },
  {
    id: "dry-run",
    name: "Dry run",
    text: "The predicted picture for the settings on the slip, before you shoot.",
  },
  {
    id: "bench",
    name: "Bench phone",
    text: "A simulated phone that shoots the demo scenes. A mystery phone is one with unknown values, to practise measuring.",
  },
  {
    id: "card",
    name: "Field card",
    text: "The one-page version of a sheet to carry: a file for the phone, or paper.",
  },
  {
    id: "ways-out",
    name: "Ways out",
    text: "What to change when the limits collide. Each one is solved, and its cost is shown.",
  },
  {
    id: "mid",
    name: "Mid",
    text: "The mid-grey tone a meter aims for. Wanted tones are in stops from mid: white paint +1.7, tarred planks −2.",
    frames: ["the grey card is at mid"],
  },
];

/** The field's words. */
export const FIELD_WORDS: Word[] = [
  {
    id: "stop",
    name: "Stop",
    text: "Twice the light, or half of it. A shutter twice as long, or an ISO twice as high, makes the picture 1 stop brighter.",
    frames: ["1 stop darker", "as measured", "1 stop brighter"],
  },
  {
    id: "ev",
    name: "EV",
    text: "How much light there is, in stops. Sun on white paint is about EV 16. Boards under lanterns are about EV 3, 13 stops less.",
    frames: ["EV 16 on the paint", "EV 3 on the boards"],
  },
  {
    id: "white",
    name: "Clipped",
    text: "Brighter than the file can hold. The detail is gone and development cannot bring it back.",
    frames: ["the paint keeps its shape", "the paint is clipped"],
  },
  {
    id: "snr",
    name: "Noise and SNR",
    text: "SNR is how far the picture is above its noise: 40 looks clean, 10 is acceptable, less is noisy. Higher ISO means less light and more noise.",
    frames: ["ISO 50", "ISO 3200"],
  },
  {
    id: "raw",
    name: "RAW",
    text: "The file as the sensor saw it, to develop later. It holds more highlights and allows shadows to be lifted.",
    frames: [
      "processed by the phone",
      "RAW, exposed darker: the window is held, the bench can be lifted",
    ],
  },
  {
    id: "bracket",
    name: "Bracket",
    text: "Several frames of one view, from dark to bright, merged afterwards so that each part is well exposed.",
    frames: ["for the window", "between", "for the bench"],
  },
  {
    id: "nd",
    name: "ND filter",
    text: "A dark filter over the lens. ND 64, also called ×64 or 6 stops, passes 1/64 of the light, so the shutter can be 64 times as long.",
    frames: ["1/125 s without", "0.5 s with ND 64"],
  },
  {
    id: "shake",
    name: "Safe shutter",
    text: "The longest shutter at which 9 of 10 handheld shots are sharp. 1 stop shorter is safer. 2 stops longer, 1 of 7 is sharp.",
    frames: ["1/20 s handheld", "1.3 s handheld"],
  },
  {
    id: "bands",
    name: "Flicker bands",
    text: "Most lamps pulse. A shutter of whole pulses shows no bands, a shorter one does.",
    frames: ["1/1000 s", "1/50 s, whole pulses"],
  },
  {
    id: "trail",
    name: "Star trails",
    text: "The sky turns. Stars stay points for some seconds, less with a longer lens. After that they are lines.",
    frames: ["10 s", "30 s"],
  },
  {
    id: "stack",
    name: "Stack",
    text: "Several frames combined into one picture: averaged against noise, lightened for trails, or the median to remove what passes.",
  },
  {
    id: "mired",
    name: "Mired",
    text: "1,000,000 divided by kelvin. Equal steps in mired look equally large: 5 is hardly visible, 20 clearly is.",
  },
  {
    id: "duv",
    name: "Duv",
    text: "How green (+) or magenta (−) a light is beside its kelvin. 0.006 is visible.",
  },
  {
    id: "dioptre",
    name: "Dioptre",
    text: "1 divided by the focus distance in metres: 2 dioptres is 0.5 m. A clip-on lens adds its dioptres.",
  },
  {
    id: "npf",
    name: "NPF rule",
    text: "Longest shutter that keeps stars as points, from aperture, pixel size, focal length and where the lens points.",
  },
];

export const WORDS: Word[] = [...OWN_WORDS, ...FIELD_WORDS];
