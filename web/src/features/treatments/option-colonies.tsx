/** An option colony by colony: the verdict with its reasons, the dose, and whether it takes part. */
import { Checkbox } from "@/ui/checkbox";
import { shortDay } from "@/ui/dates";
import { LevelMark } from "@/ui/level";
import { oneDecimal, quantity, rate } from "@/ui/units";
import { useSentence } from "@/features/session/use-sentence";
import { VerdictMark } from "./option-line";
import { SOURCE, isStartable, type Judged, type OptionRow, type Options } from "./option-rows";
import type { Planning } from "./use-plan";

type Props = { row: OptionRow; view: Options; planning: Planning };

export function OptionColonies({ row, view, planning }: Props) {
  const say = useSentence();
  return (
    <table className="mt-5 w-full border-collapse text-left">
      <caption className="sr-only">{row.option.name}, colony by colony</caption>
      <thead>
        <tr className="border-b border-ink text-sm">
          <th scope="col" className="py-1 pr-2 font-semibold">
            colony
          </th>
          <th scope="col" className="py-1 pr-2 font-semibold">
            verdict and reasons
          </th>
          <th scope="col" className="py-1 text-right font-semibold">
            dose per placing
          </th>
        </tr>
      </thead>
      <tbody>
        {row.per.map(({ colony, judged }) => (
          <tr key={colony.colony_id} className="border-b border-line align-top">
            <th scope="row" className="py-2 pr-2">
              <Checkbox
                label={colony.label}
                disabled={!isStartable(judged) && !planning.isOverridden(colony.colony_id)}
                checked={planning.isTaken(colony.colony_id)}
                onChange={() => planning.toggle(colony.colony_id)}
              />
              <span className="flex items-center gap-1 pl-7 text-sm font-normal text-ink-2">
                <LevelMark level={colony.level} size={12} />
                {colony.per_100 === null ? "?" : rate(colony.per_100)}
              </span>
            </th>
            <td className="py-2 pr-2">
              <VerdictMark verdict={judged.verdict} />
              {judged.verdict === "not_now" && (
                <span className="text-sm text-ink-2">
                  {judged.from_day && ` from ${shortDay(judged.from_day, view.start_on)}`}
                  {judged.from_day && !judged.weather_known && " (weather not yet known)"}
                </span>
              )}
              <ul className="text-sm text-ink-2">
                {judged.reasons.map((reason) => (
                  <li key={reason.rule}>
                    {say(reason)} <span className="text-ink-3">({SOURCE[reason.source] ?? reason.source})</span>
                  </li>
                ))}
              </ul>
              {!isStartable(judged) && judged.dose && !planning.isOverridden(colony.colony_id) && (
                <button
                  type="button"
                  className="min-h-14 text-sm underline underline-offset-4 desk:min-h-8"
                  aria-label={`Override for ${colony.label}`}
                  onClick={() => planning.override(colony.colony_id)}>
                  Override
                </button>
              )}
            </td>
            <td className="py-2 text-right">
              <Dose judged={judged} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Dose({ judged }: { judged: Judged }) {
  if (!judged.dose) return "–";
  return (
    <>
      <span className="figure text-xl">{oneDecimal(judged.dose.quantity)}</span>{" "}
      {quantity(judged.dose.quantity, judged.dose.unit).replace(/^\S+ /, "")}
      {judged.dose.converted && <span className="block text-sm text-ink-2">converted from the other measure</span>}
      {judged.dose.capped && <span className="block text-sm text-ink-2">at its maximum</span>}
    </>
  );
}
