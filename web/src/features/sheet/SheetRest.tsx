/** What is beside and below picture and slip, in a script of its own: those two come first. */

export { Instrument } from "./line/Instrument";
export { PrintCard } from "./slip/PrintCard";
export { SheetParts } from "./SheetParts";
export { TakesStrip } from "./takes/TakesStrip";
export { ToneRail } from "./tones/ToneRail";
