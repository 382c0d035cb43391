/** Adding a colony: label, hive, queen, and what it was split from. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useForm } from "react-hook-form";
import { Problem, api, ask, type Schemas } from "@/client/api";
import { Dialog } from "@/ui/dialog";
import { Button, Field, FormTrouble, described } from "@/ui/parts";

type Entry = { label: string; since: string; home: string; frameFormat: string; brood: number; queenYear: string; splitFrom: string };
const FORMATS = [
  ["A_deep", "deep frame, 448 x 232 mm"],
  ["A_medium", "medium frame, 448 x 159 mm"],
  ["A_jumbo", "jumbo frame, 448 x 286 mm"],
  ["B_deep", "British standard brood, 356 x 216 mm"],
  ["B_extra_deep", "British 14 x 12, 356 x 305 mm"],
] as const;

export function AddColony({
  open, onClose, apiaryId, today, hives, colonies,
}: {
  open: boolean; onClose: () => void; apiaryId: string; today: string; hives: Schemas["HiveBox"][]; colonies: Schemas["ColonyRow"][];
}) {
  const client = useQueryClient();
  const form = useForm<Entry>({
    defaultValues: { label: "", since: today, home: "", frameFormat: "A_deep", brood: 1, queenYear: today.slice(0, 4), splitFrom: "" },
  });
  const add = useMutation({
    mutationFn: (entry: Entry) =>
      ask(
        api.POST("/api/v1/colonies", {
          body: {
            id: crypto.randomUUID(),
            apiary_id: apiaryId,
            label: entry.label,
            since: entry.since,
            note: "",
            hive_id: entry.home || null,
            hive_type: "stacked boxes",
            boxes: entry.home
              ? []
              : Array.from({ length: entry.brood }, () => ({
                  purpose: "brood" as const,
                  frame_format: entry.frameFormat as (typeof FORMATS)[number][0],
                  frames: 10,
                })),
            queen: entry.queenYear
              ? { year: Number(entry.queenYear), mark_seen: null, status: "mated" as const, since: entry.since, laying_since: null, release_on: null }
              : null,
            split_from: entry.splitFrom || null,
          },
        }),
      ),
    onSuccess: async () => {
      form.reset();
      await client.invalidateQueries();
      onClose();
    },
  });
  const problem = add.error instanceof Problem ? add.error : null;
  const homes = [...new Map(hives.map((hive) => [hive.id, hive])).values()];
  return (
    <Dialog open={open} onClose={onClose} title="Add a colony">
      <form noValidate className="space-y-4" onSubmit={(event) => void form.handleSubmit((entry) => add.mutate(entry))(event)}>
        <div className="grid grid-cols-2 gap-4">
          <Field label="Label" name="label" error={form.formState.errors.label?.message ?? problem?.at("label")}>
            <input className="input" maxLength={24} {...form.register("label", { required: "Give it a label" })} {...described("label", form.formState.errors.label?.message ?? problem?.at("label"))} />
          </Field>
          <Field label="Here since" name="since" error={problem?.at("since")}>
            <input type="date" className="input" max={today} {...form.register("since", { required: true })} {...described("since", problem?.at("since"))} />
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
        <div className="grid grid-cols-2 gap-4">
          <Field label="Frames" name="frameFormat">
            <select className="input" {...form.register("frameFormat")} {...described("frameFormat")}>
              {FORMATS.map(([id, text]) => (
                <option key={id} value={id}>{text}</option>
              ))}
            </select>
          </Field>
          <Field label="Brood boxes" name="brood">
            <input type="number" min={1} max={6} className="input" {...form.register("brood", { valueAsNumber: true, min: 1, max: 6 })} {...described("brood")} />
          </Field>
        </div>
        <div className="grid grid-cols-2 gap-4">
          <Field label="Queen of the year" name="queenYear" hint="Leave empty if not known" error={problem?.at("queen")}>
            <input inputMode="numeric" className="input" {...form.register("queenYear", { pattern: /^\d{4}$/ })} {...described("queenYear", undefined, true)} />
          </Field>
          <Field label="Split from" name="splitFrom">
            <select className="input" {...form.register("splitFrom")} {...described("splitFrom")}>
              <option value="">not a split</option>
              {colonies.map((one) => (
                <option key={one.id} value={one.id}>{one.label}</option>
              ))}
            </select>
          </Field>
        </div>
        <FormTrouble error={add.error} fields={["label", "since", "queen"]} />
        <Button type="submit" look="main" big className="w-full" disabled={add.isPending}>
          Add the colony
        </Button>
      </form>
    </Dialog>
  );
}
