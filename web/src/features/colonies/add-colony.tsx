/** Adding a colony: label, hive, queen, and what it was split from. */
import { addColony } from "@/client/commands/colonies";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { Problem, type Schemas } from "@/client/types";
import { Override } from "@/ui/override";
import { Boxes, type Box } from "@/features/colonies/boxes";
import { Dialog } from "@/ui/dialog";
import { Button } from "@/ui/button";
import { Field, FormError, described } from "@/ui/field";

type Entry = { label: string; since: string; home: string; queenYear: string; splitFrom: string };
const ONE_BOX: Box[] = [{ purpose: "brood", frame_format: "A_deep", frames: 10 }];

export function AddColony({
  open,
  onClose,
  apiaryId,
  today,
  hives,
  colonies,
}: {
  open: boolean;
  onClose: () => void;
  apiaryId: string;
  today: string;
  hives: Schemas["HiveBox"][];
  colonies: Schemas["ColonyOverview"][];
}) {
  const client = useQueryClient();
  const [id, setId] = useState(() => crypto.randomUUID());
  const [boxes, setBoxes] = useState(ONE_BOX);
  const [overrideWhy, setOverrideWhy] = useState("");
  const form = useForm<Entry>({
    defaultValues: { label: "", since: today, home: "", queenYear: today.slice(0, 4), splitFrom: "" },
  });
  const add = useMutation({
    mutationFn: (entry: Entry) =>
      addColony({
        id,
        apiary_id: apiaryId,
        label: entry.label,
        since: entry.since,
        note: "",
        hive_id: entry.home || null,
        hive_type: "stacked boxes",
        boxes: entry.home ? [] : boxes,
        queen: entry.queenYear
          ? {
              year: Number(entry.queenYear),
              mark_seen: null,
              status: "mated" as const,
              since: entry.since,
              laying_since: null,
              release_on: null,
            }
          : null,
        split_from: entry.splitFrom || null,
        override_why: overrideWhy,
      }),
    onSuccess: async () => {
      form.reset();
      setId(crypto.randomUUID());
      await client.invalidateQueries();
      onClose();
    },
  });
  const problem = add.error instanceof Problem ? add.error : null;
  const homes = [...new Map(hives.map((hive) => [hive.id, hive])).values()];
  return (
    <Dialog open={open} onClose={onClose} title="Add a colony">
      <form
        noValidate
        className="space-y-4"
        onSubmit={(event) => void form.handleSubmit((entry) => add.mutate(entry))(event)}>
        <div className="grid grid-cols-2 gap-4">
          <Field label="Label" name="label" error={form.formState.errors.label?.message ?? problem?.at("label")}>
            <input
              className="input"
              maxLength={24}
              {...form.register("label", { required: "Give it a label" })}
              {...described("label", form.formState.errors.label?.message ?? problem?.at("label"))}
            />
          </Field>
          <Field label="Here since" name="since" error={problem?.at("since")}>
            <input
              type="date"
              className="input"
              max={today}
              {...form.register("since", { required: true })}
              {...described("since", problem?.at("since"))}
            />
          </Field>
        </div>
        <Field label="Hive" name="home">
          <select className="input" {...form.register("home")} {...described("home")}>
            <option value="">a hive of its own</option>
            {homes.map((hive) => (
              <option key={hive.id} value={hive.id}>
                shares with {(hive.labels ?? []).join(", ") || "an empty hive"}
              </option>
            ))}
          </select>
        </Field>
        {form.watch("home") === "" && <Boxes boxes={boxes} onChange={setBoxes} />}
        <div className="grid grid-cols-2 gap-4">
          <Field
            label="Queen of the year"
            name="queenYear"
            hint="Leave empty if not known"
            error={problem?.at("queen")}>
            <input
              inputMode="numeric"
              className="input"
              {...form.register("queenYear", { pattern: /^\d{4}$/ })}
              {...described("queenYear", undefined, true)}
            />
          </Field>
          <Field label="Split from" name="splitFrom">
            <select className="input" {...form.register("splitFrom")} {...described("splitFrom")}>
              <option value="">not a split</option>
              {colonies
                .filter((one) => one.is_living)
                .map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.label}
                  </option>
                ))}
            </select>
          </Field>
        </div>
        {problem?.at("split_from") && (
          <p role="alert" className="font-semibold text-act">
            {problem.at("split_from")}
          </p>
        )}
        <Override problem={problem} value={overrideWhy} onChange={setOverrideWhy} />
        <FormError error={add.error} fields={["label", "since", "queen", "split_from", "override_why"]} />
        <Button type="submit" variant="main" big className="w-full" disabled={add.isPending}>
          Add the colony
        </Button>
      </form>
    </Dialog>
  );
}
