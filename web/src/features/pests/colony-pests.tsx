/** The pests of a colony: each at its latest with what it asks for; its traps and its entrance. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { withdrawPestCheck } from "@/client/commands/pests";
import { colonyPestsQuery } from "@/client/pest-queries";
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/fields";
import { Notice, SectionHeading } from "@/ui/page";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { capital } from "@/wording/words";
import { Entrances } from "./entrances";
import { PestForm } from "./pest-form";
import { Traps } from "./traps";
import { PEST_CAUTION } from "./words";

type View = Schemas["ColonyPests"];

export function ColonyPests({ colonyId, mayRecord }: { colonyId: string; mayRecord: boolean }) {
  const query = useQuery(colonyPestsQuery(colonyId));
  if (!query.data)
    return <p className="py-2 text-ink-2">{query.isError ? query.error.message : "Looking up pests …"}</p>;
  return <Shown view={query.data} colonyId={colonyId} mayRecord={mayRecord} />;
}

type Props = { view: View; colonyId: string; mayRecord: boolean };

function Shown({ view, colonyId, mayRecord }: Props) {
  const [checking, setChecking] = useState(false);
  const [wrong, setWrong] = useState<Schemas["CheckShown"] | null>(null);
  const client = useQueryClient();
  const refresh = () =>
    client.invalidateQueries({
      predicate: ({ queryKey }) => queryKey[1] === colonyId || queryKey[0] === "pests-ahead",
    });
  return (
    <div className="grid items-start gap-x-8 gap-y-6 pt-2 desk:grid-cols-2">
      <section aria-labelledby="pests">
        <SectionHeading id="pests">Pests</SectionHeading>
        {view.latest.length === 0 ? (
          <p className="mt-2 text-ink-2">No pest was looked for by itself; visits record what they see.</p>
        ) : (
          <ul className="mt-1">
            {view.latest.map((one) => (
              <Check
                key={one.check.id}
                shown={one}
                before={view.checks.filter((each) => each.check.pest === one.check.pest).slice(1)}
                today={view.today}
                onWrong={mayRecord ? () => setWrong(one) : null}
              />
            ))}
          </ul>
        )}
        {mayRecord && (
          <Button className="mt-3" onClick={() => setChecking(true)}>
            Check a pest
          </Button>
        )}
      </section>
      <div className="space-y-6">
        <Entrances view={view} colonyId={colonyId} mayRecord={mayRecord} onSaved={refresh} />
        <Traps view={view} colonyId={colonyId} mayRecord={mayRecord} onSaved={refresh} />
      </div>
      <Dialog open={checking} onClose={() => setChecking(false)} title={`A pest at ${view.label}`}>
        <PestForm
          at={{ colony_id: colonyId, apiary_id: view.apiary_id }}
          today={view.today}
          onDone={async () => {
            await refresh();
            setChecking(false);
          }}
        />
      </Dialog>
      <Dialog open={wrong !== null} onClose={() => setWrong(null)} title="It was not so">
        {wrong && (
          <NotSo
            id={wrong.check.id}
            onDone={async () => {
              await refresh();
              setWrong(null);
            }}
          />
        )}
      </Dialog>
    </div>
  );
}

type CheckProps = {
  shown: Schemas["CheckShown"];
  before: Schemas["CheckShown"][];
  today: string;
  onWrong: (() => void) | null;
};

/** The latest of a pest: its score as bars against those before, what it asks for, when to look again. */
export function Check({ shown, before, today, onWrong }: CheckProps) {
  const { check, answer, name } = shown;
  return (
    <li className="border-t border-line py-2">
      <p className="flex flex-wrap items-baseline justify-between gap-x-3">
        <span>
          <strong>{capital(name)}</strong>: {check.score === 0 ? "none seen" : `score ${check.score}, ${answer.says}`}
        </span>
        <span className="text-ink-2">
          {shortDay(check.seen_on, today)}, {check.by_name}
        </span>
      </p>
      {answer.cautions.length > 0 && (
        <p className={answer.cautions.includes("report_first") ? "font-semibold text-act" : "text-ink-2"}>
          {capital(answer.cautions.map((one) => PEST_CAUTION[one]).join("; "))}.
        </p>
      )}
      {answer.asks && (
        <Notice tone={check.score >= 3 ? "act" : "watch"}>
          <ul>
            {answer.acts.map((act) => (
              <li key={act}>{act}.</li>
            ))}
          </ul>
        </Notice>
      )}
      {check.done && <p>Done: {check.done}.</p>}
      {check.look_by && (
        <p>
          Look again{" "}
          <strong>
            {check.look_from && check.look_from !== check.look_by && `${shortDay(check.look_from, today)} to `}
            {shortDay(check.look_by, today)}
          </strong>
          {check.disease_by && `; its brood by ${shortDay(check.disease_by, today)}`}.
        </p>
      )}
      {before.length > 0 && (
        <p className="text-sm text-ink-2">
          Before:{" "}
          {before
            .slice(0, 4)
            .map((one) => `score ${one.check.score} on ${shortDay(one.check.seen_on, today)}`)
            .join("; ")}
          .
        </p>
      )}
      {onWrong && (
        <Button variant="quiet" className="-ml-4" onClick={onWrong}>
          It was not so
        </Button>
      )}
    </li>
  );
}

function NotSo({ id, onDone }: { id: string; onDone: () => Promise<void> }) {
  const [draft, set, kept] = useDraft({ why: "" }, `pest-wrong:${id}`);
  const save = useSave({ kept, act: () => withdrawPestCheck(id, draft.why), done: onDone });
  const field = bindFields(draft, set, save);
  return (
    <SaveForm save={save} kept={kept} fields={["why"]} label="Withdraw it">
      <TextField label="Why?" maxLength={400} {...field("why")} />
    </SaveForm>
  );
}
