/** A sample taken: of which colony, what, from where, under which seal. Its blind code is given by the record. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { takeSample } from "@/client/commands/cases";
import { apiaryQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { useSession } from "@/features/session/use-session";
import { Dialog } from "@/ui/dialog";
import { SelectField, TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { MomentFields } from "./moment-fields";
import { localParts, momentOf, said, useCaseWords } from "./words";

type Kind = Schemas["SampleInput"]["kind"];

export function SampleForm({ view, onClose }: { view: Schemas["CaseView"]; onClose: () => void }) {
  const { samples } = useCaseWords();
  const { person } = useSession();
  const done = useDone(onClose);
  const row = view.line.case;
  const now = localParts(view.now);
  const telling = (Object.keys(samples) as Kind[]).filter((one) => said(samples, one).diseases.includes(row.disease));
  const here = useQuery(apiaryQuery(row.apiary_id));
  const [id] = useState(() => crypto.randomUUID());
  const [draft, set, kept] = useDraft<Omit<Schemas["SampleInput"], "id" | "at"> & { day: string; time: string }>(
    { ...now, colony_id: row.colony_id, kind: telling[0] ?? "comb", taken_from: "", by: person.name, seal: "" },
    `case:${row.id}:sample`,
  );
  const save = useSave({
    kept,
    check: () => ({ at: momentOf(draft.day, draft.time) === null && "is no time of a day" }),
    act: () => {
      const { day, time, ...rest } = draft;
      return takeSample(row.id, { id, ...rest, at: momentOf(day, time) ?? view.now });
    },
    done,
  });
  const field = bindFields(draft, set, save);
  const method = said(samples, draft.kind);
  return (
    <Dialog open title="Take a sample" onClose={onClose}>
      <SaveForm
        save={save}
        kept={kept}
        fields={["colony_id", "kind", "taken_from", "by", "seal", "at"]}
        label="Record the sample"
        sending="Recording …">
        <SelectField
          label="What"
          options={telling.map((one) => [one, said(samples, one).name] as const)}
          {...field("kind")}
        />
        <p className="text-ink-2">
          {method.how} {method.amount.charAt(0).toUpperCase() + method.amount.slice(1)}. {method.mind}
        </p>
        <SelectField
          label="Colony"
          options={(here.data?.colonies ?? []).map((one) => [one.id, one.label] as const)}
          {...field("colony_id")}
        />
        <TextField label="From where" hint="comb and place" maxLength={200} {...field("taken_from")} />
        <TextField label="Taken by" maxLength={80} {...field("by")} />
        <TextField label="Number of the seal" maxLength={40} {...field("seal")} />
        <MomentFields {...draft} today={now.day} error={save.at("at")} set={set} />
      </SaveForm>
    </Dialog>
  );
}
