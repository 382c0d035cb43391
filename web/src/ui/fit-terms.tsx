/** Each finding as a bar for or against a condition or a cause. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { Button } from "./button";

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
