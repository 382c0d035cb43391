/** The year at the place: when each phase begins, and how long before the winter bees the mites must be down. */
import { MonthDay } from "@/ui/month-day";
import { SectionHeading } from "@/ui/page";
import type { PolicyDraft } from "./use-policy-draft";

export const DATES = [
  ["build_up", "Build-up begins"],
  ["peak", "Peak begins"],
  ["decline", "Decline begins"],
  ["dormant", "Dormant time begins"],
  ["winter_bees", "First winter bees are laid"],
] as const;
export const CALENDAR_FIELDS = ["calendar", ...DATES.map(([field]) => `calendar.${field}`), "calendar.lead_days"];

export function CalendarPart({ editing }: { editing: PolicyDraft }) {
  const { draft, at, maySet } = editing;
  const lead = draft.calendar.lead_days;
  const setDay = (field: string, value: string | number | null) =>
    editing.set({ calendar: { ...draft.calendar, [field]: value } });
  return (
    <section aria-labelledby="calendar">
      <SectionHeading id="calendar">The year at your place</SectionHeading>
      {DATES.map(([field, label]) => (
        <MonthDay
          key={field}
          name={`calendar-${field}`}
          label={label}
          value={draft.calendar[field] ?? null}
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
  );
}
