/** What stopped the laying, and when: the brood calendar counts from it. */
import { useState } from "react";
import { addBroodEvent } from "@/client/commands/colonies";
import type { Schemas } from "@/client/types";
import { ChoiceField } from "@/ui/choice";
import { DateField } from "@/ui/date-field";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { useDone } from "./use-done";

type Kind = Schemas["BroodEventInput"]["kind"];
const KINDS: readonly (readonly [Kind, string])[] = [
  ["queen_caged", "queen caged"],
  ["queen_removed", "queen taken out or lost"],
  ["swarm_left", "a swarm left"],
];

export function BroodForm({ view, onDone }: { view: Schemas["ColonyView"]; onDone: () => void }) {
  const done = useDone(onDone);
  const [id] = useState(() => crypto.randomUUID());
  const [draft, set, kept] = useDraft(
    { kind: "queen_caged" as Kind, happened_on: view.today, release_on: "" },
    `brood:${view.colony.id}`,
  );
  const caged = draft.kind === "queen_caged";
  const save = useSave({
    kept,
    act: () => addBroodEvent(view.colony.id, { ...draft, id, release_on: (caged && draft.release_on) || null }),
    done,
  });
  const field = bindFields(draft, set, save);
  return (
    <SaveForm save={save} kept={kept} fields={["happened_on", "release_on"]} label="Record it">
      <ChoiceField label="What happened" value={draft.kind} options={KINDS} onChange={(kind) => set({ kind })} />
      <DateField label="On" max={view.today} {...field("happened_on")} />
      {caged && <DateField label="Set free on" hint="As it was done or is planned" {...field("release_on")} />}
    </SaveForm>
  );
}
