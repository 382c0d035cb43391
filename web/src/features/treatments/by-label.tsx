/** What the label of the product in use says otherwise than the catalogue: both are shown. */
import type { Schemas } from "@/client/types";
import { useSession } from "@/features/session/use-session";
import { temperature, type Units } from "@/ui/units";
import { FIGURE } from "@/wording/words";

type Option = Schemas["OptionView"];
type Value = Schemas["ByLabel"]["label"];
type Figure = Schemas["ByLabel"]["figure"];

/** A figure in words: limits in the person's unit, days as earliest, ideal, latest. */
export function figureText(figure: Figure, value: Value, unit: string, units: Units): string {
  if (value === null) return "no limit";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (Array.isArray(value)) return value.join(" / ");
  if (typeof value === "number" && figure.endsWith("_c")) return temperature(value, units);
  if (figure.startsWith("dose_")) return `${String(value)} ${unit}`;
  return String(value);
}

export function ByLabel({ option }: { option: Option }) {
  const units = useSession().person;
  if (option.by_label.length === 0 && option.product === "") return null;
  const said = option.by_label.map(({ figure, label, default: usual }) => {
    const text = (value: Value) => figureText(figure, value, option.dose_unit, units);
    return `${FIGURE[figure]} ${text(label)} (default ${text(usual)})`;
  });
  return (
    <p className="mt-1 text-sm">
      <strong>By your label{option.product && `, ${option.product}`}:</strong>{" "}
      {said.length > 0 ? said.join("; ") : "as the catalogue"}.
    </p>
  );
}
