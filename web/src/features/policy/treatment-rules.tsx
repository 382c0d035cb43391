/**
 * The rules of treating: the days of the year that bear on it, what is at hand, what is authorised, what is resistant.
 */
import type { Schemas } from "@/client/types";
import { useSession } from "@/features/session/use-session";
import { Checkbox } from "@/ui/checkbox";
import { Choice } from "@/ui/choice";
import { MonthDay } from "@/ui/month-day";
import { Field, described } from "@/ui/field";
import { Stepper } from "@/ui/stepper";
import { temperature, weight } from "@/ui/units";
import { ProductLabels } from "./product-labels";
import { GROUP } from "@/wording/words";

type Rules = Schemas["TreatmentRules"];
type Option = Schemas["CatalogueEntry"];
type Group = Option["moa_group"];

const DAYS = [
  ["honey_off", "Honey comes off", "when mites must be down"],
  ["supers_on", "Supers go on next", "not given"],
  ["feed_start_by", "Autumn feeding starts", "not given"],
  ["cold", "Too cold to work from", "not given"],
  ["crystals", "Forage that sets hard in the comb", "not given"],
  ["treatment_year", "Treatment year begins", "1 January"],
] as const;
const SWITCHES = [
  ["respirator_ok", "A fitted respirator is at hand (acid vapour)"],
  ["strict_rotation", "Never the same group twice in a row"],
  ["trickle_repeat", "Oxalic trickle may be repeated after 14 days (your label decides)"],
  ["vapour_series", "Oxalic vapour may be given in a series (your label decides)"],
  ["allow_oxalic_with_brood", "Oxalic acid may be given with sealed brood: it works only partly"],
] as const;
const APPROACHES = [
  ["counting_first", "count, then treat"],
  ["calendar", "by the calendar"],
  ["treatment_free", "no chemicals"],
] as const;

/** Fields that show their own errors. */
export const RULE_FIELDS = [
  ...DAYS.map(([field]) => `treatment_rules.${field}`),
  "treatment_rules.prescriber",
  "treatment_rules.product_labels",
];

type Props = {
  rules: Rules;
  catalogue: readonly Option[];
  disabled: boolean;
  errorAt: (field: string) => string | undefined;
  onChange: (rules: Rules) => void;
};

export function TreatmentRules({ rules, catalogue, disabled, errorAt, onChange }: Props) {
  const units = useSession().person;
  const at = (field: string) => errorAt(`treatment_rules.${field}`);
  const set = (part: Partial<Rules>) => onChange({ ...rules, ...part });
  const inUse = (option: Option) => rules.authorised?.includes(option.id) ?? option.default_enabled;
  return (
    <section aria-labelledby="rules" className="space-y-3">
      <h2 id="rules" className="border-b-2 border-ink pb-1 text-xl">
        Treating
      </h2>
      <p aria-hidden="true" className="pt-1 font-semibold">
        How treatments are decided
      </p>
      <Choice
        label="How treatments are decided"
        value={rules.approach}
        options={APPROACHES}
        onChange={(approach) => set({ approach })}
      />
      {DAYS.map(([field, label, none]) => (
        <MonthDay
          key={field}
          name={field.replaceAll("_", "-")}
          label={label}
          value={rules[field] ?? null}
          none={none}
          error={at(field)}
          disabled={disabled}
          onChange={(day) => set({ [field]: field === "treatment_year" ? (day ?? "01-01") : day })}
        />
      ))}
      <Stepper
        label="Hives are opened fully from"
        value={rules.open_from_c}
        least={10}
        most={25}
        start={15}
        shown={(value) => temperature(value, units)}
        onChange={(value) => !disabled && set({ open_from_c: value ?? 15 })}
      />
      <Feeding rules={rules} disabled={disabled} set={set} />
      {SWITCHES.map(([field, label]) => (
        <Checkbox key={field} label={label} checked={rules[field]} onChange={(checked) => set({ [field]: checked })} />
      ))}
      <OptionList
        title={
          rules.authorised == null
            ? "Options in use: as the catalogue has them"
            : `${rules.authorised.length} of ${catalogue.length} options in use`
        }
        note={
          "Tick what is authorised where you are: your authority and the label decide. Until then " +
          "nothing says whether a product is."
        }
        catalogue={catalogue}
        has={inUse}
        onChange={(authorised) => set({ authorised })}
      />
      <OptionList
        title={counted(rules.prescription_needed.length, "option needs a prescription", "options need a prescription")}
        note="Tick what only a vet or a licensed applicator may hand out or give: it is held back until one is named."
        catalogue={catalogue}
        has={(option) => rules.prescription_needed.includes(option.id)}
        onChange={(prescription_needed) => set({ prescription_needed })}
      />
      {rules.prescription_needed.length > 0 && (
        <Field
          label="Vet or licensed applicator"
          name="prescriber"
          hint="Nobody named: nothing on prescription"
          error={at("prescriber")}>
          <input
            className="input"
            maxLength={120}
            value={rules.prescriber}
            onChange={(event) => set({ prescriber: event.target.value })}
            {...described("prescriber", at("prescriber"), true)}
          />
        </Field>
      )}
      <ProductLabels
        labels={rules.product_labels}
        catalogue={catalogue}
        disabled={disabled}
        errorAt={errorAt}
        onChange={(product_labels) => set({ product_labels })}
      />
      <Groups
        title="Not used here"
        groups={rules.excluded_groups}
        catalogue={catalogue}
        onChange={(excluded_groups) => set({ excluded_groups })}
      />
      <Groups
        title="Mites here withstand"
        groups={rules.resistance}
        catalogue={catalogue}
        onChange={(resistance) => set({ resistance })}
      />
    </section>
  );
}

function counted(number: number, one: string, many: string): string {
  return number === 0 ? `No ${many}` : `${number} ${number === 1 ? one : many}`;
}

type OptionListProps = {
  title: string;
  note: string;
  catalogue: readonly Option[];
  has: (option: Option) => boolean;
  onChange: (ids: string[]) => void;
};

function OptionList({ title, note, catalogue, has, onChange }: OptionListProps) {
  const change = (changed: Option, checked: boolean) =>
    onChange(catalogue.filter((one) => (one.id === changed.id ? checked : has(one))).map((one) => one.id));
  return (
    <details>
      <summary className="min-h-8 cursor-pointer py-1 font-semibold underline underline-offset-4">{title}</summary>
      <p className="py-1 text-ink-2">{note}</p>
      <ul>
        {catalogue.map((option) => (
          <li key={option.id} className="border-b border-line">
            <Checkbox label={option.name} checked={has(option)} onChange={(checked) => change(option, checked)} />
          </li>
        ))}
      </ul>
    </details>
  );
}

type GroupsProps = {
  title: string;
  groups: Group[];
  catalogue: readonly Option[];
  onChange: (groups: Group[]) => void;
};

function Groups({ title, groups, catalogue, onChange }: GroupsProps) {
  const offered = [...new Set(catalogue.map((one) => one.moa_group))].filter((group) => group !== "BIO");
  return (
    <details>
      <summary className="min-h-8 cursor-pointer py-1 font-semibold underline underline-offset-4">
        {title}: {groups.length === 0 ? "nothing" : groups.map((group) => GROUP[group]).join(", ")}
      </summary>
      <ul>
        {offered.map((group) => (
          <li key={group} className="border-b border-line">
            <Checkbox
              label={GROUP[group]}
              checked={groups.includes(group)}
              onChange={(checked) =>
                onChange(offered.filter((one) => (one === group ? checked : groups.includes(one))))
              }
            />
          </li>
        ))}
      </ul>
    </details>
  );
}

type FeedingProps = { rules: Rules; disabled: boolean; set: (part: Partial<Rules>) => void };

/** What a colony goes into winter with, and how it is fed. */
function Feeding({ rules, disabled, set }: FeedingProps) {
  const units = useSession().person;
  return (
    <div className="grid gap-4 desk:grid-cols-3">
      <Stepper
        label="Stores for the winter"
        value={rules.winter_target_kg}
        least={5}
        most={60}
        start={20}
        shown={(value) => weight(value, units)}
        onChange={(value) => !disabled && set({ winter_target_kg: value ?? 20 })}
      />
      <Stepper
        label="A feeder holds"
        value={rules.feeder_l}
        unit="l"
        step={0.5}
        least={0.5}
        most={20}
        start={5}
        onChange={(value) => !disabled && set({ feeder_l: value ?? 5 })}
      />
      <Stepper
        label="Taken in a day"
        value={rules.feed_l_day}
        unit="l"
        step={0.2}
        least={0.2}
        most={5}
        start={1}
        onChange={(value) => !disabled && set({ feed_l_day: value ?? 1 })}
      />
    </div>
  );
}
