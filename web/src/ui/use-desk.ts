/** Whether the screen is as wide as a desk's: where the same part stands elsewhere on it, not only looks otherwise. */
import { useSyncExternalStore } from "react";

const wide = () => window.matchMedia("(min-width: 900px)");

function watch(changed: () => void): () => void {
  const query = wide();
  query.addEventListener("change", changed);
  return () => query.removeEventListener("change", changed);
}

export function useDesk(): boolean {
  return useSyncExternalStore(watch, () => wide().matches);
}
