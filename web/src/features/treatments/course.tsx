/** A course: what is next, done step by step for every colony of the plan; dates that move with reasons; the result. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useParams, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import { api, ask } from "@/client/api";
import { Problem, type Schemas } from "@/client/types";
import { courseQuery, planQuery } from "@/client/queries";
import { useMay } from "@/features/session/use-session";
import { Details } from "@/ui/details";
import { daysBetween, longDay, relativeDay, shortDay } from "@/ui/dates";
import { Dialog } from "@/ui/dialog";
import { Button } from "@/ui/button";
import { Field, FormError, described } from "@/ui/field";
import { ErrorPage, Loading, Notice, Page, Title } from "@/ui/page";
import { quantity } from "@/ui/units";
import { useSay } from "@/wording/say";
import { COURSE_STATE, STEP_STATE, colonies, stepName } from "@/wording/words";
import { AmendAct } from "./amend-act";
import { Falls, TooFewFall } from "./falls";
import { Mix } from "./mix";
import { CheckCount, ToTheBench, useCheckCount } from "./check-count";
import { VerdictSheet } from "./verdict";

type Course = Schemas["CourseView"];
type Step = Schemas["StepView"];
type Refusal = { id: string; label: string; problem: Problem };

export function CourseScreen() {
  const { id } = useParams({ from: "/in/courses/$id" });
  const course = useQuery(courseQuery(id));
  const plan = useQuery({ ...planQuery(course.data?.plan_id ?? ""), enabled: course.data !== undefined });
  if (course.isPending) return <Loading what="Opening the course …" />;
  if (course.isError) return <ErrorPage error={course.error} retry={() => void course.refetch()} />;
  if (plan.isPending) return <Loading what="Opening the course …" />;
  if (plan.isError) return <ErrorPage error={plan.error} retry={() => void plan.refetch()} />;
  return <CourseSheet course={course.data} plan={plan.data} />;
}

function CourseSheet({ course, plan }: { course: Course; plan: Schemas["PlanView"] }) {
  const say = useSay();
  const mayRecord = useMay("record");
  const navigate = useNavigate({ from: "/courses/$id" });
  const { step: wanted, count } = useSearch({ from: "/in/courses/$id" });
  const [abandoning, setAbandoning] = useState(false);
  const [amending, setAmending] = useState<Step | null>(null);
  const [refused, setRefused] = useState<Refusal[]>([]);
  const { today } = plan;
  const closed = !course.is_open;
  const open =
    course.steps.find((step) => step.name === wanted && step.act === null) ??
    course.steps.find((step) => step.name === course.next_step);
  const proof = useCheckCount(course, closed ? undefined : open, count);
  // A step still to come is shown, not asked for, unless somebody opens it.
  const early = open !== undefined && open.earliest > today && wanted !== open.name;
  const following = plan.courses.find((one) => one.state === "awaiting_verification" && one.id !== course.id);
  const placed = plan.courses.filter((one) => one.placed_on !== null).length;
  return (
    <Page>
      <nav aria-label="Path" className="text-sm text-ink-2">
        <Link
          to="/apiaries/$id"
          params={{ id: course.apiary_id }}
          className="inline-block py-1 underline underline-offset-4">
          {course.apiary}
        </Link>
        <span aria-hidden="true"> / </span>
        <Link
          to="/colonies/$id"
          params={{ id: course.colony_id }}
          className="inline-block py-1 underline underline-offset-4">
          {course.label}
        </Link>
      </nav>
      <div className="mt-1 flex flex-wrap items-end justify-between gap-4">
        <div>
          <Title>{course.option.name}</Title>
          <p className="mt-1 text-ink-2">
            {course.label} at {course.apiary}: <strong className="text-ink">{COURSE_STATE[course.state]}</strong>.{" "}
            {quantity(course.dose_quantity, course.dose_unit)} a placing.
            {course.honey_clear_on &&
              (course.ended_on
                ? ` Honey clear ${shortDay(course.honey_clear_on, today)}.`
                : " Honey: not known until the course has ended.")}
          </p>
        </div>
        {mayRecord && !closed && (
          <Button variant="quiet" onClick={() => setAbandoning(true)}>
            Abandon the course
          </Button>
        )}
      </div>
      {plan.courses.length > 1 && (
        <nav aria-label="Colonies of this plan" className="mt-4">
          <p className="mb-1 text-sm text-ink-2">
            Planned together: {placed} of {plan.courses.length} placed.
          </p>
          <ul className="flex flex-wrap gap-px">
            {plan.courses.map((one) => (
              <li key={one.id}>
                <Link
                  to="/courses/$id"
                  params={{ id: one.id }}
                  search={wanted ? { step: wanted } : {}}
                  aria-current={one.id === course.id ? "page" : undefined}
                  className={`flex min-h-14 min-w-20 flex-col justify-center border border-line-2 px-3 py-1 text-center desk:min-h-12 ${one.id === course.id ? "bg-ink text-sheet" : "bg-sheet"}`}>
                  <span className="figure text-lg">{one.label}</span>
                  <span className="text-xs">{COURSE_STATE[one.state]}</span>
                </Link>
              </li>
            ))}
          </ul>
        </nav>
      )}
      {course.state === "abandoned" && (
        <div className="mt-4">
          <Notice tone="act">Abandoned: {course.abandoned_why}</Notice>
        </div>
      )}
      {course.is_open && <TooFewFall course={course} />}
      <div className="mt-6 grid items-start gap-x-12 gap-y-8 desk:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)]">
        <div className="space-y-8">
          {refused.length > 0 && (
            <div role="alert">
              <Notice tone="act">
                Not recorded:{" "}
                {refused.map((one) => (
                  <span key={one.id} className="block">
                    <Link
                      to="/courses/$id"
                      params={{ id: one.id }}
                      className="inline-block py-1 font-semibold underline underline-offset-4">
                      {one.label}
                    </Link>
                    : {say(one.problem.message)}
                  </span>
                ))}
              </Notice>
            </div>
          )}
          {course.verdict && <VerdictSheet verdict={course.verdict} today={today} />}
          {closed && following && mayRecord && (
            <Link
              to="/courses/$id"
              params={{ id: following.id }}
              search={{ step: "verify" }}
              className="inline-flex min-h-16 items-center bg-ink px-6 text-lg font-semibold text-sheet">
              On to {following.label}, awaiting its check count
            </Link>
          )}
          {!closed && open && mayRecord && early && (
            <section aria-labelledby="rest" className="border-4 border-line-2 bg-sheet p-4 desk:p-5">
              <h2 id="rest" className="text-2xl">
                Nothing to do today.
              </h2>
              <p className="mt-1 text-ink-2">
                Next: <strong className="text-ink">{stepName(open.name, course.option.applications)}</strong>, best{" "}
                {relativeDay(open.ideal, today)}, {shortDay(open.ideal, today)}; not before{" "}
                {shortDay(open.earliest, today)}.
              </p>
              <Button className="mt-4" onClick={() => void navigate({ search: { step: open.name } })}>
                Record it against the rule
              </Button>
            </section>
          )}
          {!closed && open && mayRecord && !early && (
            <Act
              key={`${course.id}-${open.name}`}
              course={course}
              step={open}
              plan={plan}
              proof={proof}
              onRefused={setRefused}
            />
          )}
          {!closed &&
            course.option.mixing === "oxalic_solution" &&
            open?.kind !== "verify" &&
            course.placed_on === null && (
              <Mix dosesMl={plan.courses.filter((one) => one.placed_on === null).map((one) => one.dose_quantity)} />
            )}
          <section>
            <Details title="Why this treatment was chosen" open={false}>
              <p>
                Decided {shortDay(course.created_at, today)} by {course.by_name || "somebody"}, policy version{" "}
                {course.policy_version}, for {longDay(course.start_on)}.
              </p>
              {course.reasons.length === 0 && <p>No rule spoke against it.</p>}
              {course.reasons.map((reason) => (
                <p key={reason.rule}>
                  {reason.rule}: {say(reason.text)}
                </p>
              ))}
              {course.overrides.map((one) => (
                <p key={String(one["rule"])}>
                  Set aside: {String(one["rule"])}, by {String(one["authorised_by"])}: {String(one["reason"])}
                </p>
              ))}
              {course.interval_override && <p>Interval set to {course.interval_override} days for this course.</p>}
            </Details>
          </section>
        </div>
        <div className="space-y-8">
          <section aria-labelledby="steps">
            <h2 id="steps" className="border-b-2 border-ink pb-1 text-xl">
              Steps and their dates
            </h2>
            <ol>
              {course.steps.map((step) => (
                <StepRow
                  key={step.name}
                  step={step}
                  today={today}
                  course={course}
                  current={open?.name === step.name && !closed}
                  onOpen={() => void navigate({ search: { step: step.name } })}
                  onAmend={mayRecord && course.state !== "abandoned" ? setAmending : null}
                />
              ))}
            </ol>
          </section>
          <Falls course={course} mayRecord={mayRecord} />
        </div>
      </div>
      {amending?.act && (
        <AmendAct
          courseId={course.id}
          act={amending.act}
          title={stepName(amending.name, course.option.applications)}
          today={today}
          onClose={() => setAmending(null)}
        />
      )}
      <Abandon open={abandoning} onClose={() => setAbandoning(false)} course={course} today={today} />
    </Page>
  );
}

function StepGlyph({ state }: { state: Step["state"] }) {
  const colour =
    state === "overdue"
      ? "text-act"
      : state.startsWith("done")
        ? "text-clear"
        : state === "pending" || state === "cancelled" || state === "skipped"
          ? "text-ink-3"
          : "text-course";
  return (
    <svg width="18" height="18" viewBox="0 0 18 18" aria-hidden="true" className={`mt-1 shrink-0 ${colour}`}>
      {state.startsWith("done") && (
        <path d="M2.500 9.500 7 14 15.500 4" fill="none" stroke="currentColor" strokeWidth="2.600" />
      )}
      {(state === "ready" || state === "overdue") && (
        <path
          d="M4 17V2h10l-3 3.500L14 9H4"
          fill={state === "overdue" ? "currentColor" : "none"}
          stroke="currentColor"
          strokeWidth="2"
        />
      )}
      {state === "waiting_for_weather" && (
        <path
          d="M9 2c3 4.200 4.600 6.600 4.600 9a4.600 4.600 0 0 1-9.200 0C4.400 8.600 6 6.200 9 2z"
          fill="none"
          stroke="currentColor"
          strokeWidth="2"
        />
      )}
      {state === "pending" && <circle cx="9" cy="9" r="3" fill="currentColor" />}
      {(state === "skipped" || state === "cancelled") && <path d="M3 9h12" stroke="currentColor" strokeWidth="2" />}
    </svg>
  );
}

function StepRow({
  step,
  today,
  course,
  current,
  onOpen,
  onAmend,
}: {
  step: Step;
  today: string;
  course: Course;
  current: boolean;
  onOpen: () => void;
  onAmend: ((step: Step) => void) | null;
}) {
  const say = useSay();
  return (
    <li
      className={`grid grid-cols-[1.6rem_1fr] border-b border-line py-2 ${current ? "bg-sheet pl-2 shadow-[inset_3px_0_0_var(--ink)]" : ""}`}>
      <StepGlyph state={step.state} />
      <div>
        <div className="flex flex-wrap items-baseline justify-between gap-x-4">
          {step.is_ready && !current ? (
            <button type="button" onClick={onOpen} className="min-h-8 text-left font-bold underline underline-offset-4">
              {stepName(step.name, course.option.applications)}
            </button>
          ) : (
            <span className={step.state === "pending" ? "" : "font-bold"}>
              {stepName(step.name, course.option.applications)}
            </span>
          )}
          <span className="text-right">
            {step.act ? shortDay(step.act.done_on, today) : shortDay(step.ideal, today)}
            {step.act === null && step.latest !== step.earliest && (
              <span className="text-sm text-ink-2">
                {" "}
                ({shortDay(step.earliest, today)} to {shortDay(step.latest, today)})
              </span>
            )}
          </span>
        </div>
        <p className="text-sm text-ink-2">
          {step.state === "overdue" ? (
            <strong className="text-act">overdue by {daysBetween(step.latest, today)} days. </strong>
          ) : (
            `${STEP_STATE[step.state]}. `
          )}
          {step.late_cost}
          {step.hard_stop && step.act === null && "Hard stop: the latest date matters. "}
          {step.act &&
            step.act.quantity !== null &&
            `${quantity(step.act.quantity, step.act.quantity_unit ?? "")}${step.act.lot ? `, lot ${step.act.lot}` : ""}. `}
          {step.act && `${step.act.by_name}. `}
          {step.act?.note}
          {step.act && step.act.version > 1 && <em>amended. </em>}
          {step.act?.override_why && ` Set aside by ${step.act.override_by}: ${step.act.override_why}.`}
          {step.act && onAmend && (
            <button
              type="button"
              className="min-h-14 px-1 underline underline-offset-4 desk:min-h-6"
              aria-label={`Amend: ${stepName(step.name, course.option.applications)}`}
              onClick={() => onAmend(step)}>
              Amend
            </button>
          )}
        </p>
        {step.moved_days !== 0 && !step.is_before_placing && (
          <p className="text-sm text-course">
            {Math.abs(step.moved_days)} {Math.abs(step.moved_days) === 1 ? "day" : "days"}{" "}
            {step.moved_days > 0 ? "later" : "earlier"} than planned ({shortDay(step.first_ideal, today)})
            {step.moved_why && `: ${say(step.moved_why)}`}
          </p>
        )}
      </div>
    </li>
  );
}

/** What is asked for with each kind of step; a dose, an interim check and a check count say it in their own place. */
const ASKED: Record<Step["kind"], string> = {
  prepare: "Product at hand and in date, protective gear, label read.",
  close_supers_feeder: "Honey supers off or moved, feeder off, floor and entrance as the set-up says.",
  remove: "Count out what was placed: as many out as went in. Put entrance and floor back.",
  end: "The stay is over. Put entrance and floor back.",
  dispose: "How, where and how much.",
  baseline_count: "",
  place: "",
  interim_check: "",
  verify: "",
  honey_clear: "",
  close: "Accept this result?",
};

function Act({
  course,
  step,
  plan,
  proof,
  onRefused,
}: {
  course: Course;
  step: Step;
  plan: Schemas["PlanView"];
  proof: ReturnType<typeof useCheckCount>;
  onRefused: (refused: Refusal[]) => void;
}) {
  const client = useQueryClient();
  const say = useSay();
  const { today } = plan;
  const sharing = plan.courses.filter(
    (one) => one.id === course.id || one.steps.some((other) => other.name === step.name && other.is_ready),
  );
  const alone = step.kind === "verify" || step.kind === "close";
  // One id a colony and try, kept for repeating it; colonies join as they become ready, so only what was unticked is kept.
  const [ids] = useState(() => new Map<string, string>());
  const idOf = (courseId: string) => {
    const known = ids.get(courseId) ?? crypto.randomUUID();
    ids.set(courseId, known);
    return known;
  };
  const [unticked, setUnticked] = useState<Set<string>>(new Set());
  const ticked = new Set((alone ? [course] : sharing).map((one) => one.id).filter((id) => !unticked.has(id)));
  const [day, setDay] = useState(today);
  const [doses, setDoses] = useState<Record<string, string>>({});
  const doseOf = (one: Course) => doses[one.id] ?? String(one.dose_quantity);
  const [lot, setLot] = useState("");
  const [note, setNote] = useState("");
  const [who, setWho] = useState("");
  const [reason, setReason] = useState("");
  const [failures, setFailures] = useState<Refusal[]>([]);
  const placing = step.kind === "place";
  const overriding = failures.some((one) => one.problem.canOverride);

  const record = useMutation({
    mutationFn: async (outcome: "done" | "skipped") => {
      const failed: Refusal[] = [];
      // Each colony is saved on its own: one that is refused does not stop the others.
      for (const one of sharing.filter((each) => ticked.has(each.id))) {
        try {
          await ask(
            api.POST("/api/v1/courses/{course_id}/acts", {
              params: { path: { course_id: one.id } },
              body: {
                id: idOf(one.id),
                step: step.name,
                outcome,
                done_on: day,
                quantity: placing ? Number(doseOf(one)) : null,
                lot: placing ? lot : "",
                note,
                count_id: step.kind === "verify" ? (proof?.id ?? null) : null,
                override:
                  overriding && reason ? { rule: failures[0]?.problem.rule ?? "S2", authorised_by: who, reason } : null,
              },
            }),
          );
        } catch (error) {
          if (error instanceof Problem) {
            failed.push({ id: one.id, label: one.label, problem: error });
            if (error.status !== 0) ids.delete(one.id);
          } else throw error;
        }
      }
      return failed;
    },
    onSuccess: async (failed) => {
      // Where this colony's step is done the form gives way to the next one: what was refused of the others is said above.
      const stays = failed.some((one) => one.id === course.id);
      setFailures(stays ? failed : []);
      onRefused(stays ? [] : failed);
      await client.invalidateQueries({
        predicate: (query) => !["session", "ruler", "options"].includes(String(query.queryKey[0])),
      });
    },
  });
  const at = (field: string) => failures.map((one) => one.problem.at(field)).find((message) => message !== undefined);
  const title = stepName(step.name, course.option.applications);
  const general = failures.filter(
    (one) =>
      one.problem.faults.every((fault) => !["done_on", "quantity", "note", "count_id"].includes(fault.field)) ||
      one.problem.status === 409,
  );
  return (
    <section aria-labelledby="act" className="border-4 border-ink bg-sheet p-4 desk:p-5">
      <h2 id="act" className="text-2xl">
        {title}
      </h2>
      <p className="mt-1 text-ink-2">
        Best {relativeDay(step.ideal, today)}, {shortDay(step.ideal, today)}; not before{" "}
        {shortDay(step.earliest, today)}, at the latest {shortDay(step.latest, today)}.{" "}
        {step.kind === "interim_check" ? course.option.interim_ask : ASKED[step.kind]}
      </p>
      {step.weather.length > 0 && (
        <div className="mt-3">
          <Notice tone={step.state === "waiting_for_weather" ? "act" : "watch"}>
            {say(step.weather.map((one) => one.text).join("; "))}.{" "}
            {step.state === "waiting_for_weather" &&
              (step.next_usable ? (
                <strong>Next usable day: {shortDay(step.next_usable, today)}. The next steps move with it.</strong>
              ) : (
                "No usable day in the forecast."
              ))}
          </Notice>
        </div>
      )}
      {placing && (
        <div className="mt-3 space-y-2">
          <Notice tone="act">
            <strong>You:</strong> {course.option.hazards_people}. Wear {course.option.ppe.join(", ")}.
          </Notice>
          <Notice>
            <strong>Hive:</strong> {course.option.hive_setup}. {course.option.check_label[0]?.toUpperCase()}
            {course.option.check_label.slice(1)}.
          </Notice>
        </div>
      )}
      {step.kind === "verify" && !proof ? (
        proof === null && (
          <div className="mt-4">
            <p>
              A wash after the course, from {shortDay(step.earliest, today)} on, is set against the count before it
              {plan.courses.length > 1 ? ", colony by colony" : ""}.
            </p>
            <ToTheBench course={course} plan={plan} step={step} again={false} />
          </div>
        )
      ) : (
        <form
          noValidate
          className="mt-4 space-y-4"
          onSubmit={(event) => {
            event.preventDefault();
            record.mutate("done");
          }}>
          {proof && <CheckCount found={proof} today={today} />}
          <Field label="Done on" name="done_on" error={at("done_on") && say(at("done_on") ?? "")}>
            <input
              type="date"
              className="input"
              max={today}
              value={day}
              onChange={(event) => setDay(event.target.value)}
              {...described("done_on", at("done_on"))}
            />
          </Field>
          {!alone && sharing.length > 0 && (
            <fieldset>
              <legend className="mb-1 font-semibold">Done for</legend>
              <ul className="border-t border-line">
                {sharing.map((one) => (
                  <li key={one.id} className="grid grid-cols-[1fr_9rem] items-center gap-3 border-b border-line py-1">
                    <label className="flex min-h-14 items-center gap-3 desk:min-h-10">
                      <input
                        type="checkbox"
                        className="h-6 w-6"
                        checked={ticked.has(one.id)}
                        onChange={() =>
                          setUnticked((old) => {
                            const next = new Set(old);
                            if (!next.delete(one.id)) next.add(one.id);
                            return next;
                          })
                        }
                      />
                      <span className="figure text-xl">{one.label}</span>
                    </label>
                    {placing && (
                      <label className="flex items-center gap-2">
                        <span className="sr-only">Dose placed in {one.label}</span>
                        <input
                          inputMode="decimal"
                          className="input text-right"
                          value={doseOf(one)}
                          onChange={(event) =>
                            setDoses((old) => ({ ...old, [one.id]: event.target.value.replace(",", ".") }))
                          }
                          aria-invalid={at("quantity") ? true : undefined}
                        />
                        <span className="w-14 text-sm">
                          {quantity(Number(doseOf(one)) || 0, one.dose_unit).replace(/^\S+ /, "")}
                        </span>
                      </label>
                    )}
                  </li>
                ))}
              </ul>
              {at("quantity") && (
                <p role="alert" className="mt-1 font-semibold text-act">
                  {at("quantity")}
                </p>
              )}
            </fieldset>
          )}
          {placing && (
            <Field label="Lot on the pack" name="lot" error={at("lot")}>
              <input
                className="input"
                maxLength={80}
                value={lot}
                onChange={(event) => setLot(event.target.value)}
                {...described("lot", at("lot"))}
              />
            </Field>
          )}
          <Field label="Note" name="note" error={at("note")}>
            <input
              className="input"
              maxLength={2000}
              value={note}
              onChange={(event) => setNote(event.target.value)}
              {...described("note", at("note"))}
            />
          </Field>
          {overriding && (
            <fieldset className="space-y-3 border-l-4 border-act pl-3">
              <legend className="font-semibold">
                Override: somebody named answers for it, and the course keeps it
              </legend>
              <Field label="Who takes it on" name="who">
                <input
                  className="input"
                  value={who}
                  onChange={(event) => setWho(event.target.value)}
                  {...described("who")}
                />
              </Field>
              <Field label="Why" name="why">
                <input
                  className="input"
                  value={reason}
                  onChange={(event) => setReason(event.target.value)}
                  {...described("why")}
                />
              </Field>
            </fieldset>
          )}
          {general.length > 0 && (
            <div role="alert" className="space-y-1 font-semibold text-act">
              {general.map((one) => (
                <p key={one.label}>
                  {one.label}: {say(one.problem.message)}
                </p>
              ))}
            </div>
          )}
          <FormError error={record.error} fields={[]} />
          <div className="flex flex-wrap gap-2">
            <Button type="submit" variant="main" big disabled={record.isPending || ticked.size === 0}>
              {record.isPending
                ? "Recording …"
                : step.kind === "close"
                  ? "Confirm the outcome"
                  : step.kind === "verify"
                    ? "Prove the course with this count"
                    : `Record it for ${colonies(ticked.size)}`}
            </Button>
            {proof && <ToTheBench course={course} plan={plan} step={step} again />}
            {step.may_be_skipped && (
              <Button onClick={() => record.mutate("skipped")} disabled={record.isPending}>
                Skip it (say why)
              </Button>
            )}
          </div>
        </form>
      )}
    </section>
  );
}

function Abandon({
  open,
  onClose,
  course,
  today,
}: {
  open: boolean;
  onClose: () => void;
  course: Course;
  today: string;
}) {
  const client = useQueryClient();
  const [why, setWhy] = useState("");
  const [removed, setRemoved] = useState(today);
  const placed = course.placed_on !== null && course.ended_on === null;
  const abandon = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/v1/courses/{course_id}/abandon", {
          params: { path: { course_id: course.id } },
          body: { why, removed_on: placed ? removed : null },
        }),
      ),
    onSuccess: async () => {
      await client.invalidateQueries();
      onClose();
    },
  });
  const problem = abandon.error instanceof Problem ? abandon.error : null;
  return (
    <Dialog open={open} onClose={onClose} title={`Abandon the course of ${course.label}`}>
      <form
        noValidate
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          abandon.mutate();
        }}>
        <p>The course stays on record as abandoned. Other colonies of the plan go on.</p>
        <Field label="Why" name="why" error={problem?.at("why")}>
          <input
            className="input"
            value={why}
            onChange={(event) => setWhy(event.target.value)}
            {...described("why", problem?.at("why"))}
          />
        </Field>
        {placed && (
          <Field label="Out of the hive since" name="removed_on" error={problem?.at("removed_on")}>
            <input
              type="date"
              className="input"
              max={today}
              value={removed}
              onChange={(event) => setRemoved(event.target.value)}
              {...described("removed_on", problem?.at("removed_on"))}
            />
          </Field>
        )}
        <FormError error={abandon.error} fields={["why", "removed_on"]} />
        <Button type="submit" variant="main" disabled={abandon.isPending}>
          Abandon the course of {course.label}
        </Button>
      </form>
    </Dialog>
  );
}
