import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import type { DepthStrip, SheetBody } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { LadderDialog } from "../../kit/LadderDialog";
import { phonesQuery } from "../queries";
import type { Edit } from "../useSheetEditor";

interface Props {
  strip: DepthStrip;
  body: SheetBody;
  edit: Edit;
}

/** How well the slider is known, why it should be measured again, and a ladder to do so. */
export function SliderNote({ strip, body, edit }: Props) {
  const [open, setOpen] = useState(false);
  const { data: phones = [] } = useQuery(phonesQuery);
  const client = useQueryClient();
  const phone = phones.find((phone) => phone.profile.id === body.phone);
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
      <p className="min-w-0 flex-1 text-[0.9rem] leading-snug text-soft">
        {strip.slider_words} {strip.recheck && <b className="text-ink">{strip.recheck}</b>}
      </p>
      {strip.by_hand && phone && <Button onClick={() => setOpen(true)}>Focus ladder…</Button>}
      {open && phone && (
        <LadderDialog
          phone={{ id: phone.profile.id, name: phone.profile.name, shipped: phone.shipped }}
          lens={{ id: strip.lens_id, name: strip.lens_name }}
          clipOn={body.focus.clip_on?.name ?? ""}
          distanceM={body.focus.distance_m ?? null}
          onClose={() => setOpen(false)}
          onKept={(kept) => {
            setOpen(false);
            void client.invalidateQueries({ queryKey: ["phones"] });
            edit("slider scale", (b) => ({ ...b, phone: kept.profile.id }));
          }}
        />
      )}
    </div>
  );
}
