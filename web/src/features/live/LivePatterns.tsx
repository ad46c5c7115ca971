import type { LiveView } from "./queries";
import { ev } from "../../ui/numbers";

/** What each metering pattern reads on the frame, and what auto would set by it. */
export function LivePatterns({ patterns }: { patterns: LiveView["patterns"] }) {
  if (patterns.length === 0) return null;
  return (
    <details className="rounded border border-line bg-panel px-3">
      <summary className="flex min-h-11 items-center">Meter by pattern</summary>
      <table className="mb-2 w-full text-left tabular-nums">
        <tbody>
          {patterns.map((pattern) => (
            <tr key={pattern.id} className="border-t border-line">
              <th scope="row" className="py-1 pr-2 font-normal">
                {pattern.name}
              </th>
              <td className="pr-2">{ev(pattern.ev100)}</td>
              <td>{pattern.slip}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
