/** The queue at work: it holds the state, keeps it on the device, and sends one item after the other. */
import { failureOf } from "./failure";
import { nextKey, reduce, type Item, type Queue, type QueueEvent } from "./queue";

/** Sends an item; answers with what the server said and the version that it has now. */
export type Send = (key: string, item: Item) => Promise<{ answer: unknown; base: number }>;
/** Hears what happened to an item; `answer` is what the server said to one that was sent. */
export type Listener = (event: QueueEvent, item: Item | undefined, answer?: unknown) => void;

export type Sync = {
  read: () => Queue;
  dispatch: (event: QueueEvent) => void;
  /** Send what is queued, oldest first, until there is none or no connection. */
  pump: () => Promise<void>;
  subscribe: (changed: () => void) => () => void;
  listen: (listener: Listener) => () => void;
};

export function createSync(kept: Queue, keep: (before: Queue, after: Queue) => void, send: Send): Sync {
  let queue = reduce(kept, { type: "restored" });
  let busy = false;
  const watchers = new Set<() => void>();
  const listeners = new Set<Listener>();

  const dispatch = (event: QueueEvent, answer?: unknown) => {
    const before = queue;
    queue = reduce(before, event);
    if (queue === before) return;
    keep(before, queue);
    watchers.forEach((changed) => changed());
    const item = "key" in event ? (queue[event.key] ?? before[event.key]) : undefined;
    listeners.forEach((listener) => listener(event, item, answer));
  };

  const sendOne = async (key: string, item: Item): Promise<boolean> => {
    dispatch({ type: "taken", key });
    try {
      const { answer, base } = await send(key, item);
      dispatch({ type: "sent", key, content: item.content, base }, answer);
      return true;
    } catch (error) {
      const failure = failureOf(error);
      dispatch({ type: "failed", key, content: item.content, failure });
      return failure.kind !== "lost";
    }
  };

  const pump = async () => {
    if (busy) return;
    busy = true;
    try {
      for (let key = nextKey(queue); key !== undefined; key = nextKey(queue)) {
        const item = queue[key];
        if (item === undefined || !(await sendOne(key, item))) break;
      }
    } finally {
      // A listener that fails must not stop all sending until the page is loaded again.
      busy = false;
    }
  };

  const within =
    <T>(set: Set<T>) =>
    (one: T) => {
      set.add(one);
      return () => void set.delete(one);
    };
  return { read: () => queue, dispatch, pump, subscribe: within(watchers), listen: within(listeners) };
}
