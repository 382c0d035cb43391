/** Amending a count: the shakes as they should read, and why. The former version is kept and shown. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Problem, api, ask, ifMatch, type Schemas } from "@/client/api";
import { countHistoryQuery } from "@/client/queries";
import { shortDay } from "@/ui/dates";
import { Dialog } from "@/ui/dialog";
import { Button, Field, FormTrouble, described } from "@/ui/parts";

export function AmendCount({ count, today, onClose }: { count: Schemas["Count"]; today: string; onClose: () => void }) {
  const client = useQueryClient();
  const [shakes, setShakes] = useState(count.shakes.join(" + "));
  const [reason, setReason] = useState("");
  const history = useQuery(countHistoryQuery(count.id));
  const amend = useMutation({
    mutationFn: () =>
      ask(
        api.PUT("/api/v1/counts/{count_id}", {
          params: { path: { count_id: count.id }, header: ifMatch(count.version) },
          body: {
            colony_id: count.colony_id,
            taken_at: count.taken_at,
            shakes: shakes.split("+").map((part) => (/^\s*\d+\s*$/.test(part) ? Number(part) : -1)),
            bees_known_by: count.bees_known_by as Schemas["CountInput"]["bees_known_by"],
            bees: count.bees,
            volume_ml: count.volume_ml,
            mass_g: count.mass_g,
            place_of_bees: count.place_of_bees as Schemas["CountInput"]["place_of_bees"],
            brood_state: count.brood_state as Schemas["CountInput"]["brood_state"],
            queen_safe: count.queen_safe as Schemas["CountInput"]["queen_safe"],
            note: count.note,
            reason,
          },
        }),
      ),
    onSuccess: async () => {
      await client.invalidateQueries();
      onClose();
    },
  });
  const problem = amend.error instanceof Problem ? amend.error : null;
  const wrong = problem?.at("shakes") ? "Write the shakes as whole numbers with plus signs: 13 + 4 + 1" : undefined;
  return (
    <Dialog open onClose={onClose} title={`Amend the wash of ${shortDay(count.taken_on, today)}`}>
      <form
        noValidate
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          amend.mutate();
        }}
      >
        <Field label="Mites, shake by shake" name="shakes" error={wrong}>
          <input className="input" value={shakes} onChange={(event) => setShakes(event.target.value)} {...described("shakes", wrong)} />
        </Field>
        <Field label="Why" name="reason" hint="Kept with the former version" error={problem?.at("reason")}>
          <input className="input" value={reason} onChange={(event) => setReason(event.target.value)} {...described("reason", problem?.at("reason"), true)} />
        </Field>
        <FormTrouble error={amend.error} fields={["shakes", "reason"]} />
        <Button type="submit" look="main" className="w-full" disabled={amend.isPending}>Amend the count</Button>
      </form>
      <h3 className="mt-6 border-b border-line pb-1">History</h3>
      <ol className="mt-2 space-y-1 text-sm">
        {(history.data ?? []).map((entry) => (
          <li key={entry.seq}>
            {entry.act === "made" ? "recorded" : "amended"} by {entry.by_name || "the system"}: shakes {(entry.present["shakes"] as number[]).join(" + ")}
            {entry.reason && <span className="text-ink-2">. Why: {entry.reason}</span>}
          </li>
        ))}
      </ol>
    </Dialog>
  );
}
