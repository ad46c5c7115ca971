import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { Select, NumberField } from "../../ui/Field";
import { ev, fixed, percent } from "../../ui/numbers";
import { Segmented } from "../../ui/Segmented";
import type { PartProps } from "./part";
import { PlanDrawing } from "./PlanDrawing";
import { changeOptions, type SetUp, setUpQuery, type Shop, type ShopOptions } from "./queries";

type Asked = NonNullable<ShopOptions["set_up"]>;

const LIGHTS = [
  { value: "one-lamp", text: "One lamp" },
  { value: "two-lamps", text: "Two lamps" },
  { value: "window", text: "Window" },
] as const;

/** Where phone, lamps and background go, once for the whole series. */
export function SetUpPart({ shop, sheet, run }: PartProps & { shop: Shop }) {
  const asked = shop.options.set_up as Required<Asked>;
  const sizes = shop.things.map((thing) => [thing.width_cm, thing.height_cm, thing.depth_cm]);
  const { data: found } = useQuery({
    ...setUpQuery(sheet, JSON.stringify([asked, sizes])),
    placeholderData: keepPreviousData,
  });
  const change = (part: Partial<Asked>) =>
    void run(() => changeOptions(sheet, { ...shop.options, set_up: { ...asked, ...part } }));
  if (!found) return <p>Opening…</p>;
  return (
    <div className="grid items-start gap-6 lg:grid-cols-[minmax(0,1fr)_25rem]">
      <section aria-label="Plan" className="grid gap-4">
        <p className="text-lg font-semibold">{mainWords(found)}</p>
        <PlanDrawing found={found} backgroundCm={asked.background_cm} />
        <ol aria-label="Steps" className="list-decimal columns-1 gap-8 pl-6 md:columns-2">
          {found.steps.map((step) => (
            <li key={step} className="mb-1.5 break-inside-avoid">
              {step}
            </li>
          ))}
        </ol>
      </section>
      <section aria-label="Set-up" className="grid gap-3 rounded border border-line bg-panel p-4">
        <p className="text-[0.88rem] text-soft">
          {found.is_assumed ? "Assumed size" : "Largest thing"}: {fixed(found.width_cm, 1)} ×{" "}
          {fixed(found.height_cm, 1)} × {fixed(found.depth_cm, 1)} cm.
        </p>
        <NumberField
          label="Share of frame"
          unit="%"
          value={100 * asked.share}
          low={10}
          high={95}
          onCommit={(value) => value !== null && change({ share: value / 100 })}
        />
        <Select
          label="Lens"
          value={asked.lens ?? ""}
          options={[
            { value: "", text: "The best one" },
            ...found.places.map((place) => ({ value: place.lens, text: place.lens_name })),
          ]}
          onChange={(lens) => change({ lens: lens || null })}
        />
        <Segmented
          label="Light"
          value={asked.light}
          options={LIGHTS}
          onChange={(light) => change({ light })}
        />
        {asked.light !== "window" && (
          <div className="grid grid-cols-2 gap-3">
            <NumberField
              label="Each lamp"
              unit="lm"
              value={asked.lumens}
              low={1}
              high={1e6}
              onCommit={(lumens) => lumens !== null && change({ lumens })}
            />
            <NumberField
              label="Background width"
              unit="cm"
              value={asked.background_cm}
              low={5}
              high={1000}
              onCommit={(width) => width !== null && change({ background_cm: width })}
            />
            <NumberField
              label="Uneven at most"
              unit="stops"
              value={asked.falloff_stops}
              low={0.05}
              high={3}
              onCommit={(stops) => stops !== null && change({ falloff_stops: stops })}
            />
          </div>
        )}
        <Lenses found={found} />
      </section>
    </div>
  );
}

function mainWords({ best, lamps, window }: SetUp): string {
  const phone = `${best.lens_name} lens, ${fixed(100 * best.distance_m, 0)} cm from the front.`;
  if (!lamps) return `${phone} ${window}`;
  const count = lamps.lamps === 2 ? "lamps" : "lamp";
  return `${phone} ${lamps.lamps} ${count} at ${fixed(lamps.distance_m, 1)} m, ${ev(lamps.ev100)} on the thing.`;
}

function Lenses({ found }: { found: SetUp }) {
  return (
    <table className="w-full text-[0.9rem]">
      <caption className="sr-only">Every lens</caption>
      <thead className="text-left text-soft">
        <tr>
          <th className="py-1 font-normal">Lens</th>
          <th className="pr-3 font-normal">Distance</th>
          <th className="pr-3 font-normal">Fills</th>
          <th className="font-normal">Stretch</th>
        </tr>
      </thead>
      <tbody className="tabular-nums">
        {found.places.map((place) => (
          <tr key={place.lens} className="border-t border-line align-top">
            <td className={`py-1.5 pr-2 ${place.lens === found.best.lens ? "font-semibold" : ""}`}>
              {place.lens_name}
              <span className="block text-[0.82rem] font-normal text-soft">{place.words}</span>
            </td>
            <td className="py-1.5 pr-2 whitespace-nowrap">{fixed(100 * place.distance_m, 0)} cm</td>
            <td className="py-1.5 pr-2 whitespace-nowrap">{percent(place.share)}</td>
            <td className="py-1.5 whitespace-nowrap">{percent(place.stretch - 1)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
