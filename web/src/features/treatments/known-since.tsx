/** Saying that nothing else was given: from a day on all treatments of these colonies are on record. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { recordTreatmentsKnown } from "@/client/commands/courses";
import type { Schemas } from "@/client/types";
import { DateField } from "@/ui/date-field";
import { shortDay } from "@/ui/dates";
import { SelectField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { KNOWN_FROM, colonies } from "@/wording/words";
import { KNOWN_FROM_CHOICES, type KnownFrom } from "./earlier-draft";

type Props = { view: Schemas["ApiaryView"]; colonyIds: string[] };

export function KnownSince({ view, colonyIds }: Props) {
  const client = useQueryClient();
  const [id, setId] = useState(() => crypto.randomUUID());
  const [said, setSaid] = useState("");
  const [draft, set] = useDraft({ known_since: "", known_from: "keeper_said" as KnownFrom });
  const save = useSave({
    act: () => recordTreatmentsKnown({ id, apiary_id: view.apiary.id, colony_ids: colonyIds, ...draft }),
    check: () => ({ known_since: draft.known_since === "" && "Choose the day" }),
    done: async () => {
      setSaid(`Recorded: nothing else since ${shortDay(draft.known_since, view.today)}.`);
      setId(crypto.randomUUID());
      await client.invalidateQueries();
    },
  });
  const field = bindFields(draft, set, save);
  const none = colonyIds.length === 0;
  return (
    <>
      <p className="mb-3 text-ink-2">
        Without a word, what was given before a colony came here is not known, and rules that look back say so.
      </p>
      <SaveForm
        save={save}
        fields={["known_since", "known_from"]}
        label={none ? "Select colonies" : `Nothing else was given to ${colonies(colonyIds.length)}`}
        disabled={none}>
        <DateField label="Nothing else since" max={view.today} {...field("known_since")} />
        <SelectField label="How is it known?" options={KNOWN_FROM_CHOICES} {...field("known_from")} name="since-from" />
      </SaveForm>
      {said && (
        <p role="status" className="mt-3 font-semibold">
          {said} ({KNOWN_FROM[draft.known_from]})
        </p>
      )}
    </>
  );
}
