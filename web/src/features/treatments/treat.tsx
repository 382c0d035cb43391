/** Choosing a treatment: every option with its verdict and reasons, the forecast behind it, the doses, the start. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import { api, ask } from "@/client/api";
import { Problem, type Schemas } from "@/client/types";
import { optionsQuery } from "@/client/queries";
import { useSession } from "@/features/session/use-session";
import { ForecastStrip } from "@/instruments/forecast-strip";
import { Details } from "@/ui/details";
import { longDay, shortDay } from "@/ui/dates";
import { Button } from "@/ui/button";
import { Field, FormError, described } from "@/ui/field";
import { LevelMark } from "@/ui/level";
import { Empty, ErrorPage, Loading, Notice, Page } from "@/ui/page";
import { oneDecimal, quantity, rate } from "@/ui/units";
import { useSay } from "@/wording/say";
import { COURSE_STATE, SEASON, VERDICT, colonies } from "@/wording/words";

type Options = Schemas["ApiaryOptions"];
type Verdict = Schemas["SuitabilityView"]["verdict"];
type Row = {
  option: Schemas["OptionView"];
  per: { colony: Schemas["ColonyOptions"]; judged: Schemas["SuitabilityView"] }[];
  all: Schemas["OptionTogether"];
};

export function Treat() {
  const { apiary, colonies: ids, start } = useSearch({ from: "/in/treat" });
  const query = useQuery({
    ...optionsQuery(apiary ?? "", ids ?? [], start),
    enabled: apiary !== undefined && (ids?.length ?? 0) > 0,
    placeholderData: (old) => old,
  });
  if (apiary === undefined || !ids?.length) {
    return (
      <Page>
        <Empty title="Which colonies?">
          Open an apiary, pick colonies and choose a treatment there.{" "}
          <Link to="/apiaries" className="underline underline-offset-4">
            Go to Places
          </Link>
        </Empty>
      </Page>
    );
  }
  if (query.isPending) return <Loading what="Weighing the options …" />;
  if (query.isError) return <ErrorPage error={query.error} retry={() => void query.refetch()} />;
  return <TreatSheet view={query.data} />;
}

/** The options in the order in which the core offers them to these colonies together. */
function rowsOf(view: Options): Row[] {
  return view.together.flatMap((all) => {
    const option = view.catalogue.find((one) => one.id === all.option_id);
    const per = view.colonies.flatMap((colony) => {
      const judged = colony.options.find((one) => one.option_id === all.option_id);
      return judged ? [{ colony, judged }] : [];
    });
    return option ? [{ option, per, all }] : [];
  });
}

function VerdictMark({ verdict }: { verdict: Verdict }) {
  const colour = {
    allowed: "text-clear",
    allowed_with_cautions: "text-watch",
    not_now: "text-course",
    never_here: "text-ink-3",
  }[verdict];
  return (
    <span className={`inline-flex items-center gap-1.5 font-bold ${colour}`}>
      <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true">
        {verdict === "allowed" && (
          <path d="M2 8.500 6.500 13 14 3" fill="none" stroke="currentColor" strokeWidth="2.4" />
        )}
        {verdict === "allowed_with_cautions" && (
          <path d="M8 1.500 15 14.500H1zM8 6v4.500M8 12v1" fill="none" stroke="currentColor" strokeWidth="1.8" />
        )}
        {verdict === "not_now" && (
          <path
            d="M3 2h10M3 14h10M4 2c0 5 8 7 8 12M12 2c0 5-8 7-8 12"
            fill="none"
            stroke="currentColor"
            strokeWidth="1.700"
          />
        )}
        {verdict === "never_here" && <path d="M2 8h12" stroke="currentColor" strokeWidth="2.4" />}
      </svg>
      {VERDICT[verdict]}
    </span>
  );
}

function TreatSheet({ view }: { view: Options }) {
  const session = useSession();
  const navigate = useNavigate({ from: "/treat" });
  const { option: chosenId } = useSearch({ from: "/in/treat" });
  const rows = rowsOf(view);
  const shown = rows.filter((row) => row.all.verdict !== "never_here" && !row.all.is_supporting);
  const supporting = rows.filter((row) => row.all.verdict !== "never_here" && row.all.is_supporting);
  const never = rows.filter((row) => row.all.verdict === "never_here");
  const chosen = rows.find((row) => row.option.id === chosenId) ?? shown[0];
  const choose = async (option: string) => {
    await navigate({ search: (old) => ({ ...old, option }), replace: true, resetScroll: false });
    // In the field the sheet stands below the list: what was tapped comes into sight.
    if (window.matchMedia("(max-width: 899px)").matches)
      document.getElementById("option-name")?.scrollIntoView({ block: "start" });
  };
  const setStart = (start: string) => void navigate({ search: (old) => ({ ...old, start }), replace: true });
  const rates = view.colonies.flatMap((one) => (one.per_100 === null ? [] : [one.per_100]));
  return (
    <Page>
      <nav aria-label="Path" className="text-sm text-ink-2">
        <Link
          to="/apiaries/$id"
          params={{ id: view.apiary.id }}
          className="inline-block py-1 underline underline-offset-4">
          {view.apiary.name}
        </Link>
      </nav>
      <h1 className="mt-1 text-4xl">Choose a treatment</h1>
      <p className="mt-1 text-ink-2">
        {colonies(view.colonies.length)}: {view.colonies.map((one) => one.label).join(", ")}.{" "}
        {rates.length > 0 ? `Highest ${rate(Math.max(...rates))} mites per 100 bees` : "No rate known"}. Season:{" "}
        {SEASON[view.season]}
        {view.winter_bee_date && `; winter bees from ${shortDay(view.winter_bee_date, view.start_on)}`}.
      </p>
      {view.colonies.some((one) => one.open_courses.length > 0) && (
        <div className="mt-3">
          <Notice tone="course">
            In a course already:{" "}
            {view.colonies.flatMap((colony) =>
              colony.open_courses.map((one) => (
                <span key={one.id} className="mr-3 inline-block">
                  {colony.label},{" "}
                  <Link
                    to="/courses/$id"
                    params={{ id: one.id }}
                    className="inline-block py-1 underline underline-offset-4">
                    {one.name}
                  </Link>{" "}
                  ({COURSE_STATE[one.state]}, {shortDay(one.start_on, session.today)})
                </span>
              )),
            )}
          </Notice>
        </div>
      )}
      <section className="mt-4" aria-label="Day of placing">
        <p className="mb-1 text-sm text-ink-2">
          Place the dose on <strong className="text-ink">{longDay(view.start_on)}</strong>; choose another day of the
          forecast, and the options are weighed again.
        </p>
        <ForecastStrip days={view.forecast} chosen={view.start_on} units={session.person} onChoose={setStart} />
      </section>
      <div className="mt-6 grid items-start gap-8 desk:grid-cols-[minmax(0,26rem)_minmax(0,1fr)]">
        <section aria-label="Options">
          {shown.length === 0 && (
            <p className="text-ink-2">Nothing can be given on this day. The reasons stand with each option below.</p>
          )}
          <ul className="border-t-2 border-ink">
            {shown.map((row) => (
              <OptionLine
                key={row.option.id}
                row={row}
                current={row === chosen}
                onChoose={() => void choose(row.option.id)}
                total={view.colonies.length}
                today={view.start_on}
              />
            ))}
          </ul>
          {supporting.length > 0 && (
            <details className="mt-2" open={supporting.some((row) => row === chosen)}>
              <summary className="min-h-9 cursor-pointer py-1 underline underline-offset-4">
                {supporting.length} supporting measures, no answer by themselves
              </summary>
              <ul>
                {supporting.map((row) => (
                  <OptionLine
                    key={row.option.id}
                    row={row}
                    current={row === chosen}
                    onChoose={() => void choose(row.option.id)}
                    total={view.colonies.length}
                    today={view.start_on}
                  />
                ))}
              </ul>
            </details>
          )}
          {never.length > 0 && (
            <details className="mt-2" open={never.some((row) => row === chosen)}>
              <summary className="min-h-9 cursor-pointer py-1 underline underline-offset-4">
                {never.length} unsuitable options
              </summary>
              <ul>
                {never.map((row) => (
                  <OptionLine
                    key={row.option.id}
                    row={row}
                    current={row === chosen}
                    onChoose={() => void choose(row.option.id)}
                    total={view.colonies.length}
                    today={view.start_on}
                  />
                ))}
              </ul>
            </details>
          )}
          <p className="mt-3 text-sm text-ink-2">
            Ordered by verdict, colonies that may have it, in time for winter bees, expected kill, risk to the queen,
            visits. Every value is a default: check your label. Label, law and your vet come first.
          </p>
        </section>
        {chosen && <OptionSheet key={`${chosen.option.id}-${view.start_on}`} row={chosen} view={view} />}
      </div>
    </Page>
  );
}

function OptionLine({
  row,
  current,
  onChoose,
  total,
  today,
}: {
  row: Row;
  current: boolean;
  onChoose: () => void;
  total: number;
  today: string;
}) {
  const first = row.per[0]?.judged;
  return (
    <li>
      <button
        type="button"
        onClick={onChoose}
        aria-pressed={current}
        className={`grid min-h-16 w-full gap-0.5 border-b border-line px-3 py-2 text-left ${current ? "bg-sheet shadow-[inset_4px_0_0_var(--ink)]" : "hover:bg-sheet"}`}>
        <span className="flex flex-wrap items-baseline justify-between gap-x-3">
          <span className="font-head text-lg font-semibold leading-tight">{row.option.name}</span>
          <VerdictMark verdict={row.all.verdict} />
        </span>
        <span className="text-sm text-ink-2">
          {first?.efficacy && `${first.efficacy.low} to ${first.efficacy.high} % of all mites; `}
          {row.option.visits === 1 ? "1 visit" : `${row.option.visits} visits`}
          {total > 1 && row.all.ready > 0 && `; ${row.all.ready} of ${total} colonies`}
          {row.all.verdict === "not_now" && row.all.from_day && `; from ${shortDay(row.all.from_day, today)}`}
        </span>
      </button>
    </li>
  );
}

function OptionSheet({ row, view }: { row: Row; view: Options }) {
  const say = useSay();
  const client = useQueryClient();
  const navigate = useNavigate();
  const { option } = row;
  const [planId] = useState(() => crypto.randomUUID());
  const [courseIds] = useState(() => new Map(row.per.map((one) => [one.colony.colony_id, crypto.randomUUID()])));
  const startable = (judged: Schemas["SuitabilityView"]) => judged.holding.length === 0 && judged.dose !== null;
  const [off, setOff] = useState<Set<string>>(
    () => new Set(row.per.filter((one) => !startable(one.judged)).map((one) => one.colony.colony_id)),
  );
  const [interval, setInterval] = useState("");
  const [aside, setAside] = useState<Set<string>>(new Set());
  const [who, setWho] = useState("");
  const [why, setWhy] = useState("");
  const taken = row.per.filter((one) => !off.has(one.colony.colony_id));
  const plan = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/v1/plans", {
          body: {
            id: planId,
            apiary_id: view.apiary.id,
            option_id: option.id,
            start_on: view.start_on,
            interval_override: interval ? Number(interval) : null,
            courses: taken.map((one) => ({
              id: courseIds.get(one.colony.colony_id) ?? "",
              colony_id: one.colony.colony_id,
              overrides: aside.has(one.colony.colony_id)
                ? one.judged.holding.map((rule) => ({ rule, authorised_by: who, reason: why }))
                : [],
            })),
          },
        }),
      ),
    onSuccess: async (planned) => {
      await client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "options" });
      const first = planned.find((one) => one.course_id !== null);
      if (first?.course_id) await navigate({ to: "/courses/$id", params: { id: first.course_id } });
    },
  });
  const setting = taken.filter((one) => aside.has(one.colony.colony_id));
  const unsigned = setting.length > 0 && (who.trim() === "" || why.trim() === "");
  const problem = plan.error instanceof Problem ? plan.error : null;
  const held = (plan.data ?? []).filter((one) => one.course_id === null);
  const example = row.per.find((one) => !off.has(one.colony.colony_id)) ?? row.per[0];
  const total = taken.reduce((sum, one) => sum + (one.judged.dose?.course_total ?? 0), 0);
  return (
    <section aria-labelledby="option-name" className="border-t-2 border-ink pt-3">
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h2 id="option-name" className="scroll-mt-16 text-2xl">
          {option.name}
        </h2>
        <VerdictMark verdict={row.all.verdict} />
      </div>
      <p className="mt-1 text-ink-2">
        {option.active}; {option.form}. {option.efficacy_note}
      </p>
      {example && (
        <dl className="mt-4 grid grid-cols-2 gap-x-6 gap-y-3 desk:grid-cols-4">
          {[
            [
              "kills",
              example.judged.efficacy
                ? `${example.judged.efficacy.low} to ${example.judged.efficacy.high} %`
                : "not known",
              "of all mites",
            ],
            [
              "leaves",
              example.judged.expected_after
                ? `${rate(example.judged.expected_after.low)} to ${rate(example.judged.expected_after.high)}`
                : "–",
              "mites per 100 bees",
            ],
            [
              "ends",
              shortDay(example.judged.ends_on, view.start_on),
              example.judged.in_time === false ? "too late for winter bees" : "in time for winter bees",
            ],
            [
              "queen lost in",
              `${option.queen_loss_pct.low} to ${option.queen_loss_pct.high} %`,
              `of colonies; ${option.queen_loss_risk} risk`,
            ],
          ].map(([label, figure, unit]) => (
            <div key={label}>
              <dt className="text-sm text-ink-2">{label}</dt>
              <dd>
                <span className="figure text-2xl">{figure}</span>
                <span className="block text-sm text-ink-2">{unit}</span>
              </dd>
            </div>
          ))}
        </dl>
      )}
      <table className="mt-5 w-full border-collapse text-left">
        <caption className="sr-only">{option.name}, colony by colony</caption>
        <thead>
          <tr className="border-b border-ink text-sm">
            <th scope="col" className="py-1 pr-2 font-semibold">
              colony
            </th>
            <th scope="col" className="py-1 pr-2 font-semibold">
              verdict and reasons
            </th>
            <th scope="col" className="py-1 text-right font-semibold">
              dose per placing
            </th>
          </tr>
        </thead>
        <tbody>
          {row.per.map(({ colony, judged }) => (
            <tr key={colony.colony_id} className="border-b border-line align-top">
              <th scope="row" className="py-2 pr-2">
                <label className="flex min-h-8 items-center gap-2">
                  <input
                    type="checkbox"
                    className="h-5 w-5"
                    disabled={!startable(judged) && !aside.has(colony.colony_id)}
                    checked={!off.has(colony.colony_id)}
                    onChange={() =>
                      setOff((old) => {
                        const next = new Set(old);
                        if (!next.delete(colony.colony_id)) next.add(colony.colony_id);
                        return next;
                      })
                    }
                  />
                  <span className="figure text-xl">{colony.label}</span>
                </label>
                <span className="flex items-center gap-1 pl-7 text-sm font-normal text-ink-2">
                  <LevelMark level={colony.level} size={12} />
                  {colony.per_100 === null ? "?" : rate(colony.per_100)}
                </span>
              </th>
              <td className="py-2 pr-2">
                <VerdictMark verdict={judged.verdict} />
                {judged.verdict === "not_now" && (
                  <span className="text-sm text-ink-2">
                    {judged.from_day
                      ? ` from ${shortDay(judged.from_day, view.start_on)}${judged.weather_known ? "" : " (weather not yet known)"}`
                      : ""}
                  </span>
                )}
                <ul className="text-sm text-ink-2">
                  {judged.reasons.map((reason) => (
                    <li key={reason.rule}>
                      {say(reason.text)}{" "}
                      <span className="text-ink-3">
                        ({reason.rule}, {SOURCE[reason.source] ?? reason.source})
                      </span>
                    </li>
                  ))}
                </ul>
                {!startable(judged) && judged.dose && !aside.has(colony.colony_id) && (
                  <button
                    type="button"
                    className="min-h-14 text-sm underline underline-offset-4 desk:min-h-8"
                    aria-label={`Override for ${colony.label}`}
                    onClick={() => {
                      setAside((old) => new Set(old).add(colony.colony_id));
                      setOff((old) => {
                        const next = new Set(old);
                        next.delete(colony.colony_id);
                        return next;
                      });
                    }}>
                    Override
                  </button>
                )}
              </td>
              <td className="py-2 text-right">
                {judged.dose ? (
                  <>
                    <span className="figure text-xl">{oneDecimal(judged.dose.quantity)}</span>{" "}
                    {quantity(judged.dose.quantity, judged.dose.unit).replace(/^\S+ /, "")}
                    {judged.dose.converted && (
                      <span className="block text-sm text-ink-2">converted from the other measure</span>
                    )}
                    {judged.dose.capped && <span className="block text-sm text-ink-2">capped</span>}
                  </>
                ) : (
                  "–"
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-4 grid gap-3 desk:grid-cols-2">
        <Notice tone="act">
          <strong>People:</strong> {option.hazards_people}. Wear {option.ppe.join(", ")}.{" "}
          {option.check_label[0]?.toUpperCase()}
          {option.check_label.slice(1)}.
        </Notice>
        <Notice>
          <strong>Bees:</strong> {option.hazards_bees}.
        </Notice>
      </div>
      <Details title="More from the catalogue">
        <p>
          <strong className="text-ink">Hive:</strong> {option.hive_setup}
        </p>
        <p>
          <strong className="text-ink">Honey:</strong> {option.honey_rule}
        </p>
        <p>
          <strong className="text-ink">Remains:</strong> {option.disposal}
        </p>
        <p>
          <strong className="text-ink">Resistance:</strong> {option.resistance_note}
        </p>
        {option.region_notes && (
          <p>
            <strong className="text-ink">Schools differ:</strong> {option.region_notes}
          </p>
        )}
        <p>Evidence: {option.evidence}. L label or law, E evidence, P association policy.</p>
      </Details>
      {option.interval_choices.length > 0 && (
        <div className="mt-3 max-w-xs">
          <Field
            label="Days between doses"
            name="interval"
            hint={`Labels say ${option.interval_choices.join(", ")}`}
            error={problem?.at("interval_override")}>
            <select
              className="input"
              value={interval}
              onChange={(event) => setInterval(event.target.value)}
              {...described("interval", problem?.at("interval_override"), true)}>
              <option value="">as the catalogue</option>
              {option.interval_choices.map((days) => (
                <option key={days} value={days}>
                  {days} days
                </option>
              ))}
            </select>
          </Field>
        </div>
      )}
      {setting.length > 0 && (
        <fieldset className="mt-4 space-y-3 border-l-4 border-act pl-3">
          <legend className="font-semibold">
            Against the rules for {setting.map((one) => one.colony.label).join(", ")}: somebody named takes it on, and
            the course keeps it for good
          </legend>
          <p className="text-sm text-ink-2">
            Rules overridden:{" "}
            {[
              ...new Set(
                setting.flatMap((one) =>
                  one.judged.reasons
                    .filter((reason) => one.judged.holding.includes(reason.rule))
                    .map((reason) => `${reason.rule} (${SOURCE[reason.source] ?? reason.source})`),
                ),
              ),
            ].join(", ")}
            . Where a label or the law stands against it, name who authorised it; without that, leave it.
          </p>
          <Field label="Who takes it on" name="who">
            <input
              className="input"
              maxLength={120}
              value={who}
              onChange={(event) => setWho(event.target.value)}
              {...described("who")}
            />
          </Field>
          <Field label="Why" name="why">
            <input
              className="input"
              maxLength={400}
              value={why}
              onChange={(event) => setWhy(event.target.value)}
              {...described("why")}
            />
          </Field>
        </fieldset>
      )}
      {held.length > 0 && (
        <div className="mt-4" role="alert">
          <Notice tone="act">
            Held back:{" "}
            {held.map((one) => `${one.label} (${one.held_by.map((reason) => say(reason.text)).join("; ")})`).join(", ")}
          </Notice>
        </div>
      )}
      <div className="mt-5 flex flex-wrap items-center gap-4">
        <Button
          variant="main"
          big
          disabled={taken.length === 0 || plan.isPending || unsigned}
          onClick={() => plan.mutate()}>
          {plan.isPending ? "Planning …" : `Plan the course for ${colonies(taken.length)}`}
        </Button>
        {taken.length > 0 && example?.judged.dose && (
          <p className="text-sm text-ink-2">
            First dose {shortDay(view.start_on)}; {quantity(total, example.judged.dose.unit)} in all.
          </p>
        )}
      </div>
      <div className="mt-2">
        <FormError error={plan.error} fields={["interval_override"]} />
      </div>
    </section>
  );
}

const SOURCE: Record<string, string> = { L: "label or law", E: "evidence", P: "policy", "L/E": "label, evidence" };
