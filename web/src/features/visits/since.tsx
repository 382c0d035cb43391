/** What changed since the visit that lies beside: brood gained and lost, signs new, gone or spread, the queen. */
import { useQuery } from "@tanstack/react-query";
import { signsQuery } from "@/client/queries";
import { shortDay } from "@/ui/dates";
import type { View } from "./visit-queue";

/** "3 to 5, 8" */
function places(slots: number[]): string {
  const runs: [number, number][] = [];
  for (const slot of [...slots].sort((a, b) => a - b)) {
    const last = runs[runs.length - 1];
    if (last && slot === last[1] + 1) last[1] = slot;
    else runs.push([slot, slot]);
  }
  return runs.map(([from, to]) => (from === to ? `${from}` : `${from} to ${to}`)).join(", ");
}

const CHANGED = { new: "new", gone: "gone", spread: "spread", less: "less", same: "as before" } as const;

export function Since({ view, numbered }: { view: View; numbered: (box: number, slot: number) => number }) {
  const signs = useQuery(signsQuery);
  if (!view.compared_with || view.previous.length === 0) return null;
  const { changes } = view.assessment;
  const several = new Set(changes.map((one) => one.box)).size > 1;
  const boxes = [...new Set(changes.map((one) => one.box))];
  const where = (which: (change: (typeof changes)[number]) => boolean) =>
    boxes
      .map((box) => ({
        box,
        slots: changes.filter((one) => one.box === box && which(one)).map((one) => numbered(one.box, one.slot)),
      }))
      .filter((one) => one.slots.length > 0)
      .map((one) => `${several ? `box ${one.box}: ` : ""}${places(one.slots)}`)
      .join("; ");
  const gained = where((one) => (one.brood ?? 0) >= 2);
  const lost = where((one) => (one.brood ?? 0) <= -2);
  const kinds = new Map<string, string[]>();
  for (const one of changes)
    for (const sign of one.signs) {
      const key = `${sign.sign}|${sign.change}`;
      kinds.set(key, [...(kinds.get(key) ?? []), `${several ? `${one.box}.` : ""}${numbered(one.box, one.slot)}`]);
    }
  const short = (view.assessment.cohorts?.combs ?? [])
    .filter((one) => one.is_short)
    .map((one) => `${several ? `${one.box}.` : ""}${numbered(one.box, one.slot)}`);
  const queenAt = (...kinds: string[]) =>
    changes
      .filter((one) => kinds.includes(one.queen))
      .map((one) => `${several ? `${one.box}.` : ""}${numbered(one.box, one.slot)}`)
      .join(", ");
  const then = queenAt("here_then", "both");
  const now = queenAt("here_now", "both");
  const eggs = view.assessment.estimates.eggs_known !== "none";
  const looked = view.assessment.estimates.hive.seen > 0;
  const parts = [
    gained && `Brood gained on ${gained}.`,
    lost && `Brood lost on ${lost}.`,
    short.length > 0 && `Fewer sealed than should be by now on ${short.join(", ")}.`,
    ...[...kinds].map(([key, on]) => {
      const [sign = "", change] = key.split("|");
      const name = signs.data?.find((one) => one.id === sign)?.name ?? sign;
      const said = `${name} ${CHANGED[change as keyof typeof CHANGED]} on ${on.join(", ")}.`;
      return `${said[0]?.toUpperCase()}${said.slice(1)}`;
    }),
    now
      ? `The queen is on ${now} today${then ? `, on ${then} then` : ""}.`
      : then && looked
        ? `The queen was on ${then} then; ${eggs ? "today only eggs so far" : "today neither she nor eggs so far"}.`
        : "",
  ].filter(Boolean);
  const nothing =
    view.visit.state === "closed"
      ? "No frame was recorded at this visit."
      : "Record a frame, and what changed stands here.";
  return (
    <section aria-labelledby="since">
      <h2 id="since" className="text-lg">
        Since {shortDay(view.compared_with.visited_on, view.today)}
      </h2>
      <p className="text-ink-2">
        {parts.length > 0 ? parts.join(" ") : looked ? "Nothing to tell apart yet." : nothing}
      </p>
    </section>
  );
}
