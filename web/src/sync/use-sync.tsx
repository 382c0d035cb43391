/** The queue for React: one for the person at work, sending behind the hand wherever in the application they are. */
import { createContext, useContext, useEffect, useMemo, useState, useSyncExternalStore, type ReactNode } from "react";
import type { Item } from "./queue";
import { keepQueue, readQueue } from "./storage";
import { createSync, type Listener, type Send, type Sync } from "./sync";

const PAUSE_MS = 350;
const AGAIN_MS = 8000;
const Context = createContext<Sync | null>(null);

export function SyncProvider({ person, send, children }: { person: string; send: Send; children: ReactNode }) {
  const [sync] = useState(() =>
    createSync(readQueue(person), (before, after) => keepQueue(person, before, after), send),
  );
  useEffect(() => {
    let soon: number | undefined;
    const pump = () => void sync.pump();
    const changed = () => {
      window.clearTimeout(soon);
      soon = window.setTimeout(pump, PAUSE_MS);
    };
    const stop = sync.subscribe(changed);
    const again = window.setInterval(pump, AGAIN_MS);
    window.addEventListener("online", pump);
    changed();
    return () => {
      stop();
      window.clearTimeout(soon);
      window.clearInterval(again);
      window.removeEventListener("online", pump);
    };
  }, [sync]);
  return <Context.Provider value={sync}>{children}</Context.Provider>;
}

export function useSync(): Sync {
  const sync = useContext(Context);
  if (sync === null) throw new Error("there is no queue outside the sign-in");
  return sync;
}

/** The items of one scope that have not reached the server, by key. */
export function useUnsent(scope: string): Readonly<Record<string, Item>> {
  const sync = useSync();
  const queue = useSyncExternalStore(sync.subscribe, sync.read);
  return useMemo(
    () => Object.fromEntries(Object.entries(queue).filter(([, item]) => item.scope === scope)),
    [queue, scope],
  );
}

/** How many items have not reached the server. */
export function useUnsentCount(): number {
  const sync = useSync();
  return useSyncExternalStore(sync.subscribe, () => Object.keys(sync.read()).length);
}

/** Hear of what happens to the items of a scope while the component is shown. */
export function useSyncListener(scope: string, listener: Listener): void {
  const sync = useSync();
  useEffect(
    () => sync.listen((event, item, answer) => item?.scope === scope && listener(event, item, answer)),
    [sync, scope, listener],
  );
}
