/** Entering an earlier treatment: what would speak against it is said while it is entered, and stops nobody. */
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { recordEarlier } from "@/client/commands/courses";
import { earlierCheckQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { SelectField } from "@/ui/fields";
import { SaveForm, useDraft, useSave } from "@/ui/save-form";
import { useSay } from "@/features/session/use-say";
import { useSentence } from "@/features/session/use-sentence";
import { colonies } from "@/wording/words";
import { NEW_DRAFT, faultsOf, isComplete, sentOf } from "./earlier-draft";
import { EARLIER_FIELDS, EarlierFields } from "./earlier-fields";

type Props = {
  view: Schemas["ApiaryView"];
  options: Schemas["OptionView"][];
  colonyIds: string[];
  onSaved: (id: string, what: string, rows: Schemas["EarlierRow"][]) => void;
};

export function EarlierForm({ view, options, colonyIds, onSaved }: Props) {
  const client = useQueryClient();
  const say = useSay();
  const [id] = useState(() => crypto.randomUUID());
  // One id for each colony, kept: what is sent twice is recorded once.
  const [ids] = useState(() => new Map(view.colonies.map((one) => [one.id, crypto.randomUUID()])));
  const [draft, set, kept] = useDraft(NEW_DRAFT, `earlier:${view.apiary.id}`);
  const option = options.find((one) => one.id === draft.option);
  const sent = sentOf(draft, option);
  const save = useSave({
    kept,
    act: () =>
      recordEarlier({
        ...sent,
        id,
        apiary_id: view.apiary.id,
        colonies: colonyIds.map((one) => ({ id: ids.get(one) ?? crypto.randomUUID(), colony_id: one })),
      }),
    check: () => faultsOf(draft),
    done: async (rows: Schemas["EarlierRow"][]) => {
      // What was just recorded is not asked about once more: it is on record now.
      await client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "earlier-check" });
      onSaved(id, option?.name ?? "", rows);
    },
  });
  const at = (name: string) => {
    const text = save.at(name);
    return text && say(text);
  };
  const none = colonyIds.length === 0;
  return (
    <SaveForm
      save={save}
      kept={kept}
      fields={EARLIER_FIELDS}
      disabled={none}
      label={none ? "Select colonies" : `Record it for ${colonies(colonyIds.length)}`}
      sending="Recording …">
      <SelectField
        label="What was given"
        name="option"
        error={save.at("option_id")}
        value={draft.option}
        options={[["", "choose"], ...options.map((one) => [one.id, one.name] as const)]}
        onChange={(next) => set({ option: next, doses: draft.doses.slice(0, 1) })}
      />
      <EarlierFields draft={draft} set={set} save={{ at }} option={option} today={view.today} mayBeIn />
      {isComplete(sent, option) && !none && (
        <Speaks body={{ ...sent, apiary_id: view.apiary.id, colony_ids: colonyIds }} count={colonyIds.length} />
      )}
    </SaveForm>
  );
}

type SpeaksProps = { body: Schemas["EarlierCheck"]; count: number };

/** What would have held a plan of these days back, said once for all colonies that share it. */
function Speaks({ body, count }: SpeaksProps) {
  const say = useSentence();
  const check = useQuery({ ...earlierCheckQuery(body), placeholderData: keepPreviousData });
  if (!check.data) return null;
  const said = new Map<string, string[]>();
  for (const row of check.data)
    for (const reason of row.warnings) {
      const text = say(reason);
      said.set(text, [...(said.get(text) ?? []), row.label]);
    }
  if (said.size === 0) return <p className="text-ink-2">Nothing on record speaks against it.</p>;
  return (
    <section aria-label="What speaks against it" className="border-l-4 border-watch pl-3">
      <p className="font-semibold">It is recorded as it was. By the rules:</p>
      <ul>
        {[...said].map(([text, labels]) => (
          <li key={text}>
            {text}
            {labels.length < count && <span className="text-ink-2"> ({labels.join(", ")})</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}
