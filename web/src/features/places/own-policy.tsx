/** What this apiary does otherwise than its association: school, levels, whom to treat, the dates of its year. */
import { replaceApiaryPolicy } from "@/client/commands/places";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import type { Schemas } from "@/client/types";
import { apiaryPolicyQuery } from "@/client/queries";
import { DATES } from "@/features/policy/calendar-part";
import { LevelsEditor, type OwnLevels } from "@/features/policy/levels-editor";
import { Dialog } from "@/ui/dialog";
import { MonthDay } from "@/ui/month-day";
import { shortDay } from "@/ui/dates";
import { Checkbox } from "@/ui/checkbox";
import { SelectField, TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave, type Save } from "@/ui/save-form";
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

type Draft = {
  scheme: string;
  scope: View["scope"] | "";
  calendar: Calendar | null;
  levels: OwnLevels;
  reason: string;
};

function OwnForm({ view, today, onClose }: { view: View; today: string; onClose: () => void }) {
  const client = useQueryClient();
  const [draft, set, kept] = useDraft<Draft>(
    {
      scheme: view.own.scheme ?? "",
      scope: view.own.scope ?? "",
      calendar: view.own.calendar,
      levels: view.own.levels ?? {},
      reason: "",
    },
    `own-policy:${view.apiary_id}:${view.version}`,
  );
  const judging = view.schemes.find((one) => one.id === (draft.scheme || view.association_scheme));
  const save = useSave({
    kept,
    act: () =>
      replaceApiaryPolicy(view.apiary_id, view.version, {
        scheme: draft.scheme || null,
        scope: draft.scope || null,
        calendar: draft.calendar,
        levels: Object.keys(draft.levels).length > 0 ? draft.levels : null,
        reason: draft.reason,
      }),
    done: async () => {
      await client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "session" });
      onClose();
    },
  });
  const field = bindFields(draft, set, save);
  return (
    <SaveForm
      save={save}
      kept={kept}
      fields={["scheme", "levels", "calendar", "reason"]}
      label="Put it in force here"
      sending="Judging its colonies …"
      className="space-y-5">
      {view.version > 0 && (
        <p className="text-ink-2">
          {`Set ${view.created_at ? shortDay(view.created_at.slice(0, 10), today) : ""} by `}
          {view.by_name || "somebody"}: {view.reason}
        </p>
      )}
      <SelectField
        label="School"
        name="own-school"
        error={save.at("scheme")}
        value={draft.scheme}
        options={[
          ["", `as the association: ${SCHEME[view.association_scheme]}`],
          ...view.schemes.map((one) => [one.id, one.name] as const),
        ]}
        onChange={(scheme) => set({ scheme, levels: {} })}
      />
      {judging && (
        <LevelsEditor
          school={{ ...judging, defaults: judging.levels }}
          own={draft.levels}
          onChange={(levels) => set({ levels })}
          errorAt={save.at}
          fieldOf={(phase, level) => `levels.${phase}.${level}`}
        />
      )}
      <SelectField
        label="Who is treated"
        options={[
          ["", `as the association: ${SCOPE[view.association_scope]}`],
          ["whole_apiary", SCOPE.whole_apiary],
          ["single_colony", SCOPE.single_colony],
        ]}
        {...field("scope")}
        name="own-scope"
      />
      <OwnCalendar view={view} calendar={draft.calendar} save={save} onChange={(calendar) => set({ calendar })} />
      <TextField label="Why" hint="Kept with the change" {...field("reason")} name="own-reason" />
    </SaveForm>
  );
}

type CalendarProps = {
  view: View;
  calendar: Calendar | null;
  save: Save;
  onChange: (calendar: Calendar | null) => void;
};

function OwnCalendar({ view, calendar, save, onChange }: CalendarProps) {
  return (
    <div>
      <Checkbox
        label="The year has dates of its own here"
        checked={calendar !== null}
        onChange={(own) => onChange(own ? { ...view.association_calendar } : null)}
      />
      {calendar !== null &&
        DATES.map(([field, label]) => (
          <MonthDay
            key={field}
            name={`own-${field}`}
            label={label}
            value={calendar[field] ?? null}
            none={field === "winter_bees" ? "no winter bees here" : "not here"}
            error={save.at(`calendar.${field}`)}
            onChange={(value) => onChange({ ...calendar, [field]: value })}
          />
        ))}
      {save.at("calendar") && (
        <p role="alert" className="mt-1 font-semibold text-act">
          {save.at("calendar")}
        </p>
      )}
    </div>
  );
}
