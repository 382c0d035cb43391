/** Units follow the person. Values are kept in SI; only what is shown is converted. */
import type { Schemas } from "@/client/types";

export type Units = Pick<Schemas["Person"], "temperature" | "mass" | "volume">;

export const ML_PER_CUP = 236.588;
export const ML_PER_FL_OZ = 28.4131;

export function temperature(celsius: number, units: Units): string {
  return units.temperature === "fahrenheit" ? `${Math.round((celsius * 9) / 5 + 32)} °F` : `${oneDecimal(celsius)} °C`;
}

/** The sign of the person's degrees. */
export const degrees = (units: Units) => (units.temperature === "fahrenheit" ? "°F" : "°C");

/** What was typed in the person's degrees, in °C; null where nothing was. */
export function inCelsius(typed: string, units: Units): number | null {
  if (typed.trim() === "") return null;
  return units.temperature === "fahrenheit" ? ((Number(typed) - 32) * 5) / 9 : Number(typed);
}

/** A temperature as it stands in a field. */
export function inDegrees(celsius: number | null, units: Units): string {
  if (celsius === null) return "";
  return oneDecimal(units.temperature === "fahrenheit" ? (celsius * 9) / 5 + 32 : celsius);
}

/** A sentence of the core with its temperatures in the person's unit. */
export function sayTemperatures(sentence: string, units: Units): string {
  return sentence.replace(/(-?\d+(?:\.\d+)?) °C/g, (_, celsius: string) => temperature(Number(celsius), units));
}

const COUNTED = new Set(["strip", "tablet", "floor", "operation", "cage", "queen", "drone frame"]);

/** "2 strips", "40 ml" */
export function quantity(amount: number, unit: string): string {
  return `${oneDecimal(amount)} ${COUNTED.has(unit) && amount !== 1 ? `${unit}s` : unit}`;
}

export function volume(ml: number, units: Units): string {
  if (units.volume === "cup") return `${(ml / ML_PER_CUP).toFixed(2)} US cup`;
  if (units.volume === "fl_oz") return `${oneDecimal(ml / ML_PER_FL_OZ)} fl oz`;
  return `${oneDecimal(ml)} ml`;
}

/** What syrup and water are measured in, and how many litres that is. */
function litreMeasure(units: Units): { label: string; each: number } {
  if (units.volume === "cup") return { label: "US gal", each: 3.785412 };
  return units.volume === "fl_oz" ? { label: "gal", each: 4.54609 } : { label: "l", each: 1 };
}
export const litreUnit = (units: Units): string => litreMeasure(units).label;
export const inLitres = (typed: number, units: Units): number => typed * litreMeasure(units).each;

/** Syrup and water: "10 l", "2.6 US gal", "2.2 gal". */
export function litres(amount: number, units: Units): string {
  const { label, each } = litreMeasure(units);
  return `${oneDecimal(amount / each)} ${label}`;
}

export function mass(grams: number, units: Units): string {
  if (units.mass === "lb") return `${(grams / 28.349523).toFixed(2)} oz`;
  return `${oneDecimal(grams)} g`;
}

export const VOLUME_UNIT: Record<string, { label: string; ml: number; step: number; usual: number }> = {
  ml: { label: "ml", ml: 1, step: 5, usual: 120 },
  cup: { label: "US cup", ml: ML_PER_CUP, step: 0.25, usual: 0.5 },
  fl_oz: { label: "fl oz", ml: ML_PER_FL_OZ, step: 0.5, usual: 4 },
};

/** "26", "25.5": no trailing nought. */
export function oneDecimal(value: number): string {
  return String(Math.round(value * 10) / 10);
}

/** Mites per 100 bees, to one decimal. */
export function rate(per100: number): string {
  return per100 >= 100 ? per100.toFixed(0) : per100.toFixed(1);
}

/** A chance in words of "in 100"; never a bare 0 or 100. */
export function chance(p: number): string {
  if (p >= 0.995) return "over 99 in 100";
  if (p <= 0.005) return "under 1 in 100";
  return `${Math.round(p * 100)} in 100`;
}

/** Stores and colonies: "8.4 kg", "18.5 lb". */
const KG_PER_LB = 0.45359237;
export const weightUnit = (units: Units): string => (units.mass === "lb" ? "lb" : "kg");
export const inKilograms = (typed: number, units: Units): number => (units.mass === "lb" ? typed * KG_PER_LB : typed);

export function weight(kg: number, units: Units): string {
  return `${oneDecimal(units.mass === "lb" ? kg / KG_PER_LB : kg)} ${weightUnit(units)}`;
}
