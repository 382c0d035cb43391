/**
 * What was recorded on this device and has not reached the server: a pure reducer over what happens to it.
 *
 * An item is queued until it is taken for sending; once sent it leaves. One that the server refuses waits for the
 * person, and so does a conflict, where somebody else changed the same thing meanwhile. What changes while it is being
 * sent is queued again, on top of what was sent.
 */

export type ItemState = "queued" | "sending" | "refused" | "conflict";
/**
 * `base` is the version that the content was made from; `why` and `field` say what the server had against it; `order`
 * is that in which things were first recorded.
 */
export type Item = {
  kind: string;
  scope: string;
  content: unknown;
  base: number;
  state: ItemState;
  why: string;
  field: string;
  order: number;
};
/** Items by their key. */
export type Queue = Readonly<Record<string, Item>>;
export type Failure = { kind: "lost" | "conflict" | "refused"; why: string; field: string };
export type QueueEvent =
  | { type: "recorded"; key: string; kind: string; scope: string; content: unknown; base: number }
  | { type: "taken"; key: string }
  | { type: "sent"; key: string; content: unknown; base: number }
  | { type: "failed"; key: string; content: unknown; failure: Failure }
  | { type: "settled"; key: string; mine: boolean; base: number }
  | { type: "withdrawn"; key: string }
  | { type: "restored" };

/** The queue after an event; events about items that are not there change nothing. */
export function reduce(queue: Queue, event: QueueEvent): Queue {
  if (event.type === "restored") return mapItems(queue, (item) => (item.state === "sending" ? queued(item) : item));
  if (event.type === "recorded") return recorded(queue, event);
  const item = queue[event.key];
  if (item === undefined) return queue;
  const replace = (next: Item): Queue => ({ ...queue, [event.key]: next });
  switch (event.type) {
    case "taken":
      return item.state === "queued" ? replace({ ...item, state: "sending" }) : queue;
    case "sent":
      return item.content === event.content
        ? without(queue, event.key)
        : replace({ ...queued(item), base: event.base });
    case "failed":
      return replace({ ...item, ...afterFailure(item, event.content, event.failure) });
    case "settled":
      return event.mine ? replace({ ...queued(item), base: event.base }) : without(queue, event.key);
    case "withdrawn":
      return without(queue, event.key);
  }
}

/** The key of the next item to send: the first recorded of those that are queued. */
export function nextKey(queue: Queue): string | undefined {
  const waiting = Object.entries(queue).filter(([, item]) => item.state === "queued");
  return waiting.sort(([, a], [, b]) => a.order - b.order)[0]?.[0];
}

function recorded(queue: Queue, event: Extract<QueueEvent, { type: "recorded" }>): Queue {
  const { key, kind, scope, content } = event;
  const before = queue[key];
  const state = before?.state === "conflict" ? "conflict" : "queued";
  const order = before?.order ?? Math.max(0, ...Object.values(queue).map((item) => item.order)) + 1;
  const base = before?.base ?? event.base;
  return { ...queue, [key]: { kind, scope, content, base, state, why: "", field: "", order } };
}

function afterFailure(item: Item, content: unknown, failure: Failure): Pick<Item, "state" | "why" | "field"> {
  const { why, field } = failure;
  if (failure.kind === "conflict") return { state: "conflict", why, field };
  const changed = item.content !== content;
  return { state: failure.kind === "lost" || changed ? "queued" : "refused", why, field };
}

const queued = (item: Item): Item => ({ ...item, state: "queued", why: "", field: "" });

function without(queue: Queue, key: string): Queue {
  return Object.fromEntries(Object.entries(queue).filter(([other]) => other !== key));
}

function mapItems(queue: Queue, change: (item: Item) => Item): Queue {
  return Object.fromEntries(Object.entries(queue).map(([key, item]) => [key, change(item)]));
}
