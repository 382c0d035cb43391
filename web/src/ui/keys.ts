/** Keys: each screen says which it has; the help dialog lists what is in force. */
import { useLayoutEffect, useRef } from "react";

export type Key = { key: string; shown?: string; says: string; run: (event: KeyboardEvent) => void };
type Listed = { shown: string; says: string };

const listed = new Map<symbol, Listed[]>();

/** The keys in force now, for the help dialog. */
export function keysInForce(): Listed[] {
  return [...listed.values()].flat();
}

function typing(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.isContentEditable || target instanceof HTMLTextAreaElement || target instanceof HTMLSelectElement)
    return true;
  return target instanceof HTMLInputElement && !["checkbox", "radio", "button"].includes(target.type);
}

/**
 * Binds keys while the component is shown, from the moment it is there and not only once it is painted. Not while a
 * field is typed in or a dialog is open.
 */
export function useKeys(keys: Key[], active = true): void {
  const latest = useRef(keys);
  useLayoutEffect(() => {
    latest.current = keys;
  });
  const summary = keys.map((key) => `${key.shown ?? key.key}|${key.says}`).join("\n");
  useLayoutEffect(() => {
    if (!active) return;
    const id = Symbol("keys");
    listed.set(
      id,
      summary.split("\n").map((line) => {
        const [shown = "", says = ""] = line.split("|");
        return { shown, says };
      }),
    );
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return;
      if (document.querySelector("[role=dialog]") !== null) return;
      const found = latest.current.find((key) => key.key.toLowerCase() === event.key.toLowerCase());
      if (found === undefined) return;
      // A button or link that has the focus keeps its own space and return.
      const focused =
        event.target instanceof HTMLElement && event.target.closest("a,button,[role=radio],[role=tab],summary");
      if (focused && (event.key === " " || event.key === "Enter")) {
        if (!(focused instanceof HTMLElement) || focused.dataset["keys"] !== "through") return;
      }
      event.preventDefault();
      found.run(event);
    };
    window.addEventListener("keydown", press);
    return () => {
      listed.delete(id);
      window.removeEventListener("keydown", press);
    };
  }, [active, summary]);
}
