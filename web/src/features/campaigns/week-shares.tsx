/** How many stand over each level by school, what changed, and what treatments did. */
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";
import { rate } from "@/ui/units";
import { METHOD, colonies } from "@/wording/words";

type Results = Schemas["WeekResults"];

export function WeekShares({ results }: { results: Results }) {
  return (
    <>
      <table className="mt-4 w-full text-left">
        <caption className="pb-1 text-left font-semibold">At or over the act level of each school</caption>
        <tbody>
          {results.shares.map((one) => (
            <tr key={one.scheme} className="border-b border-line">
              <th scope="row" className="py-1.5 font-normal">
                {one.name}
              </th>
              <td className="text-right">
                {one.share ? (
                  <>
                    <span className="figure text-xl">{Math.round(100 * one.share.share)} %</span>{" "}
                    <span className="text-ink-2">
                      {`(${Math.round(100 * one.share.low)} to ${Math.round(100 * one.share.high)}), `}
                      {`${one.share.over} of ${one.share.counted}`}
                    </span>
                  </>
                ) : (
                  "–"
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-ink-2">
        Colonies of one apiary are alike: the intervals count them as{" "}
        {results.shares[0]?.share ? Math.round(results.shares[0].share.effective) : "fewer"}.
      </p>
      {results.change && (
        <p className="mt-3">
          Since {results.change_since}: <strong>{results.change.ratio.toFixed(1)} times</strong>
          {` the mites (${results.change.low.toFixed(1)} to ${results.change.high.toFixed(1)}) in `}
          {`${colonies(results.change.colonies)} counted both times and not treated between.`}
        </p>
      )}
      {results.treatments.length > 0 && (
        <div className="mt-3">
          <p className="font-semibold">Treatments placed since {shortDay(results.treated_since)}</p>
          <ul>
            {results.treatments.map((one) => (
              <li key={one.placed.option_id} className="border-b border-line py-1">
                {one.name}: {colonies(one.placed.colonies)}; <span className="text-ink-2">{verdicts(one.placed)}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
      {results.methods.length > 1 && (
        <p className="mt-2 text-ink-2">
          {results.methods
            .map((one) => {
              const median = one.median === null ? "–" : rate(one.median);
              return `${METHOD[one.method]}: ${colonies(one.colonies)}, median ${median}`;
            })
            .join("; ")}
          .
        </p>
      )}
      {results.recovery && (
        <p className="mt-2 text-ink-2">
          {`A sugar roll finds about ${Math.round(100 * results.recovery.mean)} in 100 mites here `}
          {`(${results.recovery.pairs} colonies washed and rolled).`}
        </p>
      )}
    </>
  );
}

function verdicts(placed: Schemas["WeekTreatment"]): string {
  const results = [
    [placed.worked, "worked"],
    [placed.partly, "worked in part"],
    [placed.failed, "failed"],
    [placed.cannot_tell, "not yet known"],
    [placed.not_verified, "not verified yet"],
  ] as const;
  return results
    .filter(([number]) => number > 0)
    .map(([number, word]) => `${number} ${word}`)
    .join(", ");
}
