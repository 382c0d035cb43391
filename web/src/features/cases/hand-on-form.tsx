/** A sample goes into other hands, or is sealed: who had it, who has it now. */
import { useState } from "react";
import { handOn } from "@/client/commands/cases";
import type { Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { useSession } from "@/features/session/use-session";
import { ChoiceField } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { NumberField, TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { MomentFields } from "./moment-fields";
import { localParts, momentOf } from "./words";

type Draft = {
  day: string;
  time: string;
  kind: "sealed" | "handed_over";
  by: string;
  to: string;
  seal: string;
  temperature: string;
};
type Props = { view: Schemas["CaseView"]; one: Schemas["SampleView"]; onClose: () => void };

export function HandOnForm({ view, one, onClose }: Props) {
  const { person } = useSession();
  const done = useDone(onClose);
  const now = localParts(view.now);
  const seal = [...one.custody].reverse().find((line) => line.seal)?.seal ?? "";
  const [id] = useState(() => crypto.randomUUID());
  const [draft, set, kept] = useDraft<Draft>(
    { ...now, kind: seal === "" ? "sealed" : "handed_over", by: person.name, to: "", seal, temperature: "" },
    `case:sample:${one.sample.id}:${one.custody.length}`,
  );
  const save = useSave({
    kept,
    check: () => ({ at: momentOf(draft.day, draft.time) === null && "is no time of a day" }),
    act: () =>
      handOn(one.sample.id, {
        id,
        kind: draft.kind,
        at: momentOf(draft.day, draft.time) ?? view.now,
        by: draft.by,
        to: draft.kind === "handed_over" ? draft.to : "",
        seal: draft.seal,
        temperature_c: draft.temperature === "" ? null : Number(draft.temperature),
      }),
    done,
  });
  const field = bindFields(draft, set, save);
  return (
    <Dialog open title={`Sample ${one.sample.code}`} onClose={onClose}>
      <SaveForm
        save={save}
        kept={kept}
        fields={["kind", "by", "to", "seal", "temperature_c", "at"]}
        label="Record it"
        sending="Recording …">
        <ChoiceField
          label="What was done"
          value={draft.kind}
          options={[
            ["sealed", "sealed"],
            ["handed_over", "handed over"],
          ]}
          onChange={(kind) => set({ kind })}
          error={save.at("kind")}
        />
        <TextField label="By" maxLength={80} {...field("by")} />
        {draft.kind === "handed_over" && <TextField label="To" maxLength={80} {...field("to")} />}
        <TextField label="Number of the seal" maxLength={40} {...field("seal")} />
        <NumberField label="Temperature (if measured)" unit="°C" {...field("temperature", "temperature_c")} />
        <MomentFields {...draft} today={now.day} error={save.at("at")} set={set} />
      </SaveForm>
    </Dialog>
  );
}
