import type { ComponentProps } from "react";

import { ExposureMap } from "./ExposureMap";
import { ExposureRuler } from "./ExposureRuler";

/** The exposure map, or on a narrow screen the ruler along its wanted exposure. */
export function MapOrRuler({
  narrow,
  ...props
}: ComponentProps<typeof ExposureMap> & { narrow: boolean }) {
  if (!narrow) return <ExposureMap {...props} />;
  const { map, plan, pair, fields, edit, onPreview, onCommit } = props;
  return <ExposureRuler {...{ map, plan, pair, fields, edit, onPreview, onCommit }} />;
}
