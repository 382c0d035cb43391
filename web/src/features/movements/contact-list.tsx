/** What came and went, latest first; what was recorded by hand can be withdrawn. */
import { useState } from "react";
import { withdrawMovement } from "@/client/commands/movements";
import type { Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { useMay } from "@/features/session/use-session";
import { Dialog } from "@/ui/dialog";
import { TextArea } from "@/ui/fields";
import { TextLink } from "@/ui/link";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { CERTAINTY, KIND, daysSaid } from "./words";

type Line = Schemas["ContactLine"];
const ROW = "grid gap-x-4 border-b border-line py-2 desk:grid-cols-[12rem_5rem_minmax(0,1fr)] desk:items-baseline";

export function ContactList({ lines, own, today }: { lines: Line[]; own: string; today: string }) {
  const mayRecord = useMay("record");
  const [taken, setTaken] = useState<Line | null>(null);
  if (lines.length === 0)
    return (
      <p className="mt-2 max-w-prose text-ink-2">
        Nothing is on record. Ask for purchases, swarms, combs and gear of others, a shared extractor.
      </p>
    );
  return (
    <>
      <ul className="mt-2 border-t border-line">
        {lines.map((line) => (
          <li key={line.id} className={ROW}>
            <span className="text-ink-2">{daysSaid(line.earliest, line.latest, today)}</span>
            <span className="font-semibold">{line.to_colony === own ? "came" : "went"}</span>
            <span>
              {KIND[line.kind]} {line.to_colony === own ? "from" : "to"} <OtherEnd line={line} own={own} />
              <span className="text-ink-2">
                {line.certainty === "told" && `; ${CERTAINTY.told}`}
                {line.is_disinfected && "; cleaned before"}
              </span>
              {line.frame_id && (
                <>
                  {" "}
                  <TextLink to="/combs/$id" params={{ id: line.frame_id }}>
                    the comb
                  </TextLink>
                </>
              )}
              {line.note && <span className="block text-ink-2">{line.note}</span>}
              {line.is_by_hand && mayRecord && (
                <button
                  type="button"
                  className="min-h-14 underline underline-offset-4 desk:min-h-8"
                  onClick={() => setTaken(line)}>
                  It was not so
                </button>
              )}
            </span>
          </li>
        ))}
      </ul>
      {taken && <Withdraw line={taken} onClose={() => setTaken(null)} />}
    </>
  );
}

function OtherEnd({ line, own }: { line: Line; own: string }) {
  const came = line.to_colony === own;
  const [colony, label, apiary] = came
    ? [line.from_colony, line.from_label, line.from_apiary]
    : [line.to_colony, line.to_label, line.to_apiary];
  if (colony && label)
    return (
      <TextLink to="/colonies/$id/where" params={{ id: colony }}>
        {label}
        {apiary && `, ${apiary}`}
      </TextLink>
    );
  if (colony) return <>a colony of another keeper</>;
  if (line.frame_id) return <>the store</>;
  return <>{line.elsewhere || "an unknown source"}</>;
}

function Withdraw({ line, onClose }: { line: Line; onClose: () => void }) {
  const done = useDone(onClose);
  const [draft, set, kept] = useDraft({ why: "" });
  const save = useSave({
    kept,
    check: () => ({ why: draft.why.trim().length < 3 && "say why it was not so" }),
    act: () => withdrawMovement(line.id, draft.why),
    done,
  });
  return (
    <Dialog open title="It was not so" onClose={onClose}>
      <SaveForm save={save} kept={kept} fields={["why"]} label="Withdraw it">
        <p>It stays on record as withdrawn and counts in no trace any more.</p>
        <TextArea label="Why" {...bindFields(draft, set, save)("why")} />
      </SaveForm>
    </Dialog>
  );
}
