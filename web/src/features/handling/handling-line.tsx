/** A way that was tried: since when, why, what each look found against the beginning, each comb that is followed. */
import { clsx } from "clsx";
import { useState } from "react";
import { endHandling } from "@/client/commands/handling";
import type { Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { useMay } from "@/features/session/use-session";
import { Checkbox } from "@/ui/checkbox";
import { shortDay } from "@/ui/dates";
import { Dialog } from "@/ui/dialog";
import { TextArea } from "@/ui/fields";
import { percent } from "@/ui/figures";
import { TextLink } from "@/ui/link";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { capital } from "@/wording/words";
import { OUTCOME, cellsSaid } from "./words";

type View = Schemas["HandlingView"];
const STATE = { open: "", ended: "ended", withdrawn: "entered by mistake" } as const;

export function HandlingLine({ view, today }: { view: View; today: string }) {
  const mayRecord = useMay("record");
  const [ending, setEnding] = useState(false);
  const { handling } = view;
  return (
    <li className="border-b border-line py-2">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <b>
          {capital(view.name)}: {view.option_name}
        </b>
        <span className="text-ink-2">
          since {shortDay(handling.chosen_on, today)}
          {handling.ended_on && `, ${STATE[handling.state]} ${shortDay(handling.ended_on, today)}`}
        </span>
        {view.outcome && <b className={clsx(view.outcome === "more" && "text-act")}>{OUTCOME[view.outcome]}</b>}
      </p>
      <p className="text-ink-2">
        {handling.reason}. It began with {cellsSaid(handling.cells)} on {handling.combs_with_sign} combs.
      </p>
      {view.looks.length > 0 && (
        <ul aria-label="Looks since">
          {view.looks.map((look) => (
            <li key={`${look.visit_id}${look.on}`}>
              {shortDay(look.on, today)}: {lookSaid(look)}
            </li>
          ))}
        </ul>
      )}
      {view.combs.length > 0 && (
        <ul aria-label="Combs that are followed">
          {view.combs.map((comb) => (
            <Patient key={comb.frame_id} comb={comb} today={today} />
          ))}
        </ul>
      )}
      {handling.state === "open" && (
        <p className={clsx(view.is_due && "font-semibold text-act")}>
          Look again {shortDay(handling.recheck_from, today)} to {shortDay(handling.recheck_to, today)}
          {view.is_due && ": due"}.
        </p>
      )}
      {handling.ended_why && <p className="text-ink-2">{handling.ended_why}</p>}
      {handling.state === "open" && mayRecord && (
        <button
          type="button"
          className="min-h-14 underline underline-offset-4 desk:min-h-8"
          onClick={() => setEnding(true)}>
          End it
        </button>
      )}
      {ending && <EndForm view={view} onClose={() => setEnding(false)} />}
    </li>
  );
}

function lookSaid(look: View["looks"][number]): string {
  const part = look.of !== null && look.looked_at < look.of ? ` of ${look.of}` : "";
  const seen = `${cellsSaid(look.cells)} on ${look.looked_at}${part} combs looked at`;
  return look.outcome === null ? `${seen}, which is not all of them` : `${seen}: ${OUTCOME[look.outcome]}`;
}

function Patient({ comb, today }: { comb: View["combs"][number]; today: string }) {
  const place = comb.label
    ? `in ${comb.label}${comb.slot === null ? "" : `, place ${comb.slot}`}`
    : (comb.away ?? "away");
  return (
    <li>
      <TextLink to="/combs/$id" params={{ id: comb.frame_id }}>
        Comb
      </TextLink>{" "}
      {place}: {cellsSaid(comb.cells_before)}
      {comb.cells_now === null || comb.looked_on === null
        ? ", not looked at since"
        : `; ${shortDay(comb.looked_on, today)} ${cellsSaid(comb.cells_now)}` +
          (comb.cleared === null ? "" : comb.cleared === 1 ? ", all cleared" : `, ${percent(comb.cleared)} cleared`)}
    </li>
  );
}

function EndForm({ view, onClose }: { view: View; onClose: () => void }) {
  const done = useDone(onClose);
  const [draft, set, kept] = useDraft({ why: "", by_mistake: false });
  const save = useSave({
    kept,
    check: () => ({ why: draft.why.trim().length < 3 && "say why it ends" }),
    act: () => endHandling(view.handling.id, view.handling.version, draft),
    done,
  });
  return (
    <Dialog open title={`End: ${view.option_name}`} onClose={onClose}>
      <SaveForm save={save} kept={kept} fields={["why"]} label="End it">
        <p>
          {view.outcome
            ? `By the last look that tells: ${OUTCOME[view.outcome]}.`
            : "No look tells yet what became of it: it ends without an outcome."}
        </p>
        <TextArea label="Why" {...bindFields(draft, set, save)("why")} />
        <Checkbox
          label="It was entered by mistake and counts nowhere"
          checked={draft.by_mistake}
          onChange={(yes) => set({ by_mistake: yes })}
        />
      </SaveForm>
    </Dialog>
  );
}
