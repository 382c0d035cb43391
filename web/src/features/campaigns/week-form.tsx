/** Opening or changing a count week: days, method, who is invited, and how to count. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { amendCountWeek, openCountWeek } from "@/client/commands/campaigns";
import { keepersQuery, placesQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { Checkbox } from "@/ui/checkbox";
import { ChoiceField } from "@/ui/choice";
import { addDays } from "@/ui/dates";
import { Dialog } from "@/ui/dialog";
import { DateField } from "@/ui/date-field";
import { TextArea, TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";

type Week = Schemas["CountWeek"];
const FIELDS = ["name", "first_on", "last_on", "protocol"];
const METHODS = [
  ["wash", "wash"],
  ["sugar", "sugar roll"],
  ["co2", "CO2 roll"],
] as const;

export function WeekForm({ week, keepers, onClose }: { week?: Week; keepers?: string[]; onClose: () => void }) {
  const client = useQueryClient();
  const places = useQuery(placesQuery());
  const everyone = useQuery(keepersQuery);
  const [id] = useState(() => crypto.randomUUID());
  const today = places.data?.today ?? new Date().toISOString().slice(0, 10);
  const [draft, set, kept] = useDraft(
    {
      name: week?.name ?? "",
      first_on: week?.first_on ?? "",
      last_on: week?.last_on ?? "",
      method: week?.method ?? "wash",
      protocol: week?.protocol ?? "",
      keepers: keepers ?? null,
    },
    `week:${week?.id ?? "new"}:${week?.version ?? 0}`,
  );
  const save = useSave({
    kept,
    act: () => {
      const body = { ...draft, last_on: draft.last_on || draft.first_on, half_width: week?.half_width ?? 0.4 };
      return week ? amendCountWeek(week.id, week.version, body) : openCountWeek({ id, ...body });
    },
    done: async () => {
      await client.invalidateQueries({ queryKey: ["count-weeks"] });
      onClose();
    },
  });
  const field = bindFields(draft, set, save);
  return (
    <Dialog open onClose={onClose} title={week ? "Change the count week" : "Open a count week"}>
      <SaveForm
        save={save}
        kept={kept}
        fields={FIELDS}
        label={week ? "Change it" : "Open it"}
        disabled={!draft.first_on}>
        <TextField label="Name" placeholder="Midsummer count week" {...field("name")} name="week-name" />
        <div className="grid grid-cols-2 gap-3">
          <DateField
            label="First day"
            name="week-first"
            error={save.at("first_on")}
            value={draft.first_on}
            onChange={(day) => set({ first_on: day, ...(!draft.last_on && day ? { last_on: addDays(day, 7) } : {}) })}
          />
          <DateField label="Last day" min={draft.first_on || today} {...field("last_on")} name="week-last" />
        </div>
        <div>
          <ChoiceField
            label="Counted by"
            value={draft.method}
            options={METHODS}
            onChange={(method) => set({ method })}
          />
          <p className="mt-1 text-sm text-ink-2">Counts by another method are taken too, and kept separate.</p>
        </div>
        <TextArea label="How to count, for the reminders" {...field("protocol")} name="week-protocol" />
        <Invited
          keepers={everyone.data ?? []}
          invited={draft.keepers}
          onChange={(chosen) => set({ keepers: chosen })}
        />
      </SaveForm>
    </Dialog>
  );
}

type InvitedProps = {
  keepers: Schemas["Keeper"][];
  /** None: every keeper. */
  invited: string[] | null;
  onChange: (invited: string[]) => void;
};

function Invited({ keepers, invited, onChange }: InvitedProps) {
  const chosen = invited ?? keepers.map((one) => one.id);
  return (
    <details>
      <summary className="min-h-8 cursor-pointer py-1 font-semibold underline underline-offset-4">
        {invited === null ? "Every keeper is invited" : `${chosen.length} of ${keepers.length} keepers invited`}
      </summary>
      <ul className="mt-1 max-h-56 overflow-y-auto">
        {keepers.map((keeper) => (
          <li key={keeper.id}>
            <Checkbox
              label={keeper.name}
              checked={chosen.includes(keeper.id)}
              onChange={(wanted) =>
                onChange(wanted ? [...chosen, keeper.id] : chosen.filter((one) => one !== keeper.id))
              }
            />
          </li>
        ))}
      </ul>
    </details>
  );
}
