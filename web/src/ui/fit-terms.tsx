/** What a condition or a cause fits: its line with the chance, and each finding as a bar for or against it. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { Button } from "./button";
import { percent } from "./figures";
import { capital } from "@/wording/words";

type SummaryProps = { name: string; chance: number; pinned: boolean; note?: string; hatched?: boolean };

/** The line that opens it: name and chance; `note` under the name, `hatched` for a chance that is only usual. */
export function FitSummary({ name, chance, pinned, note, hatched = false }: SummaryProps) {
  return (
    <summary
      className={clsx(
        "grid min-h-14 cursor-pointer grid-cols-[minmax(0,1fr)_6rem_5.5rem] items-center gap-3",
        "desk:min-h-11",
      )}>
      <span>
        <span className={clsx("font-semibold underline underline-offset-4", pinned && "text-act")}>
          {capital(name)}
        </span>
        {note && <span className="block text-sm text-ink-2">{note}</span>}
      </span>
      <span className="h-2.5 border border-line-2 bg-sheet" aria-hidden="true">
        <span
          className={clsx("block h-full", pinned ? "bg-act" : hatched ? "hatch" : "bg-ink-2")}
          style={{ width: `${100 * chance}%` }}
        />
      </span>
      <span className="figure whitespace-nowrap text-right">{percent(chance)}</span>
    </summary>
  );
}

/** Which findings are left out, and the way back to all. */
export function LeftOut({ names, onAll }: { names: string[]; onAll: () => void }) {
  if (names.length === 0) return null;
  return (
    <p className="mt-2 flex flex-wrap items-center gap-x-3 bg-watch-wash px-3 py-1" role="status">
      Without: {names.join(", ")}.{" "}
      <Button variant="quiet" onClick={onAll}>
        With all findings
      </Button>
    </p>
  );
}

/** Bars to the right speak for it, to the left against it; each can be left out to see what hangs on it. */
export function FitTerms({ terms, onStrike }: { terms: Schemas["FitTerm"][]; onStrike: (sign: string) => void }) {
  const longest = Math.max(...terms.map((one) => Math.abs(one.log_odds)), 1);
  return (
    <table className="w-full">
      <caption className="text-left text-sm text-ink-2">What speaks against it (left) and for it (right)</caption>
      <tbody>
        {terms.map((one) => (
          <tr key={one.sign} className="border-t border-line">
            <th scope="row" className="py-1 text-left font-normal">
              {one.seen ? one.name : `${one.name}: no`}
            </th>
            <td className="w-32 desk:w-44">
              <Bar share={one.log_odds / longest} />
              <span className="sr-only">{one.log_odds > 0 ? "for it" : "against it"}</span>
            </td>
            <td className="w-24 text-right">
              <Button variant="quiet" aria-label={`Without ${one.name}`} onClick={() => onStrike(one.sign)}>
                without
              </Button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Bar({ share }: { share: number }) {
  const width = 50 * Math.min(1, Math.abs(share));
  return (
    <span className="relative block h-3 border-x border-line" aria-hidden="true">
      <span className="absolute inset-y-0 left-1/2 border-l border-ink" />
      <span
        className={clsx("absolute inset-y-0.5", share > 0 ? "bg-ink" : "bg-line-2")}
        style={{ width: `${width}%`, left: share > 0 ? "50%" : `${50 - width}%` }}
      />
    </span>
  );
}
