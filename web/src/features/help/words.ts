/** A word that photographers use and others may not know, with frames that show it. */
export interface Word {
  id: string;
  name: string;
  text: string;
  /** What stands under each frame, in order. */
  frames: string[];
}

export const WORDS: Word[] = [
  {
    id: "stop",
    name: "Stop",
    text: "Twice the light, or half of it. A shutter twice as long, or an ISO twice as high, makes the picture one stop brighter.",
    frames: ["one stop darker", "as it is", "one stop brighter"],
  },
  {
    id: "ev",
    name: "EV",
    text: "How much light there is, counted in stops. The sun on white paint is about EV 16; boards under lanterns are about EV 3, thirteen stops less.",
    frames: ["EV 16 on the paint", "EV 3 on the boards"],
  },
  {
    id: "mid",
    name: "Mid",
    text: "The grey halfway between black and white, as this card is. A meter makes whatever it reads come out at mid. Wanted tones are said in stops from mid: white paint +1.7, tarred planks −2.",
    frames: ["the grey card lies at mid"],
  },
  {
    id: "white",
    name: "White, or clipped",
    text: "Brighter than the file can hold: what was there is gone and no development brings it back. Bright detail to keep is held under this.",
    frames: ["the paint keeps its shape", "the paint is gone"],
  },
  {
    id: "snr",
    name: "Noise and SNR",
    text: "Grain from too little light. SNR says how far the picture stands above its grain: 40 looks clean, 10 will do, less is grainy. A higher ISO means less light and more grain.",
    frames: ["ISO 50", "ISO 3200"],
  },
  {
    id: "raw",
    name: "RAW",
    text: "The file as the sensor saw it, to be developed later. It holds more above white and lets dark parts be lifted, as far as their grain allows.",
    frames: ["as the phone makes it", "taken darker: the window is kept, the bench can be lifted"],
  },
  {
    id: "bracket",
    name: "Bracket",
    text: "Several frames of one view, from dark to bright, put together afterwards, so that each part is well exposed in one of them.",
    frames: ["for the window", "between", "for the bench"],
  },
  {
    id: "nd",
    name: "ND filter",
    text: "Dark glass over the lens. ND 64 is also called ×64 or 6 stops: it lets a 64th of the light through, and the shutter may stay open 64 times as long.",
    frames: ["1/125 s without", "0.5 s through ND 64"],
  },
  {
    id: "shake",
    name: "Holding still",
    text: "The longest shutter your hand holds nine times in ten. A stop inside it is safer; two stops past it one in seven is sharp.",
    frames: ["1/20 s in the hand", "1.3 s in the hand"],
  },
  {
    id: "bands",
    name: "Bands",
    text: "Most lamps pulse. A shutter that spans whole pulses shows none of it; a shorter one draws bands.",
    frames: ["1/1000 s", "1/50 s, whole pulses"],
  },
  {
    id: "trail",
    name: "Star trails",
    text: "The sky turns. Stars stay points for some seconds, the fewer the longer the lens; after that they are lines.",
    frames: ["10 s", "30 s"],
  },
];
