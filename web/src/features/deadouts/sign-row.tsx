/** One finding of a dead hive: seen and how much, looked for and not seen, or not looked at, which is never a no. */
import type { Schemas } from "@/client/types";
import { useSession } from "@/features/session/use-session";
import { Choice } from "@/ui/choice";
import { Stepper } from "@/ui/stepper";
import { weight } from "@/ui/units";
import { useDesk } from "@/ui/use-desk";
import { Button } from "@/ui/button";
import { capital } from "@/wording/words";

type Sign = Schemas["DeadSign"];
type Value = Schemas["DeadSeen"]["value"];

const EXTENTS: Partial<Record<Sign["scale"], readonly [string, string][]>> = {
  cells: [
    ["few", "few: to 10"],
    ["some", "to 100"],
    ["many", "more"],
  ],
  bees: [
    ["few", "few: to 5"],
    ["some", "to 50"],
    ["many", "more"],
  ],
  dead_bees: [
    ["few", "under 300"],
    ["some", "to 3000"],
    ["many", "more"],
  ],
  mites_floor: [
    ["few", "under 20"],
    ["some", "to 200"],
    ["many", "more"],
  ],
  grade_2: [
    ["1", "some"],
    ["2", "much"],
  ],
  grade_3: [
    ["1", "few spots"],
    ["2", "many"],
    ["3", "smeared"],
  ],
  yes: [["some", "yes"]],
};
const NOT_LOOKED = ["", "not looked at"] as const;

/** What stands in the choice for a value: extents by name, grades by figure, a number by the extent it falls into. */
function chosen(sign: Sign, value: Value | undefined): string {
  if (value === undefined) return "";
  if (value === "absent" || value === 0) return "absent";
  if (typeof value === "string")
    return sign.scale.startsWith("grade") ? { few: "1", some: "1", many: "2" }[value] : value;
  if (sign.scale.startsWith("grade")) return String(value);
  const [some, many] = STEPS[sign.scale] ?? [1, Infinity];
  return value > many ? "many" : value >= some ? "some" : "few";
}

/** From how many it is some, and above how many it is many. */
const STEPS: Partial<Record<Sign["scale"], [number, number]>> = {
  cells: [11, 100],
  bees: [6, 50],
  dead_bees: [300, 3000],
  mites_floor: [20, 200],
  yes: [0, Infinity],
};

type Props = {
  sign: Sign;
  value: Value | undefined;
  onChange: (value: Value | undefined) => void;
  /** On a comb nothing is "not looked at": the comb was read. */
  onComb?: boolean;
};

export function SignRow({ sign, value, onChange, onComb = false }: Props) {
  const desk = useDesk();
  const options = EXTENTS[sign.scale];
  if (!options) return <Measured sign={sign} value={value} onChange={onChange} />;
  const graded = sign.scale.startsWith("grade");
  const all = [...(onComb ? [] : [NOT_LOOKED]), ["absent", "no"] as const, ...options];
  const put = (next: string) =>
    onChange(next === "" ? undefined : next === "absent" ? "absent" : graded ? Number(next) : (next as Value));
  const stands = onComb && value === undefined ? "absent" : chosen(sign, value);
  return (
    <div className="border-t border-line py-3">
      <p className="font-semibold">{capital(sign.name)}</p>
      <p className="mb-1.5 text-sm text-ink-2">{sign.definition}.</p>
      <Choice
        label={capital(sign.name)}
        value={stands}
        options={all}
        columns={desk || all.length < 5 ? all.length : 3}
        onChange={put}
      />
      {typeof value === "number" && !graded && value > 0 && (
        <p className="mt-1 text-sm text-ink-2">Counted: {value}.</p>
      )}
    </div>
  );
}

/** A thread in millimetres, food in kilograms. */
function Measured({ sign, value, onChange }: Omit<Props, "onComb">) {
  const units = useSession().person;
  const number = typeof value === "number" ? value : null;
  const thread = sign.scale === "mm";
  return (
    <div className="border-t border-line py-3">
      <p className="mb-1.5 text-sm text-ink-2">{capital(sign.definition)}.</p>
      <Stepper
        label={capital(sign.name)}
        value={number}
        step={thread ? 5 : 1}
        most={thread ? 300 : 60}
        shown={(one) => (thread ? `${one} mm` : weight(one, units))}
        onChange={(next) => onChange(next ?? undefined)}
      />
      {number !== null && (
        <Button variant="quiet" onClick={() => onChange(undefined)}>
          {thread ? "No match was drawn" : "Not looked at"}
        </Button>
      )}
    </div>
  );
}
