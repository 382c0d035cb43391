/**
 * The levels of the school chosen: watch, act and urgent by phase, with their source; own figures stand over the
 * defaults.
 */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { PHASE } from "@/wording/words";

type School = Schemas["SchemeChoice"];
type Phase = keyof typeof PHASE;
export type OwnLevels = Record<string, Record<string, number>>;

const LEVELS = ["watch", "act", "urgent"] as const;
const PHASES = Object.keys(PHASE) as Phase[];

export function LevelsEditor({
  school,
  own,
  onChange,
  errorAt,
  disabled = false,
  fieldOf,
  onPhase,
}: {
  school: School;
  own: OwnLevels;
  onChange: (own: OwnLevels) => void;
  errorAt: (field: string) => string | undefined;
  disabled?: boolean;
  /** The path of a figure as the server names it. */
  fieldOf: (phase: string, level: string) => string;
  /** Called with the phase whose figures have the focus, null where they are of the whole year. */
  onPhase?: (phase: Phase | null) => void;
}) {
  const flat = school.is_flat;
  const rows = flat ? (["peak"] as Phase[]) : PHASES;
  if (!school.has_levels)
    return <p className="text-ink-2">One mite is one mite: there is no level to set. {school.source}</p>;
  const figure = (phase: Phase, level: (typeof LEVELS)[number]) =>
    own[phase]?.[level] ?? school.defaults[phase]?.[level] ?? 0;
  const set = (phase: Phase, level: (typeof LEVELS)[number], value: number) => {
    const next: OwnLevels = { ...own };
    for (const one of flat ? PHASES : [phase])
      next[one] = {
        watch: figure(one, "watch"),
        act: figure(one, "act"),
        urgent: figure(one, "urgent"),
        [level]: value,
      };
    onChange(next);
  };
  const faults = rows
    .flatMap((phase) => LEVELS.map((level) => errorAt(fieldOf(phase, level))))
    .filter((one) => one !== undefined);
  return (
    <div>
      <table className="w-full text-left">
        <caption className="sr-only">Levels in {school.unit}</caption>
        <thead>
          <tr className="border-b border-ink text-sm">
            <th scope="col" className="py-1 font-semibold">
              {school.unit}
            </th>
            {LEVELS.map((level) => (
              <th key={level} scope="col" className="py-1 pl-2 text-right font-semibold">
                {level}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((phase) => (
            <tr
              key={phase}
              className="border-b border-line focus-within:bg-sheet"
              onFocus={() => onPhase?.(flat ? null : phase)}
              onBlur={() => onPhase?.(null)}>
              <th scope="row" className="py-1 font-normal">
                {flat ? "all year" : PHASE[phase]}
              </th>
              {LEVELS.map((level) => {
                const changed = figure(phase, level) !== school.defaults[phase]?.[level];
                return (
                  <td key={level} className="py-1 pl-2 text-right">
                    <input
                      type="number"
                      min={0.05}
                      max={1000}
                      step={0.25}
                      disabled={disabled}
                      value={figure(phase, level)}
                      aria-label={`${flat ? "all year" : PHASE[phase]}: ${level}`}
                      aria-invalid={errorAt(fieldOf(phase, level)) ? true : undefined}
                      className={clsx("input w-20! text-right desk:w-24!", changed && "font-bold")}
                      onChange={(event) => set(phase, level, Number(event.target.value))}
                    />
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {faults[0] && (
        <p role="alert" className="mt-1 font-semibold text-act">
          {faults[0]}
        </p>
      )}
      <p className="mt-2 text-sm text-ink-2">
        {school.source}{" "}
        {Object.keys(own).length > 0 && !disabled && (
          <button type="button" className="min-h-7 underline underline-offset-4" onClick={() => onChange({})}>
            Reset to defaults
          </button>
        )}
      </p>
    </div>
  );
}
