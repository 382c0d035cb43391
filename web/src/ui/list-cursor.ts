/**
 * A cursor through a list by keys: j and k move it and the focus, so that it is read out; Return opens what it stands
 * on. A pointer that passes by leaves it where it is, and so does a page opened from it and left by Back.
 */
import { useState } from "react";
import { useKeys } from "./keys";

/** Where the cursor stands in each list of each address, while the application is open. */
const kept = new Map<string, number>();

export function useListCursor(length: number, noun: string, open: (index: number) => void) {
  const list = `${window.location.pathname} ${noun}`;
  const [wanted, setWanted] = useState(() => kept.get(list) ?? 0);
  const setChosen = (index: number) => {
    kept.set(list, index);
    setWanted(index);
  };
  const chosen = Math.min(wanted, Math.max(0, length - 1));
  const move = (step: number) => {
    const next = Math.min(Math.max(chosen + step, 0), Math.max(0, length - 1));
    setChosen(next);
    document.getElementById(`${noun}-${next}`)?.querySelector("a")?.focus();
  };
  useKeys(
    [
      { key: "j", says: `next ${noun}`, run: () => move(1) },
      { key: "k", says: `${noun} before`, run: () => move(-1) },
      { key: "Enter", shown: "Return", says: `open the ${noun}`, run: () => open(chosen) },
    ],
    length > 0,
  );
  const item = (index: number) => ({
    id: `${noun}-${index}`,
    chosen: index === chosen,
    onChoose: () => setChosen(index),
  });
  return { chosen, item };
}

/** The keys of a list, for the foot of the screen. */
export const LIST_KEYS: [string, string][] = [
  ["j", "next"],
  ["k", "before"],
  ["Return", "open"],
];
