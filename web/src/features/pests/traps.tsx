/** Traps in the hive: set, emptied, taken out; what they caught a trap and day, which tells more than how many. */
import { useState } from "react";
import { emptyPestTrap, removePestTrap, setPestTrap } from "@/client/commands/pests";
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { ChoiceField } from "@/ui/choice";
import { DateField } from "@/ui/date-field";
import { shortDay } from "@/ui/dates";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/fields";
import { SectionHeading } from "@/ui/page";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { Stepper } from "@/ui/stepper";
import { capital } from "@/wording/words";
import { TRAP } from "./words";

type View = Schemas["ColonyPests"];
type Shown = View["traps"][number];
type Props = { view: View; colonyId: string; mayRecord: boolean; onSaved: () => Promise<unknown> };
type Open = { what: "set" } | { what: "empty" | "remove"; trap: Shown["trap"] };

export function Traps({ view, colonyId, mayRecord, onSaved }: Props) {
  const [open, setOpen] = useState<Open | null>(null);
  const close = () => setOpen(null);
  const done = async () => {
    await onSaved();
    close();
  };
  if (view.traps.length === 0 && !mayRecord) return null;
  return (
    <section aria-labelledby="traps">
      <SectionHeading id="traps">Traps</SectionHeading>
      <ul>
        {view.traps.map((shown) => (
          <li key={shown.trap.id} className="border-t border-line py-2">
            <p>
              <strong>
                {shown.trap.number} {TRAP[shown.trap.kind]}
              </strong>
              {shown.trap.place && `, ${shown.trap.place}`}, since {shortDay(shown.trap.placed_on, view.today)}
              {shown.trap.removed_on && `, out ${shortDay(shown.trap.removed_on, view.today)}`}
            </p>
            <Caught shown={shown} today={view.today} />
            {mayRecord && !shown.trap.removed_on && (
              <div className="flex flex-wrap gap-2 pt-1">
                <Button onClick={() => setOpen({ what: "empty", trap: shown.trap })}>Emptied</Button>
                <Button variant="quiet" onClick={() => setOpen({ what: "remove", trap: shown.trap })}>
                  Taken out
                </Button>
              </div>
            )}
          </li>
        ))}
      </ul>
      {mayRecord && (
        <Button className="mt-2" onClick={() => setOpen({ what: "set" })}>
          Set traps
        </Button>
      )}
      <Dialog open={open !== null} onClose={close} title={open?.what === "set" ? "Set traps" : "The traps"}>
        {open?.what === "set" && <SetForm colonyId={colonyId} today={view.today} onDone={done} />}
        {open?.what === "empty" && <EmptyForm trap={open.trap} today={view.today} onDone={done} />}
        {open?.what === "remove" && <OutForm trap={open.trap} today={view.today} onDone={done} />}
      </Dialog>
    </section>
  );
}

/** Bars of what was caught a trap and day, in the order of time. */
function Caught({ shown, today }: { shown: Shown; today: string }) {
  const most = Math.max(...shown.readings.map((one) => one.per_trap_day), 0.1);
  if (shown.readings.length === 0) return <p className="text-ink-2">Not emptied yet.</p>;
  return (
    <ul aria-label="Caught a trap and day">
      {shown.readings.map((one) => (
        <li key={one.on} className="grid grid-cols-[6rem_minmax(0,1fr)_9rem] items-center gap-x-3">
          <span className="text-ink-2">{shortDay(one.on, today)}</span>
          <span className="h-3 bg-ink-2" style={{ width: `${(100 * one.per_trap_day) / most}%` }} aria-hidden="true" />
          <span className="text-right text-sm">
            {one.caught}, {one.per_trap_day.toFixed(1)} a trap and day
          </span>
        </li>
      ))}
    </ul>
  );
}

const KINDS = (Object.keys(TRAP) as (keyof typeof TRAP)[]).map((one) => [one, capital(TRAP[one])] as const);

function SetForm({ colonyId, today, onDone }: { colonyId: string; today: string; onDone: () => Promise<void> }) {
  const [id] = useState(() => crypto.randomUUID());
  const [draft, set, kept] = useDraft(
    { kind: "bar_trap" as Schemas["TrapInput"]["kind"], place: "", number: 2, placed_on: today },
    `trap:${colonyId}`,
  );
  const save = useSave({ kept, act: () => setPestTrap({ id, colony_id: colonyId, ...draft }), done: onDone });
  const field = bindFields(draft, set, save);
  return (
    <SaveForm save={save} kept={kept} fields={["place", "number", "placed_on"]} label="Record them">
      <ChoiceField label="Kind" value={draft.kind} options={KINDS} columns={2} onChange={(kind) => set({ kind })} />
      <Stepper
        label="How many"
        value={draft.number}
        least={1}
        most={40}
        error={save.at("number")}
        onChange={(number) => set({ number: number ?? 1 })}
      />
      <TextField label="Where" maxLength={80} {...field("place")} />
      <DateField label="Set on" max={today} {...field("placed_on")} />
    </SaveForm>
  );
}

type OneProps = { trap: Shown["trap"]; today: string; onDone: () => Promise<void> };

function EmptyForm({ trap, today, onDone }: OneProps) {
  const [id] = useState(() => crypto.randomUUID());
  const [draft, set, kept] = useDraft({ caught: 0, emptied_on: today }, `emptied:${trap.id}`);
  const save = useSave({ kept, act: () => emptyPestTrap(trap.id, { id, ...draft }), done: onDone });
  const field = bindFields(draft, set, save);
  return (
    <SaveForm save={save} kept={kept} fields={["caught", "emptied_on"]} label="Record what was in them">
      <Stepper
        label={`In all ${trap.number} together`}
        value={draft.caught}
        step={5}
        most={5000}
        onChange={(caught) => set({ caught: caught ?? 0 })}
      />
      <DateField label="Emptied on" max={today} {...field("emptied_on")} />
    </SaveForm>
  );
}

function OutForm({ trap, today, onDone }: OneProps) {
  const [draft, set, kept] = useDraft({ on: today }, `trap-out:${trap.id}`);
  const save = useSave({ kept, act: () => removePestTrap(trap.id, draft.on), done: onDone });
  const field = bindFields(draft, set, save);
  return (
    <SaveForm save={save} kept={kept} fields={["on"]} label="Taken out">
      <DateField label="On" min={trap.placed_on} max={today} {...field("on")} />
    </SaveForm>
  );
}
