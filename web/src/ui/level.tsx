/** Levels and marks: a shape and a word, never colour alone. */
import { clsx } from "clsx";
import type { Level, MarkColour } from "@/client/types";
import { LEVEL } from "@/wording/words";

/** Red stands for danger and lateness alone; what is to be acted on is ink, by its shape and its word. */
export const LEVEL_TEXT: Record<Level, string> = {
  clear: "text-clear",
  watch: "text-watch",
  act: "text-ink",
  urgent: "text-act",
  unknown: "text-ink-3",
};

/**
 * The mark of a level: its shape, drawn; the word stands beside it wherever there is room. `old`: the count behind it
 * is too old to say how the colony stands now.
 */
export function LevelMark({ level, size = 18, old = false }: { level: Level; size?: number; old?: boolean }) {
  const over = level === "act" || level === "urgent";
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 18 18"
      aria-hidden="true"
      className={clsx("shrink-0", LEVEL_TEXT[level])}>
      {level === "clear" && <circle cx="9" cy="9" r="6.6" fill="var(--sheet)" stroke="currentColor" strokeWidth="2" />}
      {level === "watch" && (
        <>
          <circle cx="9" cy="9" r="6.6" fill="var(--sheet)" stroke="currentColor" strokeWidth="2" />
          <circle cx="9" cy="9" r="3.2" fill="currentColor" />
        </>
      )}
      {level === "act" && !old && <rect x="2.5" y="2.5" width="13" height="13" fill="currentColor" />}
      {level === "urgent" && !old && (
        <>
          <rect x="1" y="1" width="16" height="16" fill="var(--sheet)" stroke="currentColor" strokeWidth="2" />
          <rect x="5" y="5" width="8" height="8" fill="currentColor" />
        </>
      )}
      {(level === "unknown" || (over && old)) && (
        <>
          <rect
            x="2"
            y="2"
            width="14"
            height="14"
            fill="var(--sheet)"
            stroke="currentColor"
            strokeWidth={over ? 2.4 : 1.4}
          />
          <path d="M2 9 9 2M2 16 16 2M9 16l7-7" stroke="currentColor" strokeWidth={over ? 1.8 : 1.2} />
        </>
      )}
    </svg>
  );
}

/** The colour of a large figure: ink, but for danger. */
export const LEVEL_FIGURE: Record<Level, string> = { clear: "", watch: "", act: "", urgent: "text-act", unknown: "" };

export function LevelWord({ level }: { level: Level }) {
  return (
    <span className={clsx("inline-flex items-center gap-1.5 font-bold", LEVEL_TEXT[level])}>
      <LevelMark level={level} />
      {LEVEL[level]}
    </span>
  );
}

/** The five marking colours of the craft, as they are drawn. */
export const MARK: Record<MarkColour, string> = {
  white: "#ffffff",
  yellow: "#f2c230",
  red: "#c8322b",
  green: "#2f7d4f",
  blue: "#2d62b0",
};

/** A queen's mark: the colour with its name, so that it is never colour alone. */
export function QueenMark({ colour }: { colour: MarkColour }) {
  return (
    <svg width="13" height="13" viewBox="0 0 13 13" aria-hidden="true" className="shrink-0">
      <circle cx="6.5" cy="6.5" r="5.5" fill={MARK[colour]} stroke="var(--ink-2)" />
    </svg>
  );
}
