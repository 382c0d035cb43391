/** Whether there is signal: what the device says, and whether the last answer was fresh or one that was kept. */
import { useSyncExternalStore } from "react";

let kept = false;
const watchers = new Set<() => void>();

/** Hears of every answer: one that the device had kept says so. */
export function heardAnswer(response: Response): void {
  const now = response.headers.get("x-kept") !== null;
  if (now === kept) return;
  kept = now;
  watchers.forEach((changed) => changed());
}

function watch(changed: () => void): () => void {
  watchers.add(changed);
  window.addEventListener("online", changed);
  window.addEventListener("offline", changed);
  return () => {
    watchers.delete(changed);
    window.removeEventListener("online", changed);
    window.removeEventListener("offline", changed);
  };
}

/** Whether the page is without signal. */
export const useNoSignal = (): boolean => useSyncExternalStore(watch, () => kept || !navigator.onLine);
