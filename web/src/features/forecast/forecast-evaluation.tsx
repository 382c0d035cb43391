/**
 * How earlier forecasts did: later counts compared with what was predicted. The finding is said before it is opened.
 */
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";

type Evaluation = Schemas["ForecastEvaluation"];

const hundred = (share: number) => Math.round(100 * share);
const BETWEEN: Record<Evaluation["between"], string> = {
  untreated: "left alone meanwhile",
  treated: "treated meanwhile",
};
const BANDS: Record<Evaluation["bands"], string> = {
  right: "about right",
  too_narrow: "too narrow",
  too_wide: "too wide",
};

export function EvaluationDetails({ found, today }: { found: Evaluation[]; today: string }) {
  const [first] = found;
  if (!first) return null;
  const treated = found.find((one) => one.between === "treated");
  return (
    <details className="mt-4 border-b border-line pb-2">
      <summary className="min-h-14 cursor-pointer py-4 desk:min-h-8 desk:py-1">
        How earlier forecasts did: <strong>{hundred(first.held80)} in 100</strong> of {first.counts} later counts lay
        inside the 80 % band.
      </summary>
      <div className="mt-2 overflow-x-auto">
        <table className="w-full text-left">
          <caption className="pb-1 text-left text-ink-2">
            Counts since {shortDay(first.since, today)}, each compared with what the counts before it predicted.
          </caption>
          <thead>
            <tr className="border-b border-ink text-sm">
              {[
                "colonies",
                "later counts",
                "days ahead",
                "inside 50 %",
                "inside 80 %",
                "inside 95 %",
                "over the middle",
                "bands",
              ].map((head) => (
                <th key={head} scope="col" className="py-1 pr-4 font-semibold">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {found.map((one) => (
              <tr key={one.between} className="border-b border-line">
                <th scope="row" className="py-1.5 pr-4 font-normal">
                  {BETWEEN[one.between]}
                </th>
                <td className="pr-4">{one.counts}</td>
                <td className="pr-4">{Math.round(one.days)}</td>
                {[one.held50, one.held80, one.held95, one.above].map((share, at) => (
                  <td key={at} className="figure pr-4 text-lg">
                    {hundred(share)} %
                  </td>
                ))}
                <td className="pr-4">{BANDS[one.bands]}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-2 max-w-prose text-ink-2">
        {`${hundred(first.happened)} in 100 of these counts read over the act level. `}
        {`The chances given for that missed by ${first.brier.toFixed(3)} (mean square, nought is perfect); `}
        {`“the last count stays” would have missed by ${first.brier_stays.toFixed(3)}, `}
        {`“it grows at one rate” by ${first.brier_one_rate.toFixed(3)}. ${missed(first)} `}
        {AFTER_TREATMENTS[treated?.middle ?? "right"]}
      </p>
    </details>
  );
}

function missed(one: Evaluation): string {
  return one.beats_plain
    ? "The forecast did better than either."
    : "The forecast did no better than these: count more often than it asks.";
}

const AFTER_TREATMENTS: Record<Evaluation["middle"], string> = {
  right: "",
  too_high: "After treatments fewer mites were counted than predicted: they took more here than the model gives them.",
  too_low: "After treatments more mites were counted than predicted: look at how they are carried out.",
};

/** One sentence for a colony's own page. */
export function EvaluationSentence({ found }: { found: Evaluation | null }) {
  if (!found) return null;
  return (
    <>
      Of {found.counts} later counts in colonies left alone here, {hundred(found.held80)} in 100 lay inside its 80 %
      band: {BANDS[found.bands]}.{" "}
    </>
  );
}
