/** The brood calendar of a colony: when no brood is capped, what visits saw of it, and what is expected when. */
import { useState } from "react";
import { withdrawBroodEvent } from "@/client/commands/colonies";
import type { Schemas } from "@/client/types";
import { useSentence } from "@/features/session/use-sentence";
import { Button } from "@/ui/button";
import { relativeDay, shortDay } from "@/ui/dates";
import { Details } from "@/ui/details";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/fields";
import { SectionHeading } from "@/ui/page";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { BROOD_EXPECTED, BROOD_SOURCE, BROOD_STOP } from "@/wording/words";
import { useDone } from "./use-done";

type Brood = NonNullable<Schemas["ColonyView"]["brood"]>;
type Props = { brood: Brood; today: string; mayWithdraw: boolean };

export function BroodCalendar({ brood, today, mayWithdraw }: Props) {
  const say = useSentence();
  const [withdrawing, setWithdrawing] = useState(false);
  const { state } = brood;
  const { stop } = state;
  const expected = state.expectations;
  return (
    <section aria-labelledby="brood" className="mt-4 border-l-4 border-ink bg-sheet px-4 py-3">
      <SectionHeading id="brood">{headOf(state, today)}</SectionHeading>
      <p className="text-ink-2">
        {BROOD_STOP[stop.kind]} {shortDay(stop.on, today)}
        {stop.release_on &&
          `, ${stop.release_on > today ? "to be " : ""}set free ${shortDay(stop.release_on, today)}`}{" "}
        ({BROOD_SOURCE[stop.source]}).{" "}
        {state.best_on && state.window !== "over" && (
          <strong className="text-ink">
            Best day for oxalic acid: {shortDay(state.best_on, today)}, {relativeDay(state.best_on, today)}.
          </strong>
        )}
      </p>
      {state.because.map((one) => (
        <p key={`${one.code}-${String(one.params["on"])}`}>{say(one)}.</p>
      ))}
      {expected.length > 0 && (
        <Details title="What is expected when">
          <table className="w-full max-w-xl text-left">
            <thead>
              <tr>
                <th scope="col" />
                <th scope="col">early</th>
                <th scope="col">as a rule</th>
                <th scope="col">late</th>
              </tr>
            </thead>
            <tbody>
              {expected.map((one) => (
                <tr key={one.name} className="border-t border-line">
                  <th scope="row" className="py-1 pr-3 font-normal">
                    {BROOD_EXPECTED[one.name] ?? one.name}
                  </th>
                  <td>{shortDay(one.early, today)}</td>
                  <td>{shortDay(one.typical, today)}</td>
                  <td>{shortDay(one.late, today)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Details>
      )}
      {mayWithdraw && brood.event_id && (
        <Button variant="quiet" onClick={() => setWithdrawing(true)}>
          It was not so
        </Button>
      )}
      {withdrawing && brood.event_id && <Withdraw eventId={brood.event_id} onClose={() => setWithdrawing(false)} />}
    </section>
  );
}

/** The one sentence: from when to when, or why not. */
function headOf(state: Brood["state"], today: string): string {
  const day = (iso: string) => shortDay(iso, today);
  const until = state.closes ? ` to ${day(state.closes)}` : " until she is set free";
  switch (state.window) {
    case "coming":
      return `No capped brood from ${day(state.opens)}${until}`;
    case "open":
      return state.closes ? `No capped brood now, until ${day(state.closes)}` : "No capped brood now";
    case "closing":
      return `New brood may be capped since ${day(state.closes_at_earliest ?? state.opens)}: look first`;
    case "over":
      return `New brood is capped since ${day(state.closes ?? state.opens)}`;
    case "never":
      return "New brood may be capped before the old has emerged: look first";
    case "withdrawn":
      return "Not broodless, by what a visit saw";
  }
}

function Withdraw({ eventId, onClose }: { eventId: string; onClose: () => void }) {
  const done = useDone(onClose);
  const [draft, set, kept] = useDraft({ why: "" }, `brood-event:${eventId}`);
  const save = useSave({ kept, act: () => withdrawBroodEvent(eventId, draft.why), done });
  return (
    <Dialog open onClose={onClose} title="It was not so">
      <SaveForm save={save} kept={kept} fields={["why"]} label="Withdraw it">
        <TextField
          label="Why"
          hint="What was said stays on record"
          maxLength={400}
          {...bindFields(draft, set, save)("why")}
        />
      </SaveForm>
    </Dialog>
  );
}
