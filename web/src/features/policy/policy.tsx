/** The policy: school, calendar of the place, and rules of treating; what a change would do is shown before it is made. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, ifMatch } from "@/client/api";
import { Problem, type Level, type Schemas } from "@/client/types";
import { policyQuery } from "@/client/queries";
import { useMay } from "@/features/session/use-session";
import { LevelYear, sayBand } from "@/instruments/level-year";
import { Choice } from "@/ui/choice";
import { MonthDay } from "@/ui/month-day";
import { Stepper } from "@/ui/stepper";
import { Button } from "@/ui/button";
import { FormError } from "@/ui/field";
import { LevelWord } from "@/ui/level";
import { ErrorPage, Loading, Notice } from "@/ui/page";
import { useWidth } from "@/ui/use-width";
import { colonies } from "@/wording/words";
import { RULE_FIELDS, TreatmentRules } from "./treatment-rules";
import { Scoops } from "./scoops";
import { LevelsEditor, type OwnLevels } from "./levels-editor";

type Policy = Schemas["PolicyView"];
type Draft = Schemas["PolicyInput"];
const DATES = [
  ["build_up", "Build-up begins"],
  ["peak", "Peak begins"],
  ["decline", "Decline begins"],
  ["dormant", "Dormant time begins"],
  ["winter_bees", "First winter bees are laid"],
] as const;
const LEVELS: Level[] = ["urgent", "act", "watch", "clear", "unknown"];

export function PolicySheet() {
  const query = useQuery(policyQuery);
  if (query.isPending) return <Loading what="Opening the policy …" />;
  if (query.isError) return <ErrorPage error={query.error} retry={() => void query.refetch()} />;
  return <PolicyForm key={query.data.version} policy={query.data} />;
}

function asDraft(policy: Policy): Draft {
  return {
    scheme: policy.scheme,
    threshold_basis: policy.threshold_basis as Draft["threshold_basis"],
    scope: policy.scope as Draft["scope"],
    calendar: policy.calendar as Draft["calendar"],
    levels: policy.own_levels as Draft["levels"],
    stale_after_days: policy.stale_after_days,
    stale_after_days_dormant: policy.stale_after_days_dormant,
    scoops: policy.scoops as Draft["scoops"],
    treatment_rules: policy.treatment_rules,
  };
}

/** Own levels of a school among those of all; none are kept where it is back at its defaults. */
function withOwn(all: Record<string, OwnLevels>, scheme: string, own: OwnLevels): Record<string, OwnLevels> {
  const others = Object.fromEntries(Object.entries(all).filter(([id]) => id !== scheme));
  return Object.keys(own).length > 0 ? { ...others, [scheme]: own } : others;
}

function PolicyForm({ policy }: { policy: Policy }) {
  const client = useQueryClient();
  const maySet = useMay("set_policy");
  const before = asDraft(policy);
  const [draft, setDraft] = useState<Draft>(before);
  const [box, width] = useWidth<HTMLDivElement>(700);
  const changed = JSON.stringify(draft) !== JSON.stringify(before);
  const preview = useQuery({
    queryKey: ["policy-preview", draft],
    queryFn: () => ask(api.POST("/api/v1/policy/preview", { body: draft })),
    enabled: maySet,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const save = useMutation({
    mutationFn: () => ask(api.PUT("/api/v1/policy", { params: { header: ifMatch(policy.version) }, body: draft })),
    onSuccess: () => client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "session" }),
  });
  const year = preview.data ?? policy;
  const fault = [save.error, preview.error].find((one) => one instanceof Problem);
  const at = (field: string) => fault?.at(field);
  const set = (part: Partial<Draft>) => {
    save.reset();
    setDraft((old) => ({ ...old, ...part }));
  };
  const setDay = (field: string, value: string | number | null) =>
    set({ calendar: { ...draft.calendar, [field]: value } });
  const school = policy.schemes.find((one) => one.id === draft.scheme);
  const lead = Number(draft.calendar["lead_days"] ?? 42);
  return (
    <form
      noValidate
      className="mt-6 grid items-start gap-x-14 gap-y-8 desk:grid-cols-[minmax(0,1fr)_minmax(0,1.15fr)]"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}>
      <fieldset disabled={!maySet} className="min-w-0 space-y-8">
        <legend className="sr-only">Policy</legend>
        <section aria-labelledby="school" className="space-y-3">
          <h2 id="school" className="border-b-2 border-ink pb-1 text-xl">
            Treat when the threshold is passed
          </h2>
          <Choice
            label="School"
            value={draft.scheme}
            columns={2}
            options={policy.schemes.map((one) => [one.id, one.name] as const)}
            onChange={(scheme) => set({ scheme })}
          />
          <p className="text-ink-2">{school?.says}</p>
          {school && (
            <LevelsEditor
              school={school}
              own={draft.levels?.[school.id] ?? {}}
              disabled={!maySet}
              errorAt={at}
              fieldOf={(phase, level) => `levels.${school.id}.${phase}.${level}`}
              onChange={(own) => set({ levels: withOwn(draft.levels ?? {}, school.id, own) })}
            />
          )}
          <Stepper
            label="Counts are too old after"
            value={draft.stale_after_days ?? 21}
            least={7}
            most={120}
            start={21}
            shown={(value) => `${value} days`}
            onChange={(value) => maySet && set({ stale_after_days: value ?? 21 })}
          />
          <Stepper
            label="In the dormant time after"
            value={draft.stale_after_days_dormant ?? 90}
            least={7}
            most={200}
            start={90}
            step={5}
            shown={(value) => `${value} days`}
            onChange={(value) => maySet && set({ stale_after_days_dormant: value ?? 90 })}
          />
          <p className="pt-1 font-semibold">Change what colonies are judged by</p>
          <Choice
            label="Change what colonies are judged by"
            value={draft.threshold_basis ?? "corrected"}
            options={[
              ["corrected", "with what a wash misses"],
              ["as_counted", "as counted"],
            ]}
            onChange={(threshold_basis) => set({ threshold_basis })}
          />
          <p className="pt-1 font-semibold">Who is treated</p>
          <Choice
            label="Who is treated"
            value={draft.scope ?? "whole_apiary"}
            options={[
              ["whole_apiary", "the whole apiary once one is over"],
              ["single_colony", "only those over"],
            ]}
            onChange={(scope) => set({ scope })}
          />
        </section>
        <Scoops
          scoops={draft.scoops ?? []}
          found={(preview.data ?? policy).scoop}
          disabled={!maySet}
          errorAt={at}
          onChange={(scoops) => set({ scoops })}
        />
        <section aria-labelledby="calendar">
          <h2 id="calendar" className="border-b-2 border-ink pb-1 text-xl">
            The year at your place
          </h2>
          {DATES.map(([field, label]) => (
            <MonthDay
              key={field}
              name={`calendar-${field}`}
              label={label}
              value={(draft.calendar[field] as string | null | undefined) ?? null}
              none={field === "winter_bees" ? "no winter bees here" : "not here"}
              error={at(`calendar.${field}`)}
              onChange={(value) => setDay(field, value)}
              disabled={!maySet}
            />
          ))}
          <div className="flex items-center justify-between gap-4 border-b border-line py-2">
            <label htmlFor="lead" className="font-semibold">
              Mites down before them by
            </label>
            <span className="flex items-center gap-2">
              <input
                id="lead"
                type="number"
                min={0}
                max={120}
                className="input w-20!"
                value={lead}
                onChange={(event) => setDay("lead_days", Number(event.target.value))}
              />{" "}
              days
            </span>
          </div>
          {at("calendar.lead_days") && (
            <p role="alert" className="mt-1 font-semibold text-act">
              {at("calendar.lead_days")}
            </p>
          )}
          {at("calendar") && (
            <p role="alert" className="mt-2 font-semibold text-act">
              {at("calendar")}
            </p>
          )}
        </section>
        <TreatmentRules
          rules={draft.treatment_rules ?? policy.treatment_rules}
          catalogue={policy.catalogue}
          disabled={!maySet}
          errorAt={at}
          onChange={(treatment_rules) => set({ treatment_rules })}
        />
      </fieldset>
      <aside className="min-w-0 space-y-6 desk:sticky desk:top-16" aria-label="What it means">
        <section aria-labelledby="year">
          <h2 id="year" className="border-b-2 border-ink pb-1 text-xl">
            Levels through the year
          </h2>
          <p className="mt-1 text-sm text-ink-2">
            {school?.unit === "mites per day" ? "Mites a day on a board" : "Mites per 100 bees"}, from today on.
          </p>
          <div ref={box} className="mt-3">
            <LevelYear phases={year.phases} first={year.first} last={year.last} width={width} />
          </div>
          <details className="mt-1">
            <summary className="min-h-8 cursor-pointer py-1 text-sm underline underline-offset-4">As a list</summary>
            <ul className="text-sm text-ink-2">
              {year.phases.map((band) => (
                <li key={band.first}>
                  {sayBand(band)}, urgent at {band.urgent}
                </li>
              ))}
            </ul>
          </details>
        </section>
        {maySet && preview.data && (
          <section aria-labelledby="effect">
            <h2 id="effect" className="border-b-2 border-ink pb-1 text-xl">
              {!changed
                ? "How the counted colonies stand"
                : preview.isPlaceholderData
                  ? "What it would change: judging every colony …"
                  : `What it would change: ${colonies(preview.data.changed)}`}
            </h2>
            <table className="mt-2 w-full text-left">
              <thead>
                <tr className="border-b border-ink text-sm">
                  <th scope="col" className="py-1 font-semibold">
                    level today
                  </th>
                  <th scope="col" className="py-1 text-right font-semibold">
                    {changed ? "in force" : "colonies"}
                  </th>
                  {changed && (
                    <th scope="col" className="py-1 text-right font-semibold">
                      with the change
                    </th>
                  )}
                </tr>
              </thead>
              <tbody>
                {LEVELS.map((level) => (
                  <tr key={level} className="border-b border-line">
                    <th scope="row" className="py-1.5 font-normal">
                      <LevelWord level={level} />
                    </th>
                    <td className="figure text-right text-xl">{preview.data.before[level] ?? 0}</td>
                    {changed && (
                      <td className="figure text-right text-xl">
                        {preview.isPlaceholderData ? "…" : (preview.data.after[level] ?? 0)}
                      </td>
                    )}
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        )}
        {maySet ? (
          <section className="space-y-3">
            {changed && (
              <>
                <Notice>
                  Every counted colony is judged again. Decisions taken before keep the version they were taken under.
                </Notice>
                <div className="flex flex-wrap gap-3">
                  <Button type="submit" variant="main" big disabled={save.isPending || preview.isError}>
                    {save.isPending ? "Judging every colony …" : `Put version ${policy.version + 1} in force`}
                  </Button>
                  <Button onClick={() => setDraft(before)}>Leave it as it was</Button>
                </div>
              </>
            )}
            <p className="text-sm text-ink-2">Version {policy.version} is in force.</p>
            <FormError
              error={save.error ?? preview.error}
              fields={[
                "levels",
                "scoops",
                "calendar",
                ...DATES.map(([field]) => `calendar.${field}`),
                "calendar.lead_days",
                ...RULE_FIELDS,
              ]}
            />
          </section>
        ) : (
          <p className="text-ink-2">
            Version {policy.version} is in force. An administrator of the association can change it.
          </p>
        )}
      </aside>
    </form>
  );
}
