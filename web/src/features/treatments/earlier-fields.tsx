/** The fields of an earlier treatment, shared by its entry and its amendment. */
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { ChoiceField } from "@/ui/choice";
import { DateField } from "@/ui/date-field";
import { NumberField, SelectField, TextArea, TextField } from "@/ui/fields";
import { bindFields } from "@/ui/save-form";
import { END_CHOICES, KNOWN_FROM_CHOICES, OUTCOME_CHOICES, isOverAtOnce, type EarlierDraft } from "./earlier-draft";

type Props = {
  draft: EarlierDraft;
  set: (part: Partial<EarlierDraft>) => void;
  save: { at: (field: string) => string | undefined };
  option: Schemas["OptionView"] | undefined;
  today: string;
  /** A treatment that is over on record cannot be in the hive. */
  mayBeIn: boolean;
};

/** The names under which the server speaks of the fields. */
export const EARLIER_FIELDS = [
  "option_id",
  ...Array.from({ length: 20 }, (_, index) => `doses_on[${index}]`),
  "end",
  "ended_on",
  "dose_quantity",
  "given_by",
];

export function EarlierFields({ draft, set, save, option, today, mayBeIn }: Props) {
  const field = bindFields(draft, set, save);
  return (
    <>
      <Doses draft={draft} set={set} save={save} option={option} today={today} />
      {!isOverAtOnce(draft, option) && (
        <>
          <ChoiceField
            label="When did it end?"
            value={draft.end}
            options={END_CHOICES.filter(([end]) => mayBeIn || end !== "still_in")}
            error={save.at("end")}
            onChange={(end) => set({ end })}
          />
          {draft.end === "known" && <DateField label="Out of the hive on" max={today} {...field("ended_on")} />}
        </>
      )}
      <div className="grid gap-4 desk:grid-cols-2">
        <NumberField
          label="Dose each time"
          hint="If it is known"
          unit={option?.dose_unit ?? ""}
          {...field("dose", "dose_quantity")}
        />
        <SelectField label="Result" options={OUTCOME_CHOICES} {...field("outcome")} />
        <TextField label="Given by" maxLength={120} {...field("given_by")} />
        <SelectField label="How is it known?" options={KNOWN_FROM_CHOICES} {...field("known_from")} />
      </div>
      <TextArea label="Note" {...field("note")} />
    </>
  );
}

function Doses({ draft, set, save, option, today }: Omit<Props, "mayBeIn">) {
  const most = option?.applications ?? 1;
  const amend = (index: number, day: string) =>
    set({ doses: draft.doses.map((one, at) => (at === index ? day : one)) });
  return (
    <div className="space-y-3">
      {draft.doses.map((day, index) => (
        <DateField
          key={index}
          label={most > 1 ? `Dose ${index + 1} given on` : "Given on"}
          name={`dose-${index + 1}`}
          error={save.at(`doses_on[${index}]`)}
          max={today}
          value={day}
          onChange={(next) => amend(index, next)}
        />
      ))}
      {most > 1 && (
        <div className="flex flex-wrap gap-2">
          {draft.doses.length < most && (
            <Button onClick={() => set({ doses: [...draft.doses, ""] })}>Add dose {draft.doses.length + 1}</Button>
          )}
          {draft.doses.length > 1 && (
            <Button variant="quiet" onClick={() => set({ doses: draft.doses.slice(0, -1) })}>
              Remove dose {draft.doses.length}
            </Button>
          )}
        </div>
      )}
    </div>
  );
}
