/** A suspicion that a person raises by judgement: of which colony, of what, what was seen. */
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { raiseCase } from "@/client/commands/cases";
import type { Schemas } from "@/client/types";
import { ColonyFields } from "@/features/colonies/colony-fields";
import { useDone } from "@/features/colonies/use-done";
import { Button } from "@/ui/button";
import { moment } from "@/ui/clock";
import { DateField } from "@/ui/date-field";
import { Dialog } from "@/ui/dialog";
import { SelectField, TextArea } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { useCaseWords } from "./words";

type Disease = Schemas["CaseInput"]["disease"];

export function RaiseCase({ apiaryId }: { apiaryId?: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Raise a suspicion</Button>
      {open && <RaiseForm apiaryId={apiaryId ?? ""} onClose={() => setOpen(false)} />}
    </>
  );
}

function RaiseForm({ apiaryId, onClose }: { apiaryId: string; onClose: () => void }) {
  const { words } = useCaseWords();
  const navigate = useNavigate();
  const done = useDone(onClose);
  const today = moment().slice(0, 10);
  const [id] = useState(() => crypto.randomUUID());
  const [draft, set, kept] = useDraft(
    { apiary: apiaryId, colony_id: "", disease: "afb" as Disease, found_on: today, text: "" },
    `case:new:${apiaryId}`,
  );
  const save = useSave({
    kept,
    check: () => ({
      apiary: draft.apiary === "" && "choose the apiary",
      colony_id: draft.colony_id === "" && "choose the colony",
    }),
    act: () =>
      raiseCase({ id, colony_id: draft.colony_id, disease: draft.disease, found_on: draft.found_on, text: draft.text }),
    done: async (view) => {
      await done();
      await navigate({ to: "/cases/$id", params: { id: view.line.case.id } });
    },
  });
  const field = bindFields(draft, set, save);
  return (
    <Dialog open title="Raise a suspicion" onClose={onClose}>
      <SaveForm
        save={save}
        kept={kept}
        fields={["apiary", "colony_id", "disease", "found_on", "text"]}
        label="Raise it"
        sending="Raising …">
        <p>
          The apiary stands still from then on: no bees, queens, combs, honey for bees or hives in or out. Only an
          inspector ends it.
        </p>
        <ColonyFields
          {...(apiaryId === "" && { apiary: field("apiary") })}
          colony={field("colony_id")}
          at={draft.apiary}
          living
        />
        <SelectField
          label="Disease"
          options={Object.entries(words.diseases) as [Disease, string][]}
          {...field("disease")}
        />
        <DateField label="Found on" max={today} {...field("found_on")} />
        <TextArea label="What was seen" {...field("text")} />
      </SaveForm>
    </Dialog>
  );
}
