/** A fact that a rule needs and nobody has recorded: asked for here, on the spot, and kept as what was seen today. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { recordLook } from "@/client/commands/visits";
import type { Schemas } from "@/client/types";
import { useSession } from "@/features/session/use-session";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { ErrorText } from "@/ui/field";
import { Stepper } from "@/ui/stepper";

type Reason = Schemas["Reason"];
type Fact = "strength" | "brood" | "supers" | "feed";
const FACT: Partial<Record<Reason["code"], Fact>> = {
  strength_unknown: "strength",
  brood_unknown: "brood",
  brood_sighting_old: "brood",
  brood_sighting_undated: "brood",
  supers_unknown: "supers",
  supers_unknown_by_label: "supers",
  fed_unknown: "feed",
};
const YES_NO = [
  ["yes", "yes"],
  ["no", "no"],
] as const;
type After = Partial<Schemas["After"]>;
/** What is asked in a choice: its words, its answers, and what each records. */
const CHOICES: Record<
  Exclude<Fact, "strength">,
  [string, readonly (readonly [string, string])[], (id: string) => After]
> = {
  brood: ["Sealed brood", YES_NO, (id) => ({ capped_brood: id === "yes" })],
  supers: ["Honey supers on", YES_NO, (id) => ({ supers_on: id === "yes" })],
  feed: [
    "Fed with",
    [
      ["none", "nothing"],
      ["syrup_1_1", "syrup 1:1"],
      ["syrup_2_1", "syrup 2:1"],
      ["fondant", "fondant"],
    ],
    (id) => ({ feed: id as NonNullable<After["feed"]> }),
  ],
};

/** What the rules ask of a colony before they can tell. */
export const factsAsked = (reasons: Reason[]): Fact[] => [...new Set(reasons.flatMap((one) => FACT[one.code] ?? []))];

type Props = { colonyId: string; label: string; fact: Fact };

export function MissingFact({ colonyId, label, fact }: Props) {
  const { today } = useSession();
  const client = useQueryClient();
  const [id] = useState(() => crypto.randomUUID());
  const [frames, setFrames] = useState<number | null>(null);
  const look = useMutation({
    mutationFn: (after: Schemas["After"]) => recordLook(colonyId, { id, visited_on: today, after }),
    onSuccess: () => client.invalidateQueries(),
  });
  const record = (after: After) => look.mutate(after as Schemas["After"]);
  if (fact === "strength")
    return (
      <div className="mt-1 grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2">
        <Stepper label={`Frames of bees in ${label}?`} value={frames} most={40} start={8} onChange={setFrames} />
        <Button disabled={look.isPending || frames === null} onClick={() => record({ frames_of_bees: frames })}>
          Record
        </Button>
        <ErrorText error={look.error} />
      </div>
    );
  const [asked, options, after] = CHOICES[fact];
  return (
    <div className="mt-1">
      <span className="font-semibold" aria-hidden="true">
        {asked}?
      </span>
      <Choice label={`${asked}, ${label}?`} value="" options={options} onChange={(id) => record(after(id))} />
      <ErrorText error={look.error} />
    </div>
  );
}
