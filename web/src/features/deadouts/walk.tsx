/** The walk through a dead hive: one step at a time, left and taken up again, with what it comes to beside it. */
import { clsx } from "clsx";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { addDeadOutPhoto, type DeadStep } from "@/client/commands/deadouts";
import { deadSignsQuery } from "@/client/deadout-queries";
import { Problem } from "@/client/types";
import { Button } from "@/ui/button";
import { SelectField } from "@/ui/fields";
import { Notice } from "@/ui/page";
import { PhotoButton } from "@/ui/photo-button";
import { useDesk } from "@/ui/use-desk";
import { DeadOrders, Headline, NextLooks } from "./dead-reading";
import { StepForm } from "./step-form";
import { STEPS, stepName } from "./steps";
import type { DeadOutState } from "./use-dead-out";

export function Walk({ state }: { state: DeadOutState }) {
  const { step: asked } = useSearch({ from: "/in/deadouts/$id" });
  const navigate = useNavigate({ from: "/deadouts/$id" });
  const desk = useDesk();
  const begun = STEPS.find((one) => !state.recorded(one.id).is_done)?.id ?? "record";
  const here = asked ?? (state.draft ? begun : "shut");
  const at = STEPS.findIndex((one) => one.id === here);
  const go = (step: DeadStep) => {
    void navigate({ search: { step }, replace: true, resetScroll: false });
    window.scrollTo(0, 0);
  };
  return (
    <div className="mt-4 grid items-start gap-x-8 gap-y-6 desk:grid-cols-[12rem_minmax(0,1fr)_20rem]">
      {desk && <StepList state={state} here={here} onGo={go} />}
      <StepCard state={state} here={here} at={at} onGo={go} />
      <aside aria-label="So far" className="space-y-4">
        <h2 className="border-b-2 border-ink pb-1 text-xl">So far</h2>
        <Headline reading={state.view.reading} />
        {state.view.reading.orders.length > 0 && <DeadOrders reading={state.view.reading} />}
        <NextLooks reading={state.view.reading} />
        <Ending state={state} onGo={go} />
      </aside>
    </div>
  );
}

type GoProps = { state: DeadOutState; here: DeadStep; onGo: (step: DeadStep) => void };

function StepList({ state, here, onGo }: GoProps) {
  return (
    <nav aria-label="Steps">
      <ol>
        {STEPS.map((one, number) => {
          const done = state.recorded(one.id).is_done === true;
          return (
            <li key={one.id} className="border-b border-line">
              <button
                type="button"
                aria-current={one.id === here ? "step" : undefined}
                onClick={() => onGo(one.id)}
                className={clsx(
                  "flex min-h-10 w-full items-center gap-2 px-2 text-left",
                  one.id === here && "bg-ink text-sheet",
                )}>
                <span className="figure w-6 text-right">{number + 1}</span>
                <span className="flex-1">{one.name}</span>
                {done && <span aria-label="done">✓</span>}
              </button>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}

function StepCard({ state, here, at, onGo }: GoProps & { at: number }) {
  const client = useQueryClient();
  const desk = useDesk();
  const signs = useQuery(deadSignsQuery);
  const step = STEPS[at];
  const fault = state.faultOf(here);
  const photos = state.view.photos.filter((one) => one.step === here);
  const next = STEPS[at + 1];
  const before = STEPS[at - 1];
  if (!step) return null;
  return (
    <section aria-labelledby="step" className="min-w-0">
      {desk ? (
        <p className="text-ink-2">
          Step {at + 1} of {STEPS.length}
        </p>
      ) : (
        <SelectField
          label="Step"
          name="step"
          value={here}
          options={STEPS.map((one, number) => [
            one.id,
            `${number + 1} ${one.name}${state.recorded(one.id).is_done ? ", done" : ""}`,
          ])}
          onChange={onGo}
        />
      )}
      <h2 id="step" className="text-2xl">
        {step.name}
      </h2>
      <p className="mt-1 max-w-prose">{step.how}</p>
      {state.conflicts.includes(here) && <Settle state={state} step={here} />}
      {fault && (
        <p role="alert" className="mt-2 font-semibold text-act">
          {fault.message}
        </p>
      )}
      <fieldset disabled={!state.writable} className="mt-3 min-w-0">
        {signs.data && (
          <StepForm
            key={here}
            step={here}
            view={state.view}
            content={state.recorded(here)}
            set={(part) => state.keep(here, part)}
            signs={signs.data}
            at={(field) => (fault?.field.startsWith(field) ? fault.message : undefined) ?? closeFault(state, field)}
          />
        )}
      </fieldset>
      <div className="mt-4 flex flex-wrap items-center gap-3">
        {photos.map((one) => (
          <a key={one.id} href={`/api/v1/deadout-photos/${one.id}`} target="_blank" rel="noreferrer">
            <img
              src={`/api/v1/deadout-photos/${one.id}?small=true`}
              alt={one.caption || `Photo of the step ${step.name}, ${one.by_name}`}
              className="h-20 border border-line-2 object-cover"
              style={{ aspectRatio: one.width / one.height }}
            />
          </a>
        ))}
        {state.mayRecord && (
          <PhotoButton
            label="Photo of this step"
            send={(photo, file) => addDeadOutPhoto(state.view.id, photo, here, file)}
            onSent={() => client.invalidateQueries({ queryKey: ["deadout", state.view.id] })}
          />
        )}
      </div>
      <div
        className={clsx(
          "sticky bottom-0 z-10 -mx-4 mt-5 flex gap-2 border-t border-line bg-paper px-4 py-2",
          "desk:mx-0 desk:px-0",
        )}>
        {before && (
          <Button className="flex-1" onClick={() => onGo(before.id)}>
            Back: {before.name}
          </Button>
        )}
        {next && (
          <Button
            variant="main"
            className="flex-[2]"
            onClick={() => {
              if (state.writable && !state.recorded(here).is_done) state.keep(here, { is_done: true });
              onGo(next.id);
            }}>
            {state.writable ? "Done. Next" : "Next"}: {next.name}
          </Button>
        )}
        {!next && state.writable && !state.recorded(here).is_done && (
          <Button variant="main" className="flex-[2]" onClick={() => state.keep(here, { is_done: true })}>
            Done with the last step
          </Button>
        )}
      </div>
    </section>
  );
}

const closeFault = (state: DeadOutState, field: string): string | undefined =>
  state.close.error instanceof Problem ? state.close.error.at(field) : undefined;

function Settle({ state, step }: { state: DeadOutState; step: DeadStep }) {
  const theirs = state.view.steps.find((one) => one.step === step);
  return (
    <div role="alert" className="mt-3 border-4 border-act bg-sheet p-3">
      <p className="font-semibold">{theirs?.by_name || "Somebody else"} recorded this step meanwhile.</p>
      <p className="text-ink-2">Yours is shown here, unsent. Which stands?</p>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button variant="main" onClick={() => state.settle(step, true)}>
          Keep mine
        </Button>
        <Button onClick={() => state.settle(step, false)}>Keep theirs</Button>
      </div>
    </div>
  );
}

/** Closing keeps what it came to for ever; what is missing is said before. */
function Ending({ state, onGo }: { state: DeadOutState; onGo: (step: DeadStep) => void }) {
  const { view } = state;
  if (!state.draft || !state.mayRecord) return null;
  const left = STEPS.filter((one) => !state.recorded(one.id).is_done);
  const problem = state.close.error;
  const shut = problem instanceof Problem && problem.at("is_shut");
  return (
    <div className="space-y-2 border-t border-line pt-3">
      {left.length > 0 && (
        <p className="text-ink-2">
          Not gone through: {left.map((one) => stepName(one.id).toLowerCase()).join(", ")}. What was not looked at is no
          no.
        </p>
      )}
      {!view.is_complete && (
        <p className="text-ink-2">
          {view.combs.read} of {view.combs.of} combs read for scale: its combs stay held until all are.
        </p>
      )}
      {view.reading.raises_case && (
        <Notice tone="act">Closing it opens a case, and the apiary stands still from then on.</Notice>
      )}
      {problem && (
        <p role="alert" className="font-semibold text-act">
          {problem.message}
          {shut && (
            <Button variant="quiet" onClick={() => onGo("shut")}>
              Go to it
            </Button>
          )}
        </p>
      )}
      <Button
        variant="main"
        className="w-full"
        disabled={state.close.isPending || state.waiting > 0 || state.conflicts.length > 0}
        onClick={() => state.close.mutate()}>
        {state.waiting > 0 ? "Sending …" : "Close the examination"}
      </Button>
      {view.steps.length === 0 && (
        <Button variant="quiet" onClick={() => state.drop.mutate()}>
          Opened by mistake: drop it
        </Button>
      )}
    </div>
  );
}
