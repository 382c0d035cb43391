/** What a step asks for besides its day and its dose: for all colonies that it is recorded for, or colony by colony. */
import type { Schemas } from "@/client/types";
import { useSession } from "@/features/session/use-session";
import { Details } from "@/ui/details";
import { NumberField, SelectField, TextField } from "@/ui/fields";
import { degrees } from "@/ui/units";

type Asked = Schemas["StepView"]["asks"][number];

/** As it is typed; numbers are text until they are sent. */
export type FactsDraft = {
  applied_by: string;
  temperature: string;
  queen: string;
  left: string;
  out: string;
  disposed: string;
  adverse: string;
};

export const NO_FACTS: FactsDraft = {
  applied_by: "",
  temperature: "",
  queen: "",
  left: "",
  out: "",
  disposed: "",
  adverse: "",
};

export const QUEEN_SEEN: readonly (readonly [string, string])[] = [
  ["", "not looked for"],
  ["queen", "queen seen"],
  ["eggs", "eggs seen"],
  ["neither", "neither seen"],
];

type Props = {
  asks: readonly Asked[];
  facts: FactsDraft;
  set: (part: Partial<FactsDraft>) => void;
  at: (field: string) => string | undefined;
  unit: string;
  /** What is measured at each hive stands in its own row. */
  apart?: boolean;
  /** Before the names of its fields, where the same stand on the page a second time. */
  prefix?: string;
};

export function StepFacts({ asks, facts, set, at, unit, apart = false, prefix = "" }: Props) {
  const person = useSession().person;
  const field = (key: keyof FactsDraft, name: string) => ({
    name: prefix + name,
    value: facts[key],
    error: at(name),
    onChange: (value: string) => set({ [key]: value }),
  });
  const has = (one: Asked) => asks.includes(one);
  return (
    <>
      {has("temperature_c") && (
        <NumberField label="Air temperature" unit={degrees(person)} {...field("temperature", "temperature_c")} />
      )}
      {!apart && (
        <>
          {has("queen_seen") && <SelectField label="Queen" options={QUEEN_SEEN} {...field("queen", "queen_seen")} />}
          {has("left_pct") && <NumberField label="Left of the dose" unit="%" {...field("left", "left_pct")} />}
          {has("taken_out") && <NumberField label="Came out" unit={unit} {...field("out", "taken_out")} />}
        </>
      )}
      {has("disposed") && (
        <TextField label="How and where the remains went" maxLength={400} {...field("disposed", "disposed")} />
      )}
      {(has("applied_by") || has("adverse")) && (
        <Details
          title="Somebody else applied it, or harm was seen"
          open={facts.applied_by !== "" || facts.adverse !== ""}>
          <div className="space-y-4">
            {has("applied_by") && (
              <TextField
                label="Applied by"
                hint="If it was not you"
                maxLength={120}
                {...field("applied_by", "applied_by")}
              />
            )}
            {has("adverse") && (
              <TextField
                label="Harm to bees or people"
                hint="What was seen, and to whom it was reported"
                maxLength={400}
                {...field("adverse", "adverse")}
              />
            )}
          </div>
        </Details>
      )}
    </>
  );
}
