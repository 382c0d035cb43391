/** Amending a count: what was counted and why it is changed; the history stands below. Everything else of it stays. */
import { amendCount } from "@/client/commands/counts";
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/client/types";
import { countHistoryQuery } from "@/client/queries";
import { shortDay } from "@/ui/dates";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { METHOD } from "@/wording/words";
import { useDone } from "./use-done";

type Count = Schemas["Count"];
type Amendment =
  Schemas["JarAmendment"] | Schemas["BoardAmendment"] | Schemas["DroneAmendment"] | Schemas["LookAmendment"];

const LABEL: Record<"jar" | "board" | "drone" | "look", { field: string; label: string; wrong: string }> = {
  jar: {
    field: "shakes",
    label: "Mites, shake by shake",
    wrong: "Write the shakes as whole numbers with plus signs: 13 + 4 + 1",
  },
  board: {
    field: "squares",
    label: "Mites, square by square",
    wrong: "Write the squares as whole numbers with plus signs: 3 + 0 + 5",
  },
  drone: { field: "cells_infested", label: "Cells infested / cells opened", wrong: "Write them as 12 / 80" },
  look: { field: "mites_seen", label: "Mites seen (yes or no)", wrong: "Write yes or no" },
};

function kindOf(count: Count): keyof typeof LABEL {
  return count.method === "drone_brood"
    ? "drone"
    : count.method === "look"
      ? "look"
      : count.shakes === null
        ? "board"
        : "jar";
}

type Kept = Partial<Record<string, string | number | boolean | number[] | null>>;

/** A count as it is written here: "13 + 4 + 1", "12 / 80", "yes". */
function written(kept: Kept): string {
  if (kept["cells_opened"] != null) return `${kept["cells_infested"] as number} / ${kept["cells_opened"] as number}`;
  if (kept["mites_seen"] != null) return kept["mites_seen"] ? "yes" : "no";
  return ((kept["shakes"] ?? kept["squares"] ?? []) as number[]).join(" + ");
}

const whole = (text: string | undefined) => (text !== undefined && /^\s*\d+\s*$/.test(text) ? Number(text) : -1);

function amendmentOf(count: Count, text: string, reason: string): Amendment {
  const same = {
    colony_id: count.colony_id,
    taken_at: count.taken_at,
    brood_state: count.brood_state,
    targeted: count.targeted,
    note: count.note,
    reason,
  };
  const parts = text.split("+").map(whole);
  switch (kindOf(count)) {
    case "drone": {
      const [infested, opened] = text.split("/").map(whole);
      return {
        ...same,
        method: "drone_brood",
        cells_infested: infested ?? -1,
        cells_opened: opened ?? -1,
        mites_in_cells: null,
        patches: count.patches,
      };
    }
    case "look":
      return { ...same, method: "look", mites_seen: /^\s*y/i.test(text) };
    case "board":
      return {
        ...same,
        method: count.method as Schemas["BoardAmendment"]["method"],
        placed_at: count.placed_at ?? "",
        squares: parts,
        squares_in_all: count.squares_in_all ?? 1,
        cleaned: count.cleaned ?? "not_looked",
        greased: count.greased ?? "not_looked",
        ants: count.ants ?? "not_looked",
      };
    default:
      return {
        ...same,
        method: count.method as Schemas["JarAmendment"]["method"],
        shakes: parts,
        bees_known_by: count.bees_known_by ?? "not_recorded",
        bees: count.bees,
        volume_ml: count.volume_ml,
        mass_g: count.mass_g,
        place_of_bees: count.place_of_bees ?? "unknown",
        queen_safe: count.queen_safe ?? "not_looked",
        rested_s: count.rested_s,
        wet: count.wet ?? "not_looked",
      };
  }
}

export function AmendCount({ count, today, onClose }: { count: Count; today: string; onClose: () => void }) {
  const { field, label, wrong: advice } = LABEL[kindOf(count)];
  const done = useDone(onClose);
  const [draft, set, kept] = useDraft(
    () => ({ text: written({ ...count }), reason: "" }),
    `count:${count.id}:${count.version}`,
  );
  const history = useQuery(countHistoryQuery(count.id));
  const save = useSave({
    kept,
    act: () => amendCount(count.id, count.version, amendmentOf(count, draft.text, draft.reason)),
    done,
  });
  const bound = bindFields(draft, set, save);
  const wrong = (save.at(field) ?? save.at("cells_opened")) ? advice : undefined;
  return (
    <Dialog open onClose={onClose} title={`Amend the ${METHOD[count.method]} of ${shortDay(count.taken_on, today)}`}>
      <SaveForm save={save} kept={kept} fields={[field, "cells_opened", "reason"]} label="Amend the count">
        <TextField label={label} name="counted" error={wrong} value={draft.text} onChange={(text) => set({ text })} />
        <TextField label="Why" hint="Kept with the version before" {...bound("reason")} />
      </SaveForm>
      <h3 className="mt-6 border-b border-line pb-1">History</h3>
      <ol className="mt-2 space-y-1 text-sm">
        {(history.data ?? []).map((entry) => (
          <li key={entry.seq}>
            {entry.act === "made" ? "recorded" : "amended"} by {entry.by_name || "the system"}:{" "}
            {written(entry.current as Kept)}
            {entry.reason && <span className="text-ink-2">. Why: {entry.reason}</span>}
          </li>
        ))}
      </ol>
    </Dialog>
  );
}
