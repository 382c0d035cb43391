/** What this apiary does otherwise than its association: school, levels, whom to treat, the dates of its year. */
import { replaceApiaryPolicy } from "@/client/commands/places";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Problem, type Schemas } from "@/client/types";
import { apiaryPolicyQuery } from "@/client/queries";
import { DATES } from "@/features/policy/calendar-part";
import { LevelsEditor, type OwnLevels } from "@/features/policy/levels-editor";
import { Dialog } from "@/ui/dialog";
import { MonthDay } from "@/ui/month-day";
import { shortDay } from "@/ui/dates";
import { Button } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";
import { Field, FormError, described } from "@/ui/field";
import { SCHEME } from "@/wording/words";

type View = Schemas["ApiaryPolicyView"];
type Calendar = Schemas["CalendarDates"];

const SCOPE: Record<View["scope"], string> = {
  whole_apiary: "the whole apiary once one is over",
  single_colony: "only those over",
};

export function OwnPolicy({ apiaryId, today, onClose }: { apiaryId: string; today: string; onClose: () => void }) {
  const query = useQuery(apiaryPolicyQuery(apiaryId));
  return (
    <Dialog open onClose={onClose} title="What is done otherwise here">
      {query.isPending && <p role="status">Opening the policy …</p>}
      {query.isError && (
        <p role="alert" className="font-semibold text-act">
          {query.error.message}
        </p>
      )}
      {query.data && <OwnForm key={query.data.version} view={query.data} today={today} onClose={onClose} />}
    </Dialog>
  );
}

function OwnForm({ view, today, onClose }: { view: View; today: string; onClose: () => void }) {
  const client = useQueryClient();
  const [school, setSchool] = useState(view.own.scheme ?? "");
  const [scope, setScope] = useState<View["scope"] | "">(view.own.scope ?? "");
  const [calendar, setCalendar] = useState<Calendar | null>(view.own.calendar);
  const [levels, setLevels] = useState<OwnLevels>(view.own.levels ?? {});
  const [reason, setReason] = useState("");
  const judging = view.schemes.find((one) => one.id === (school || view.association_scheme));
  const save = useMutation({
    mutationFn: () =>
      replaceApiaryPolicy(view.apiary_id, view.version, {
        scheme: school || null,
        scope: scope || null,
        calendar,
        levels: Object.keys(levels).length > 0 ? levels : null,
        reason,
      }),
    onSuccess: async () => {
      await client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "session" });
      onClose();
    },
  });
  const problem = save.error instanceof Problem ? save.error : null;
  const at = (field: string) => problem?.at(field);
  return (
    <form
      noValidate
      className="space-y-5"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}>
      {view.version > 0 && (
        <p className="text-ink-2">
          Set {view.created_at ? shortDay(view.created_at.slice(0, 10), today) : ""} by {view.by_name || "somebody"}:{" "}
          {view.reason}
        </p>
      )}
      <Field label="School" name="own-school" error={at("scheme")}>
        <select
          className="input"
          value={school}
          onChange={(event) => {
            setSchool(event.target.value);
            setLevels({});
          }}
          {...described("own-school", at("scheme"))}>
          <option value="">as the association: {SCHEME[view.association_scheme]}</option>
          {view.schemes.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      </Field>
      {judging && (
        <LevelsEditor
          school={{ ...judging, defaults: judging.levels }}
          own={levels}
          onChange={setLevels}
          errorAt={at}
          fieldOf={(phase, level) => `levels.${phase}.${level}`}
        />
      )}
      <Field label="Who is treated" name="own-scope">
        <select
          className="input"
          value={scope}
          onChange={(event) => setScope(event.target.value as View["scope"] | "")}
          {...described("own-scope")}>
          <option value="">as the association: {SCOPE[view.association_scope]}</option>
          {Object.entries(SCOPE).map(([id, text]) => (
            <option key={id} value={id}>
              {text}
            </option>
          ))}
        </select>
      </Field>
      <div>
        <Checkbox
          label="The year has dates of its own here"
          checked={calendar !== null}
          onChange={(own) => setCalendar(own ? { ...view.association_calendar } : null)}
        />
        {calendar !== null &&
          DATES.map(([field, label]) => (
            <MonthDay
              key={field}
              name={`own-${field}`}
              label={label}
              value={calendar[field] ?? null}
              none={field === "winter_bees" ? "no winter bees here" : "not here"}
              error={at(`calendar.${field}`)}
              onChange={(value) => setCalendar({ ...calendar, [field]: value })}
            />
          ))}
        {at("calendar") && (
          <p role="alert" className="mt-1 font-semibold text-act">
            {at("calendar")}
          </p>
        )}
      </div>
      <Field label="Why" name="own-reason" hint="Kept with the change" error={at("reason")}>
        <input
          className="input"
          value={reason}
          onChange={(event) => setReason(event.target.value)}
          {...described("own-reason", at("reason"), true)}
        />
      </Field>
      <FormError error={save.error} fields={["scheme", "levels", "calendar", "reason"]} />
      <Button type="submit" variant="main" className="w-full" disabled={save.isPending}>
        {save.isPending ? "Judging its colonies …" : "Put it in force here"}
      </Button>
    </form>
  );
}
