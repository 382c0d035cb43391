/** A visit to an apiary around a case: what was found, or why nothing could be. */
import { useState } from "react";
import { recordAround } from "@/client/commands/cases";
import type { Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { Checkbox } from "@/ui/checkbox";
import { DateField } from "@/ui/date-field";
import { Dialog } from "@/ui/dialog";
import { SelectField, TextArea, TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";

type Outcome = Schemas["AroundVisitInput"]["outcome"];
export interface Target {
  apiary: string | null;
  name: string;
}

export const OUTCOME: Record<Outcome, string> = {
  clear: "inspected, no sign",
  suspect: "suspect: a case of its own",
  refused: "refused",
  no_colonies: "no colonies there",
  not_found: "nobody met or not found",
};

type Props = { caseId: string; target: Target; today: string; onClose: () => void };

export function AroundForm({ caseId, target, today, onClose }: Props) {
  const done = useDone(onClose);
  const [id] = useState(() => crypto.randomUUID());
  const [draft, set, kept] = useDraft(
    { place: "", visited_on: today, outcome: "clear" as Outcome, letter_sent: false, note: "" },
    `around:${caseId}:${target.apiary ?? "other"}`,
  );
  const save = useSave({
    kept,
    check: () => ({ place: target.apiary === null && draft.place.trim() === "" && "say where" }),
    act: () =>
      recordAround(caseId, {
        id,
        apiary_id: target.apiary,
        ...draft,
        place: target.apiary === null ? draft.place : "",
      }),
    done,
  });
  const field = bindFields(draft, set, save);
  return (
    <Dialog open title={target.apiary ? `Visit to ${target.name}` : "A place that is not registered"} onClose={onClose}>
      <SaveForm save={save} kept={kept} fields={["place", "visited_on", "outcome", "note"]} label="Record the visit">
        {target.apiary === null && <TextField label="Where, whose" {...field("place")} />}
        <DateField label="On" max={today} {...field("visited_on")} />
        <SelectField label="Outcome" options={Object.entries(OUTCOME) as [Outcome, string][]} {...field("outcome")} />
        {draft.outcome === "not_found" && (
          <>
            <p>Two visits and a letter before it counts as not found.</p>
            <Checkbox
              label="A letter was left or sent"
              checked={draft.letter_sent}
              onChange={(yes) => set({ letter_sent: yes })}
            />
          </>
        )}
        <TextArea label="Note" {...field("note")} />
      </SaveForm>
    </Dialog>
  );
}
