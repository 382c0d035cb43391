/** A step of a case: the fields that the core asks for it, and when it was. Nothing of it is ever taken back. */
import { useState } from "react";
import { recordStep } from "@/client/commands/cases";
import type { Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { Dialog } from "@/ui/dialog";
import { SaveForm, useDraft, useSave } from "@/ui/save-form";
import { EvidenceField, type Entered } from "./evidence-field";
import { MomentFields } from "./moment-fields";
import { localParts, momentOf, said, useCaseWords } from "./words";

type Draft = { day: string; time: string; shown: Record<string, Entered> };
type Props = { view: Schemas["CaseView"]; act: Schemas["NextAct"]; corrects?: Schemas["StepRow"]; onClose: () => void };

/** What was entered, as the server takes it: numbers as numbers, yes and no as such, nothing for what was left out. */
function evidenceOf(
  shown: Record<string, Entered>,
  words: Record<string, Schemas["FieldWords"]>,
): Schemas["StepInput"]["evidence"] {
  const filled = Object.entries(shown).filter(([, value]) => value !== null && value.length > 0);
  return Object.fromEntries(
    filled.map(([name, value]) => {
      const kind = words[name]?.kind;
      if (kind === "yes_no") return [name, value === "yes"];
      if (kind === "number" || kind === "centimetres") return [name, Number(value)];
      return [name, value];
    }),
  ) as Schemas["StepInput"]["evidence"];
}

export function StepForm({ view, act, corrects, onClose }: Props) {
  const { words } = useCaseWords();
  const done = useDone(onClose);
  const now = localParts(view.now);
  const [id] = useState(() => crypto.randomUUID());
  const row = view.line.case;
  const [draft, set, kept] = useDraft<Draft>(
    { ...now, shown: {} },
    `case:${row.id}:${row.version}:${act.act}:${corrects?.id ?? ""}`,
  );
  const names = [...act.needs, ...act.asks].filter((name) => name !== "samples");
  const save = useSave({
    kept,
    check: () => ({ at: momentOf(draft.day, draft.time) === null && "is no time of a day" }),
    act: () =>
      recordStep(row.id, row.version, {
        id,
        act: act.act,
        at: momentOf(draft.day, draft.time) ?? view.now,
        evidence: evidenceOf(draft.shown, words.fields),
        corrects: corrects?.id ?? null,
      }),
    done,
  });
  const name = said(words.acts, act.act).name;
  return (
    <Dialog open title={name} onClose={onClose}>
      <SaveForm
        save={save}
        kept={kept}
        fields={["at", ...names.map((one) => `evidence.${one}`)]}
        label={name}
        sending="Recording …">
        {corrects && (
          <p className="text-ink-2">
            About entry {corrects.seq}, {said(words.acts, corrects.act).done}. The entry stays as it is.
          </p>
        )}
        {names.map((one) => (
          <EvidenceField
            key={one}
            name={`evidence.${one}`}
            words={said(words.fields, one)}
            needed={act.needs.includes(one)}
            value={draft.shown[one]}
            error={save.at(`evidence.${one}`)}
            onChange={(value) => set({ shown: { ...draft.shown, [one]: value } })}
          />
        ))}
        <MomentFields {...draft} today={now.day} error={save.at("at")} set={set} />
        {save.at("act") && (
          <p role="alert" className="font-semibold text-act">
            {save.at("act")}
          </p>
        )}
      </SaveForm>
    </Dialog>
  );
}
