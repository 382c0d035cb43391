/** The queue as it is kept on the device, an item a key, so that two windows never write over one another's items. */
import { dropDraft, keepDraft, keysOfDrafts, readDraft } from "@/ui/drafts";
import type { Item, Queue } from "./queue";

const prefix = (person: string) => `queue:${person}:`;

/** What was kept of a person's queue. */
export function readQueue(person: string): Queue {
  const own = prefix(person);
  const kept = keysOfDrafts(own).map((key) => [key.slice(own.length), readDraft<Item>(key)] as const);
  return Object.fromEntries(kept.filter((one): one is readonly [string, Item] => one[1] !== null));
}

/** Keep what changed between two states of the queue. */
export function keepQueue(person: string, before: Queue, after: Queue): void {
  const own = prefix(person);
  Object.keys(before).forEach((key) => after[key] === undefined && dropDraft(own + key));
  Object.entries(after).forEach(([key, item]) => before[key] !== item && keepDraft(own + key, item));
}
