/** Adding a colony: label, hive, queen, and what it was split from. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { addColony } from "@/client/commands/colonies";
import type { Schemas } from "@/client/types";
import { Boxes, type Box } from "@/features/colonies/boxes";
import { Dialog } from "@/ui/dialog";
import { DateField } from "@/ui/date-field";
import { SelectField, TextField } from "@/ui/fields";
import { Override } from "@/ui/override";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";

const ONE_BOX: Box[] = [{ purpose: "brood", frame_format: "A_deep", frames: 10 }];
const FIELDS = ["label", "since", "queen", "split_from", "override_why"];

type Props = {
  open: boolean;
  onClose: () => void;
  apiaryId: string;
  today: string;
  hives: Schemas["HiveBox"][];
  colonies: Schemas["ColonyOverview"][];
};

export function AddColony({ open, onClose, ...place }: Props) {
  return (
    <Dialog open={open} onClose={onClose} title="Add a colony">
      <Entry onClose={onClose} {...place} />
    </Dialog>
  );
}

function Entry({ onClose, apiaryId, today, hives, colonies }: Omit<Props, "open">) {
  const client = useQueryClient();
  const [id] = useState(() => crypto.randomUUID());
  const [draft, set, kept] = useDraft(
    { label: "", since: today, home: "", boxes: ONE_BOX, queenYear: today.slice(0, 4), splitFrom: "", overrideWhy: "" },
    `colony:${apiaryId}`,
  );
  const save = useSave({
    kept,
    act: () =>
      addColony({
        id,
        apiary_id: apiaryId,
        label: draft.label,
        since: draft.since,
        note: "",
        hive_id: draft.home || null,
        hive_type: "stacked boxes",
        boxes: draft.home ? [] : draft.boxes,
        queen: draft.queenYear ? matedQueen(Number(draft.queenYear), draft.since) : null,
        split_from: draft.splitFrom || null,
        override_why: draft.overrideWhy,
      }),
    check: () => ({
      label: draft.label.trim() === "" && "Give it a label",
      since: draft.since === "" && "Enter the day",
      queen: !/^(\d{4})?$/.test(draft.queenYear) && "Four figures, as 2031, or nothing",
    }),
    done: async () => {
      await client.invalidateQueries();
      onClose();
    },
  });
  const field = bindFields(draft, set, save);
  const living = colonies.filter((one) => one.is_living).map((one) => [one.id, one.label] as const);
  return (
    <SaveForm save={save} kept={kept} fields={FIELDS} label="Add the colony" big>
      <div className="grid grid-cols-2 gap-4">
        <TextField label="Label" maxLength={24} {...field("label")} />
        <DateField label="Here since" max={today} {...field("since")} />
      </div>
      <SelectField label="Hive" options={[["", "a hive of its own"], ...sharing(hives)]} {...field("home")} />
      {draft.home === "" && <Boxes boxes={draft.boxes} onChange={(boxes) => set({ boxes })} />}
      <div className="grid grid-cols-2 gap-4">
        <TextField
          label="Queen of the year"
          hint="Leave empty if not known"
          inputMode="numeric"
          {...field("queenYear", "queen")}
        />
        <SelectField
          label="Split from"
          options={[["", "not a split"], ...living]}
          {...field("splitFrom", "split_from")}
        />
      </div>
      <Override problem={save.problem} value={draft.overrideWhy} onChange={(overrideWhy) => set({ overrideWhy })} />
    </SaveForm>
  );
}

function matedQueen(year: number, since: string) {
  return { year, mark_seen: null, status: "mated" as const, since, laying_since: null, release_on: null };
}

/** The hives of the apiary, each once, by who lives in it. */
function sharing(hives: Schemas["HiveBox"][]): (readonly [string, string])[] {
  const each = new Map(hives.map((hive) => [hive.id, hive]));
  return [...each.values()].map((hive) => [
    hive.id,
    `shares with ${(hive.labels ?? []).join(", ") || "an empty hive"}`,
  ]);
}
