/** The record of a case: every entry with who, when and on what; a wrong one is corrected by another. */
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { useMay } from "@/features/session/use-session";
import { SectionHeading } from "@/ui/page";
import { StepForm } from "./step-form";
import { said, shortMoment, useCaseWords, roleSays, type CaseWords } from "./words";

type Step = Schemas["StepRow"];
const CORRECTION: Schemas["NextAct"] = { act: "correct", actors: [], mine: true, needs: ["text"], asks: [] };

/** What an entry shows, field by field, in words. */
function shown(step: Step, words: CaseWords): [string, string][] {
  return Object.entries(step.evidence).flatMap(([name, value]) => {
    const field = words.fields[name as keyof typeof words.fields];
    if (field === undefined) return [];
    return [[name === "text" ? "" : field.label, written(value, field)]];
  });
}

function written(value: unknown, field: Schemas["FieldWords"]): string {
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (Array.isArray(value)) return value.map((one) => field.choices?.[String(one)] ?? String(one)).join(", ");
  const text = String(value);
  return `${field.choices?.[text] ?? text}${field.kind === "centimetres" ? " cm" : ""}`;
}

export function CaseRecord({ view }: { view: Schemas["CaseView"] }) {
  const { words } = useCaseWords();
  const mayRecord = useMay("record");
  const [wrong, setWrong] = useState<Step | null>(null);
  const number = new Map(view.steps.map((one) => [one.id, one.seq]));
  return (
    <section aria-labelledby="record">
      <SectionHeading id="record" says="nothing is taken away; a later entry corrects">
        Record
      </SectionHeading>
      <ol className="mt-1">
        {view.steps.map((step) => (
          <li key={step.id} className="grid grid-cols-[2.5rem_minmax(0,1fr)_auto] gap-x-2 border-b border-line py-2">
            <span className="figure text-lg text-ink-2">{step.seq}</span>
            <div>
              <p>
                <b>{said(words.acts, step.act).done}</b>
                {step.corrects && ` of entry ${number.get(step.corrects) ?? "?"}`}
              </p>
              <p className="text-ink-2">
                {shortMoment(step.at)}; {step.by_name || roleSays(step.actor)}
                {step.by_name !== "" && ` (${roleSays(step.actor)})`}
              </p>
              {shown(step, words).map(([label, text]) => (
                <p key={label}>
                  {label && <span className="text-ink-2">{label}: </span>}
                  {text}
                </p>
              ))}
            </div>
            {mayRecord && step.act !== "correct" && (
              <button
                type="button"
                aria-label={`Correct entry ${step.seq}`}
                className="min-h-14 min-w-14 self-start px-1 text-ink-2 underline underline-offset-4 desk:min-h-9"
                onClick={() => setWrong(step)}>
                Correct
              </button>
            )}
          </li>
        ))}
      </ol>
      {wrong && <StepForm view={view} act={CORRECTION} corrects={wrong} onClose={() => setWrong(null)} />}
    </section>
  );
}
