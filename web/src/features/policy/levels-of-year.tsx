/** The levels of a draft through the year, next to the figures that are edited. */
import { LevelYear, sayBand } from "@/instruments/level-year";
import { SectionHeading } from "@/ui/page";
import { useWidth } from "@/ui/use-width";
import type { PolicyDraft } from "./use-policy-draft";

export function LevelsOfYear({ editing: { preview, policy, scheme, lit } }: { editing: PolicyDraft }) {
  const [box, width] = useWidth<HTMLDivElement>(700);
  const year = preview.data ?? policy;
  return (
    <section aria-labelledby="year">
      <SectionHeading id="year">Levels through the year</SectionHeading>
      <p className="mt-1 text-sm text-ink-2">
        {scheme?.unit === "mites per day" ? "Mites a day on a board" : "Mites per 100 bees"}, from today on.
      </p>
      <div ref={box} className="mt-3">
        <LevelYear phases={year.phases} first={year.first} last={year.last} width={width} lit={lit} />
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
