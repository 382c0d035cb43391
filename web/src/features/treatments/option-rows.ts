/** The options of several colonies together, each with what it is for every one of them. */
import type { Schemas } from "@/client/types";

export type Options = Schemas["ApiaryOptions"];
export type Judged = Schemas["SuitabilityView"];
export type OptionRow = {
  option: Schemas["OptionView"];
  per: { colony: Schemas["ColonyOptions"]; judged: Judged }[];
  all: Schemas["OptionTogether"];
};

/** The options in the order in which the core offers them to these colonies together. */
export function rowsOf(view: Options): OptionRow[] {
  return view.together.flatMap((all) => {
    const option = view.catalogue.find((one) => one.id === all.option_id);
    const per = view.colonies.flatMap((colony) => {
      const judged = colony.options.find((one) => one.option_id === all.option_id);
      return judged ? [{ colony, judged }] : [];
    });
    return option ? [{ option, per, all }] : [];
  });
}

/** Whether a course of it can be planned as it is: no rule holds it back, and there is a dose. */
export const isStartable = (judged: Judged): boolean => judged.holding.length === 0 && judged.dose !== null;

export const SOURCE: Record<Judged["reasons"][number]["source"], string> = {
  L: "label or law",
  E: "evidence",
  P: "policy",
  "L/E": "label, evidence",
};
