import { useState } from "react";

import { Button } from "../../ui/Button";
import { ButtonLink } from "../../ui/ButtonLink";
import { CheckField } from "../../ui/CheckField";
import { NumberField, Select, TextField } from "../../ui/Field";
import type { PartProps } from "./part";
import { beginZip, changeOptions, type Shop, type ShopOptions, zipAddress } from "./queries";
import { useLongWork } from "./useLongWork";
import { WorkBar } from "./WorkBar";

type Use = NonNullable<ShopOptions["uses"]>[number];
type Aspect = NonNullable<ShopOptions["aspect"]>;

const USES: readonly { id: Use; text: string; about: string }[] = [
  { id: "shop", text: "Web shop", about: "1600 px, JPEG, up to 400 kB" },
  { id: "menu", text: "Menu", about: "1000 px, JPEG, up to 150 kB" },
  { id: "print", text: "Print", about: "full size, TIFF" },
  { id: "full", text: "Full size", about: "JPEG" },
];
const ASPECTS: readonly { value: Aspect; text: string }[] = [
  { value: "as-shot", text: "As shot" },
  { value: "square", text: "Square" },
  { value: "4:5", text: "4:5 upright" },
  { value: "4:3", text: "4:3 wide" },
];
const USUAL_WHITE = 242;

/** How the finished pictures look and are named, and the zip with all of them. */
export function HandOverPart({ shop, sheet, run, again }: PartProps & { shop: Shop }) {
  const options = shop.options as Required<ShopOptions>;
  const [made, setMade] = useState<string | null>(null);
  const work = useLongWork(again);
  const now = JSON.stringify([options, shop.counts]);
  const change = (part: Partial<ShopOptions>) =>
    void run(() => changeOptions(sheet, { ...options, ...part }));
  const make = () => work.begin(() => beginZip(sheet)).then((ok) => setMade(ok ? now : null));
  return (
    <div className="grid items-start gap-6 lg:grid-cols-[minmax(0,1fr)_25rem]">
      <section aria-label="Look" className="grid gap-5 rounded border border-line bg-panel p-4">
        <fieldset>
          <legend className="font-semibold">Made for</legend>
          {USES.map((use) => (
            <div key={use.id} className="flex flex-wrap items-center gap-x-3">
              <CheckField
                label={use.text}
                checked={options.uses.includes(use.id)}
                onChange={(isOn) => {
                  const uses = USES.map((each) => each.id).filter((each) =>
                    each === use.id ? isOn : options.uses.includes(each),
                  );
                  if (uses.length > 0) change({ uses });
                }}
              />
              <span className="text-[0.88rem] text-soft">{use.about}</span>
            </div>
          ))}
        </fieldset>
        <div className="grid gap-3 sm:grid-cols-2">
          <Select
            label="Shape"
            value={options.aspect}
            options={ASPECTS}
            onChange={(aspect) => change({ aspect })}
          />
          <NumberField
            label="Margin"
            unit="%"
            value={options.margin === null ? null : 100 * options.margin}
            low={0}
            high={40}
            placeholder="largest"
            onCommit={(margin) => change({ margin: margin === null ? null : margin / 100 })}
          />
        </div>
        <div>
          <CheckField
            label="White background"
            checked={options.white_code !== null}
            onChange={(isOn) => change({ white_code: isOn ? USUAL_WHITE : null })}
          />
          {options.white_code !== null && (
            <NumberField
              label="White"
              unit="of 255"
              value={options.white_code}
              low={200}
              high={247}
              onCommit={(code) => code !== null && change({ white_code: Math.round(code) })}
            />
          )}
          <p className="text-[0.88rem] text-soft">
            The same curve for every picture; bright parts of the thing are not clipped.
          </p>
        </div>
        <TextField
          label="File names"
          value={options.pattern}
          maxLength={80}
          hint="Uses {number}, {name}, {view} and {use}."
          onCommit={(pattern) => pattern.trim() && change({ pattern: pattern.trim() })}
        />
        <CheckField
          label="Keep settings"
          checked={options.keeps_settings}
          onChange={(keeps_settings) => change({ keeps_settings })}
        />
        <p className="-mt-4 text-[0.88rem] text-soft">
          Time, shutter and ISO. Place, owner and serial numbers never go along.
        </p>
      </section>
      <section aria-label="Zip" className="grid gap-3 rounded border-2 border-strong bg-panel p-4">
        <p className="text-lg font-semibold">{readyWords(shop)}</p>
        <p className="text-soft">
          Matched pictures, a list and a contact sheet. Nothing is uploaded anywhere.
        </p>
        {work.share !== null ? (
          <WorkBar label="Writing" share={work.share} onStop={work.stop} />
        ) : (
          <Button
            look={made === now ? "plain" : "main"}
            disabled={shop.counts.shot === 0 || shop.counts.to_check > 0}
            onClick={() => void make()}
          >
            Make zip
          </Button>
        )}
        {made === now && work.share === null && (
          <ButtonLink look="main" href={zipAddress(sheet)} download>
            Download zip
          </ButtonLink>
        )}
      </section>
    </div>
  );
}

function readyWords({ counts }: Shop): string {
  const { shot, wanted, to_check, reshoot } = counts;
  if (shot === 0) return "Nothing is shot yet.";
  if (to_check > 0) return "Check the series first.";
  const missing = wanted - shot;
  const notes = [
    missing > 0 && `${missing} not shot`,
    reshoot > 0 && `${reshoot} to reshoot`,
  ].filter(Boolean);
  return `${shot} pictures${notes.length > 0 ? `, ${notes.join(", ")}` : ""}`;
}
