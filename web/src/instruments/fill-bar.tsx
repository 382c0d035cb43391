/**
 * How much of something, by where a bar ends: tap or drag there, one less or more at its ends, or arrow keys and digits
 * (x for ten). What it is, how much it is and how much it was last time stand in the bar.
 */
import { clsx } from "clsx";
import { useRef, type KeyboardEvent } from "react";

type Props = {
  label: string;
  /** What stands in the bar, where the label says more. */
  says?: string;
  name?: string;
  value: number | null;
  most?: number;
  unit?: string;
  was?: number | null | undefined;
  /** When it was so: a day in short. */
  wasOn?: string | undefined;
  fill?: string;
  invalid?: boolean;
  shown?: (value: number) => string;
  onChange: (value: number) => void;
};

export function FillBar(props: Props) {
  const { label, value, most = 10, invalid = false, onChange } = props;
  const step = (by: number) => onChange(Math.max(0, Math.min(most, (value ?? 0) + by)));
  const end =
    "min-h-14 border bg-sheet text-2xl font-semibold leading-none disabled:text-ink-3 desk:min-h-9 hover:bg-paper";
  const edge = invalid ? "border-act" : "border-line-2";
  return (
    <div className="grid grid-cols-[3.5rem_minmax(0,1fr)_3.5rem] desk:grid-cols-[2.25rem_minmax(0,1fr)_2.25rem]">
      <button
        type="button"
        data-keys="through"
        aria-label={`${label}: one less`}
        disabled={value !== null && value <= 0}
        className={clsx(end, edge, "border-r-0")}
        onClick={() => step(-1)}>
        −
      </button>
      <Bar {...props} />
      <button
        type="button"
        data-keys="through"
        aria-label={`${label}: one more`}
        disabled={value !== null && value >= most}
        className={clsx(end, edge, "border-l-0")}
        onClick={() => step(1)}>
        +
      </button>
    </div>
  );
}

/** The value that a key asks for, or none where it asks for nothing here. */
function asked(event: KeyboardEvent, value: number | null, most: number): number | null {
  if (event.ctrlKey || event.metaKey || event.altKey) return null;
  const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
  if (step !== undefined) return (value ?? 0) + step;
  if (/^\d$/.test(event.key)) return Number(event.key);
  return { Home: 0, End: most, x: 10 }[event.key] ?? null;
}

function Bar({ label, says, name, value, most = 10, unit = "tenths", was, wasOn, fill, invalid, ...rest }: Props) {
  const { shown = String, onChange } = rest;
  const bar = useRef<HTMLDivElement>(null);
  const at = (clientX: number) => {
    const box = bar.current?.getBoundingClientRect();
    if (!box) return value ?? 0;
    return Math.max(0, Math.min(most, Math.round(((clientX - box.left) / box.width) * most + 0.15)));
  };
  return (
    <div
      ref={bar}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={most}
      aria-valuenow={value ?? 0}
      aria-valuetext={value === null ? "not recorded" : `${value} ${unit}`}
      data-bar={name}
      aria-invalid={invalid || undefined}
      data-keys="through"
      className={clsx(
        "relative h-14 cursor-pointer touch-pan-y border select-none desk:h-9",
        value === null ? "hatch" : "bg-sheet",
        invalid ? "border-2 border-act" : "border-line-2",
      )}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        onChange(at(event.clientX));
      }}
      onPointerMove={(event) =>
        event.currentTarget.hasPointerCapture(event.pointerId) && event.buttons > 0 && onChange(at(event.clientX))
      }
      onKeyDown={(event) => {
        const next = asked(event, value, most);
        if (next === null) return;
        event.preventDefault();
        event.stopPropagation();
        onChange(Math.max(0, Math.min(most, next)));
      }}>
      <div
        className="absolute inset-y-0 left-0"
        style={{ width: `${(100 * (value ?? 0)) / most}%`, background: fill ?? "var(--line-2)" }}
      />
      {was !== undefined && was !== null && (
        <span className="absolute bottom-0 h-2/5 w-0.5 bg-ink" style={{ left: `calc(${(100 * was) / most}% - 1px)` }} />
      )}
      <Written label={says ?? label} was={was == null ? null : `${wasOn ?? "last time"}: ${shown(was)}`} />
      <span className="figure pointer-events-none absolute right-2 top-1/2 -translate-y-1/2 bg-sheet px-1 text-2xl">
        {value === null ? "–" : shown(value)}
      </span>
    </div>
  );
}

/** What stands in the bar, on paper of its own, so that no pattern runs through the letters. */
function Written({ label, was }: { label: string; was: string | null }) {
  return (
    <span
      className={clsx(
        "pointer-events-none absolute inset-y-0 left-1.5 flex flex-col items-start justify-center gap-0.5",
        "desk:flex-row desk:items-center desk:justify-start desk:gap-1.5",
      )}>
      <span className="bg-sheet px-1 font-semibold leading-tight">{label}</span>
      {was && <span className="bg-sheet px-1 text-sm leading-tight text-ink-2">{was}</span>}
    </span>
  );
}
