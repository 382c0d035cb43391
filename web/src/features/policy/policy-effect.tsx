/** What a policy means: its levels through the year, and how every colony stands under it before and after a change. */
import { LevelYear, sayBand } from "@/instruments/level-year";
import type { Level } from "@/client/types";
import { LevelWord } from "@/ui/level";
import { SectionHeading } from "@/ui/page";
import { useWidth } from "@/ui/use-width";
import { colonies } from "@/wording/words";
import type { PolicyDraft } from "./use-policy-draft";

const LEVELS: Level[] = ["urgent", "act", "watch", "clear", "unknown"];

export function LevelsOfYear({ editing: { preview, policy, scheme } }: { editing: PolicyDraft }) {
  const [box, width] = useWidth<HTMLDivElement>(700);
  const year = preview.data ?? policy;
  return (
    <section aria-labelledby="year">
      <SectionHeading id="year">Levels through the year</SectionHeading>
      <p className="mt-1 text-sm text-ink-2">
        {scheme?.unit === "mites per day" ? "Mites a day on a board" : "Mites per 100 bees"}, from today on.
      </p>
      <div ref={box} className="mt-3">
        <LevelYear phases={year.phases} first={year.first} last={year.last} width={width} />
      </div>
      <details className="mt-1">
        <summary className="min-h-8 cursor-pointer py-1 text-sm underline underline-offset-4">As a list</summary>
        <ul className="text-sm text-ink-2">
          {year.phases.map((band) => (
            <li key={band.first}>
              {sayBand(band)}, urgent at {band.urgent}
            </li>
          ))}
        </ul>
      </details>
    </section>
  );
}

export function EffectOnColonies({ editing: { preview, isChanged: changed } }: { editing: PolicyDraft }) {
  const { data } = preview;
  if (!data) return null;
  const judging = preview.isPlaceholderData;
  const heading = !changed
    ? "How the counted colonies stand"
    : judging
      ? "What it would change: judging every colony …"
      : `What it would change: ${colonies(data.changed)}`;
  return (
    <section aria-labelledby="effect">
      <SectionHeading id="effect">{heading}</SectionHeading>
      <table className="mt-2 w-full text-left">
        <thead>
          <tr className="border-b border-ink text-sm">
            <th scope="col" className="py-1 font-semibold">
              level today
            </th>
            <th scope="col" className="py-1 text-right font-semibold">
              {changed ? "in force" : "colonies"}
            </th>
            {changed && (
              <th scope="col" className="py-1 text-right font-semibold">
                with the change
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {LEVELS.map((level) => (
            <tr key={level} className="border-b border-line">
              <th scope="row" className="py-1.5 font-normal">
                <LevelWord level={level} />
              </th>
              <td className="figure text-right text-xl">{data.before[level] ?? 0}</td>
              {changed && <td className="figure text-right text-xl">{judging ? "…" : (data.after[level] ?? 0)}</td>}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
