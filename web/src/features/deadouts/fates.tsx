/** Where each comb and box of a dead colony goes: held until foulbrood is excluded, then the ways side by side. */
import { clsx } from "clsx";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { useState } from "react";
import { carryOutFates, decideFates } from "@/client/commands/deadouts";
import { fatesQuery } from "@/client/deadout-queries";
import { Problem, type Schemas } from "@/client/types";
import { useMay } from "@/features/session/use-session";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { TextField } from "@/ui/fields";
import { Loaded } from "@/ui/loaded";
import { Page, SectionHeading, Title } from "@/ui/page";
import { capital, FATE, FATE_WHY } from "@/wording/words";
import { Exclusion } from "./exclusion";

type View = Schemas["FatesView"];
type Item = Schemas["ItemView"];
type FateId = Item["fate"];

export function Fates() {
  const { id } = useParams({ from: "/in/colonies/$id/combs" });
  const query = useQuery(fatesQuery(id));
  return (
    <Loaded query={query} what="Looking up combs and boxes …">
      {(view) => <Sheet view={view} />}
    </Loaded>
  );
}

const keyOf = (item: Item) => `${item.box_id}:${item.frame_id ?? ""}`;

function Sheet({ view }: { view: View }) {
  const [chosen, setChosen] = useState<string[]>([]);
  const mayRecord = useMay("record");
  const open = view.items.filter((one) => one.done_on === null);
  const picked = open.filter((one) => chosen.includes(keyOf(one)));
  const toggle = (items: Item[]) => {
    const keys = items.map(keyOf);
    const all = keys.every((one) => chosen.includes(one));
    setChosen(all ? chosen.filter((one) => !keys.includes(one)) : [...new Set([...chosen, ...keys])]);
  };
  return (
    <Page>
      <Breadcrumbs
        path={[
          { name: "Dead colonies", to: "/deadouts" },
          { name: view.label, to: "/deadouts/$id", params: { id: view.deadout_id }, search: {} },
        ]}
      />
      <Title>{`Combs and boxes of ${view.label}`}</Title>
      <Exclusion view={view} />
      <div className="mt-6 grid items-start gap-x-10 gap-y-6 desk:grid-cols-[minmax(0,1fr)_26rem]">
        <Plan view={view} chosen={chosen} onToggle={mayRecord ? toggle : null} />
        <div className="space-y-6">
          {mayRecord && <Decide view={view} picked={picked} onDone={() => setChosen([])} />}
          <Waiting view={view} mayRecord={mayRecord} />
        </div>
      </div>
    </Page>
  );
}

const KIND: Record<Item["kind"], string> = { honey_comb: "honey", brood_comb: "brood", box: "box" };

/** The boxes from the top, each with its combs; a tap chooses, the name of a box chooses all in it. */
function Plan({
  view,
  chosen,
  onToggle,
}: {
  view: View;
  chosen: string[];
  onToggle: ((items: Item[]) => void) | null;
}) {
  const boxes = [...new Set(view.items.map((one) => one.box))].sort((a, b) => b - a);
  return (
    <section aria-labelledby="plan">
      <SectionHeading id="plan" says="from the top; choose what goes the same way">
        What it left
      </SectionHeading>
      <ol className="mt-3 space-y-2">
        {boxes.map((number) => {
          const items = view.items.filter((one) => one.box === number);
          const box = items.find((one) => one.kind === "box");
          const combs = items.filter((one) => one.kind !== "box");
          const open = combs.filter((one) => one.done_on === null);
          return (
            <li key={number} className="border-[3px] border-ink bg-paper p-2">
              <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
                {onToggle && open.length > 0 ? (
                  <Button onClick={() => onToggle(open)}>All combs of box {number}</Button>
                ) : (
                  <span>Box {number}</span>
                )}
                {box && <Mark item={box} chosen={chosen.includes(keyOf(box))} onToggle={onToggle} />}
              </div>
              <div className="flex flex-wrap gap-1">
                {combs.map((one) => (
                  <Mark key={keyOf(one)} item={one} chosen={chosen.includes(keyOf(one))} onToggle={onToggle} />
                ))}
              </div>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

/** What stands on a comb or box: its number, what it is, where it goes. */
function Mark({ item, chosen, onToggle }: { item: Item; chosen: boolean; onToggle: ((items: Item[]) => void) | null }) {
  const short = FATE[item.fate].split(/ for | in |, /)[0] ?? "";
  return (
    <button
      type="button"
      aria-pressed={chosen}
      disabled={!onToggle || item.done_on !== null}
      onClick={() => onToggle?.([item])}
      className={clsx(
        "flex min-h-20 min-w-16 flex-1 flex-col items-center justify-between border px-1 py-1 text-center",
        "text-xs leading-tight",
        item.kind === "box"
          ? "min-h-14 max-w-56 border-2 border-ink"
          : "max-w-28 border-line-2 border-t-[5px] border-t-ink",
        chosen ? "bg-ink text-sheet" : item.done_on ? "hatch bg-paper text-ink-2" : "bg-sheet",
      )}>
      <span className="figure text-lg">
        {item.slot !== null && <span className="sr-only">Comb </span>}
        {item.slot ?? `box ${item.box}`}
      </span>
      {item.slot !== null && <span>{item.comb_year ? `${KIND[item.kind]} ${item.comb_year}` : KIND[item.kind]}</span>}
      <span className={clsx(item.fate !== "hold" && "font-bold")}>
        {item.fate === "hold" ? "held" : item.done_on ? `${short}, done` : short}
      </span>
    </button>
  );
}

/** The ways that are open to all that was chosen; a way that is barred for one of them says why. */
function Decide({ view, picked, onDone }: { view: View; picked: Item[]; onDone: () => void }) {
  const client = useQueryClient();
  const [fate, setFate] = useState<FateId | null>(null);
  const [reason, setReason] = useState("");
  const decide = useMutation({
    mutationFn: (way: FateId) =>
      decideFates(view.colony_id, {
        items: picked.map((one) => ({ box_id: one.box_id, frame_id: one.frame_id })),
        fate: way,
        reason,
      }),
    onSuccess: async (next) => {
      client.setQueryData(["colony", view.colony_id, "fates"], next);
      setFate(null);
      setReason("");
      onDone();
      await client.invalidateQueries({ queryKey: ["deadouts"] });
    },
  });
  const ways = waysOf(picked);
  const asksWhy = fate !== null && ways.find((one) => one.fate === fate)?.ruling === "open" && fate !== "hold";
  const fault = decide.error instanceof Problem ? decide.error : null;
  return (
    <section aria-labelledby="decide">
      <SectionHeading id="decide">Where it goes</SectionHeading>
      {picked.length === 0 ? (
        <p className="mt-2 text-ink-2">Choose combs or boxes.</p>
      ) : (
        <form
          className="mt-2 space-y-3"
          noValidate
          onSubmit={(event) => {
            event.preventDefault();
            if (fate) decide.mutate(fate);
          }}>
          <p>{picked.length} chosen.</p>
          {ways.length === 0 && <p className="text-ink-2">Combs and boxes go different ways: choose one kind.</p>}
          <ul>
            {ways.map((way) => (
              <li key={way.fate} className="border-t border-line">
                <label
                  className={clsx("flex min-h-14 items-center gap-3 py-1", way.ruling === "barred" && "text-ink-3")}>
                  <input
                    type="radio"
                    name="fate"
                    className="h-5 w-5 shrink-0 accent-ink"
                    disabled={way.ruling === "barred"}
                    checked={fate === way.fate}
                    onChange={() => setFate(way.fate)}
                  />
                  <span>
                    <span className="font-semibold">{capital(FATE[way.fate])}</span>
                    {way.ruling === "usual" && <span className="ml-2 text-sm">usual</span>}
                    {way.reasons.length > 0 && (
                      <span className="block text-sm text-ink-2">
                        {capital(way.reasons.map((one) => FATE_WHY[one]).join("; "))}.
                      </span>
                    )}
                  </span>
                </label>
              </li>
            ))}
          </ul>
          {asksWhy && (
            <TextField
              label="Why this way?"
              name="reason"
              maxLength={400}
              error={fault?.at("reason")}
              value={reason}
              onChange={setReason}
            />
          )}
          {fault && !fault.at("reason") && (
            <p role="alert" className="font-semibold text-act">
              {fault.message}
            </p>
          )}
          <Button type="submit" variant="main" className="w-full" disabled={fate === null || decide.isPending}>
            Decide
          </Button>
        </form>
      )}
    </section>
  );
}

/** Ways that all chosen items have, barred where one of them is barred. */
function waysOf(items: Item[]): Schemas["FateJudged"][] {
  const [first, ...others] = items;
  if (!first) return [];
  return first.ways.flatMap((way) => {
    const same = others.map((one) => one.ways.find((each) => each.fate === way.fate));
    if (same.some((one) => one === undefined)) return [];
    const every = [way, ...same.filter((one) => one !== undefined)];
    const ruling = every.some((one) => one.ruling === "barred")
      ? "barred"
      : every.every((one) => one.ruling === "usual")
        ? "usual"
        : "open";
    return [{ fate: way.fate, ruling, reasons: [...new Set(every.flatMap((one) => one.reasons))] }];
  });
}

/** What was decided and waits to be done. */
function Waiting({ view, mayRecord }: { view: View; mayRecord: boolean }) {
  const client = useQueryClient();
  const done = useMutation({
    mutationFn: (fate: FateId) => carryOutFates(view.colony_id, { fate, on: view.today }),
    onSuccess: async (next) => {
      client.setQueryData(["colony", view.colony_id, "fates"], next);
      await client.invalidateQueries({
        predicate: (query) => query.queryKey[0] === "deadouts" || query.queryKey[1] === view.colony_id,
      });
    },
  });
  const decided = view.items.filter((one) => one.fate !== "hold" && one.fate !== "laboratory");
  if (decided.length === 0) return null;
  const ways = [...new Set(decided.map((one) => one.fate))];
  return (
    <section aria-labelledby="waiting">
      <SectionHeading id="waiting">Decided</SectionHeading>
      <ul className="mt-1">
        {ways.map((fate) => {
          const own = decided.filter((one) => one.fate === fate);
          const left = own.filter((one) => one.done_on === null);
          const last = own
            .map((one) => one.done_on ?? "")
            .sort()
            .at(-1);
          return (
            <li
              key={fate}
              className="flex min-h-14 flex-wrap items-center justify-between gap-2 border-t border-line py-1">
              <span>
                <span className="font-semibold">{capital(FATE[fate])}</span>: {own.length}
                {left.length < own.length && last && `, ${own.length - left.length} done ${shortDay(last, view.today)}`}
                {own.find((one) => one.reason)?.reason && (
                  <span className="block text-sm text-ink-2">{own.find((one) => one.reason)?.reason}</span>
                )}
              </span>
              {left.length > 0 && mayRecord && (
                <Button disabled={done.isPending} onClick={() => done.mutate(fate)}>
                  Done today
                </Button>
              )}
            </li>
          );
        })}
      </ul>
      {done.error && (
        <p role="alert" className="font-semibold text-act">
          {done.error.message}
        </p>
      )}
    </section>
  );
}
