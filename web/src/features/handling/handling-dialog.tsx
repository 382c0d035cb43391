/** The ways to handle a condition side by side, with how each stands for this colony, and the choice of one. */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { chooseHandling } from "@/client/commands/handling";
import { handlingChoiceQuery, type Condition } from "@/client/handling-queries";
import type { Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { useMay } from "@/features/session/use-session";
import { Checkbox } from "@/ui/checkbox";
import { ChoiceField } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { TextArea } from "@/ui/fields";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { HandlingLine } from "./handling-line";
import { FIT, cellsSaid } from "./words";

type Choice = Schemas["HandlingChoice"];
type Option = Schemas["OptionShown"];

type Props = {
  visitId: string;
  isClosed: boolean;
  condition: Condition;
  name: string;
  today: string;
  onClose: () => void;
};

export function HandlingDialog({ visitId, isClosed, condition, name, today, onClose }: Props) {
  const query = useQuery(handlingChoiceQuery(visitId, condition));
  return (
    <Dialog open wide title={`Ways to handle ${name}`} onClose={onClose}>
      <Loaded query={query} what="Comparing …">
        {(choice) => <Shown choice={choice} isClosed={isClosed} today={today} onClose={onClose} />}
      </Loaded>
    </Dialog>
  );
}

function Shown({
  choice,
  isClosed,
  today,
  onClose,
}: {
  choice: Choice;
  isClosed: boolean;
  today: string;
  onClose: () => void;
}) {
  const mayRecord = useMay("record");
  const open = choice.handlings.find((one) => one.handling.state === "open");
  const free = choice.options.filter((one) => one.judged.fit !== "barred");
  return (
    <div className="space-y-5">
      <p className="max-w-prose text-ink-2">
        Schools differ here. What stands first fits best by what was found; the choice is yours, and is compared with
        what became of it.{" "}
        <TextLink to="/methods/$name" params={{ name: "handling" }}>
          How it is judged
        </TextLink>
      </p>
      <ul aria-label="Ways" className="grid gap-3 desk:grid-cols-[repeat(auto-fit,minmax(15rem,1fr))]">
        {choice.options.map((one) => (
          <OptionCard key={one.id} shown={one} />
        ))}
      </ul>
      {choice.handlings.length > 0 && (
        <ul aria-label="Tried before" className="border-t border-line">
          {choice.handlings.map((one) => (
            <HandlingLine key={one.handling.id} view={one} today={today} />
          ))}
        </ul>
      )}
      {mayRecord && open && <p className="font-semibold">{open.option_name} is being tried: end it before another.</p>}
      {mayRecord && !open && !isClosed && <p>Close the visit to choose one: what it found is how this begins.</p>}
      {mayRecord && !open && isClosed && free.length > 0 && (
        <ChooseForm choice={choice} free={free} onClose={onClose} />
      )}
    </div>
  );
}

function OptionCard({ shown }: { shown: Option }) {
  const { option, judged } = shown;
  const fits = judged.fit === "fits";
  return (
    <li className={clsx("border p-3", fits ? "border-2 border-ink" : "border-line-2")}>
      <h3 className="font-head text-lg font-semibold leading-tight">{option.name}</h3>
      <p className={clsx("mt-1", fits ? "font-semibold" : "text-ink-2")}>
        {FIT[judged.fit]}: {judged.reasons.join("; ")}.
      </p>
      <ol className="mt-2 list-decimal space-y-0.5 pl-5">
        {option.steps.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ol>
      <dl className="mt-2 grid grid-cols-[4.5rem_1fr] gap-x-2 gap-y-1">
        <dt className="font-semibold">For</dt>
        <dd>{option.speaks_for.join("; ")}</dd>
        <dt className="font-semibold">Against</dt>
        <dd>{option.speaks_against.join("; ")}</dd>
      </dl>
    </li>
  );
}

function ChooseForm({ choice, free, onClose }: { choice: Choice; free: Option[]; onClose: () => void }) {
  const done = useDone(onClose);
  const [id] = useState(() => crypto.randomUUID());
  const [draft, set, kept] = useDraft(
    { option: free[0]?.id ?? "wait_for_flow", reason: "", combs: choice.combs.map((one) => one.frame_id) },
    `handling:${choice.visit_id}:${choice.condition}`,
  );
  const followsCombs = free.find((one) => one.id === draft.option)?.option.combs ?? false;
  const save = useSave({
    kept,
    check: () => ({
      reason: draft.reason.trim().length < 3 && "say why this way",
      combs: followsCombs && draft.combs.length === 0 && "choose the combs that are followed",
    }),
    act: () =>
      chooseHandling({
        id,
        visit_id: choice.visit_id,
        condition: choice.condition,
        option: draft.option,
        reason: draft.reason,
        combs: followsCombs ? draft.combs : [],
      }),
    done,
  });
  return (
    <SaveForm save={save} kept={kept} fields={["option", "reason", "combs"]} label="Choose this way">
      <ChoiceField
        label="Way"
        columns={1}
        value={draft.option}
        options={free.map((one) => [one.id, one.option.name] as const)}
        onChange={(option) => set({ option })}
      />
      {followsCombs && (
        <fieldset>
          <legend className="font-semibold">Combs that are followed, wherever they hang</legend>
          {choice.combs.map((comb) => (
            <Checkbox
              key={comb.frame_id}
              label={`frame ${comb.slot}: ${cellsSaid(comb.cells)}`}
              checked={draft.combs.includes(comb.frame_id)}
              onChange={(yes) =>
                set({
                  combs: yes ? [...draft.combs, comb.frame_id] : draft.combs.filter((one) => one !== comb.frame_id),
                })
              }
            />
          ))}
        </fieldset>
      )}
      <TextArea label="Why this way" {...bindFields(draft, set, save)("reason")} />
    </SaveForm>
  );
}
