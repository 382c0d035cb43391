/** Work in progress, kept on the device at every tap, so that nothing is lost to a reload or a dead battery. */

export function readDraft<T>(key: string, store: Storage = localStorage): T | null {
  try {
    const text = store.getItem(`redframe:${key}`);
    return text === null ? null : (JSON.parse(text) as T);
  } catch {
    return null;
  }
}

export function keepDraft(key: string, value: unknown, store: Storage = localStorage): void {
  try {
    store.setItem(`redframe:${key}`, JSON.stringify(value));
  } catch {
    // A full or forbidden store must not stop the work at hand.
  }
}

export function dropDraft(key: string, store: Storage = localStorage): void {
  try {
    store.removeItem(`redframe:${key}`);
  } catch {
    // As above.
  }
}

/** The keys of what is kept, of those that begin so. */
export function keysOfDrafts(beginning: string): string[] {
  try {
    const whole = `redframe:${beginning}`;
    const keys = Array.from({ length: localStorage.length }, (_, index) => localStorage.key(index) ?? "");
    return keys.filter((key) => key.startsWith(whole)).map((key) => key.slice("redframe:".length));
  } catch {
    return [];
  }
}
