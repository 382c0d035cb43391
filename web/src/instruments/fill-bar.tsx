/** How much of something, by where a bar ends: tap or drag there, or arrow keys and digits (x for ten). */
import { clsx } from "clsx";
import { useRef } from "react";

export function FillBar({
  label,
  name,
  value,
  most = 10,
  unit = "tenths",
  was,
  fill = "var(--ink-2)",
  invalid = false,
  onChange,
}: {
  label: string;
  name?: string;
  value: number | null;
  most?: number;
  unit?: string;
  was?: number | undefined;
  fill?: string;
  invalid?: boolean;
  onChange: (value: number) => void;
}) {
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
        "relative h-14 w-full cursor-pointer touch-pan-y border select-none desk:h-8",
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
        const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
        const digit = /^\d$/.test(event.key) ? Number(event.key) : null;
        const next =
          step !== undefined
            ? (value ?? 0) + step
            : event.key === "Home"
              ? 0
              : event.key === "End"
                ? most
                : event.key === "x"
                  ? 10
                  : digit;
        if (next === null || event.ctrlKey || event.metaKey || event.altKey) return;
        event.preventDefault();
        event.stopPropagation();
        onChange(Math.max(0, Math.min(most, next)));
      }}>
      <div
        className="absolute inset-y-0 left-0"
        style={{ width: `${(100 * (value ?? 0)) / most}%`, background: fill }}
      />
      {Array.from({ length: most - 1 }, (_, tenth) => (
        <span
          key={tenth}
          className="absolute inset-y-0 w-px bg-line"
          style={{ left: `${(100 * (tenth + 1)) / most}%` }}
        />
      ))}
      {was !== undefined && (
        <span
          className="absolute -bottom-px h-2 w-0.5 bg-ink"
          style={{ left: `calc(${(100 * was) / most}% - 1px)` }}
          title={`last time ${was}`}
        />
      )}
    </div>
  );
}
