/** Opening or changing a count week: days, method, who is invited, and how to count. */
import { amendCountWeek, openCountWeek } from "@/client/commands/campaigns";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Problem, type Schemas } from "@/client/types";
import { apiariesQuery } from "@/client/queries";
import { Choice } from "@/ui/choice";
import { addDays } from "@/ui/dates";
import { Dialog } from "@/ui/dialog";
import { Button } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";
import { Field, FormError, described } from "@/ui/field";

type Week = Schemas["CountWeek"];

export function WeekForm({ week, keepers, onClose }: { week?: Week; keepers?: string[]; onClose: () => void }) {
  const client = useQueryClient();
  const places = useQuery(apiariesQuery);
  const id = useRef(week?.id ?? crypto.randomUUID());
  const today = places.data?.today ?? new Date().toISOString().slice(0, 10);
  const [name, setName] = useState(week?.name ?? "");
  const [first, setFirst] = useState(week?.first_on ?? "");
  const [last, setLast] = useState(week?.last_on ?? "");
  const [method, setMethod] = useState<Week["method"]>(week?.method ?? "wash");
  const [protocol, setProtocol] = useState(week?.protocol ?? "");
  const [invited, setInvited] = useState<string[] | null>(keepers ?? null);
  const save = useMutation({
    mutationFn: () => {
      const body = {
        name,
        first_on: first,
        last_on: last || first,
        method,
        half_width: week?.half_width ?? 0.4,
        protocol,
        keepers: invited,
      };
      return week ? amendCountWeek(week.id, week.version, body) : openCountWeek({ id: id.current, ...body });
    },
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ["count-weeks"] });
      onClose();
    },
  });
  const problem = save.error instanceof Problem ? save.error : null;
  const at = (field: string) => problem?.at(field);
  const all = places.data?.keepers ?? [];
  const chosen = invited ?? all.map((one) => one.id);
  return (
    <Dialog open onClose={onClose} title={week ? "Change the count week" : "Open a count week"}>
      <form
        noValidate
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate();
        }}>
        <Field label="Name" name="week-name" error={at("name")}>
          <input
            className="input"
            value={name}
            onChange={(event) => setName(event.target.value)}
            placeholder="Midsummer count week"
            {...described("week-name", at("name"))}
          />
        </Field>
        <div className="grid grid-cols-2 gap-3">
          <Field label="First day" name="week-first" error={at("first_on")}>
            <input
              type="date"
              className="input"
              value={first}
              onChange={(event) => {
                setFirst(event.target.value);
                if (!last && event.target.value) setLast(addDays(event.target.value, 7));
              }}
              {...described("week-first", at("first_on"))}
            />
          </Field>
          <Field label="Last day" name="week-last" error={at("last_on")}>
            <input
              type="date"
              className="input"
              value={last}
              min={first || today}
              onChange={(event) => setLast(event.target.value)}
              {...described("week-last", at("last_on"))}
            />
          </Field>
        </div>
        <div>
          <p className="mb-1 font-semibold">Counted by</p>
          <Choice
            label="Counted by"
            value={method}
            options={[
              ["wash", "wash"],
              ["sugar", "sugar roll"],
              ["co2", "CO2 roll"],
            ]}
            onChange={setMethod}
          />
          <p className="mt-1 text-sm text-ink-2">Counts by another method are taken too, and kept separate.</p>
        </div>
        <Field label="How to count, for the reminders" name="week-protocol" error={at("protocol")}>
          <textarea
            className="input min-h-20"
            value={protocol}
            onChange={(event) => setProtocol(event.target.value)}
            {...described("week-protocol", at("protocol"))}
          />
        </Field>
        <details>
          <summary className="min-h-8 cursor-pointer py-1 font-semibold underline underline-offset-4">
            {invited === null ? "Every keeper is invited" : `${chosen.length} of ${all.length} keepers invited`}
          </summary>
          <ul className="mt-1 max-h-56 overflow-y-auto">
            {all.map((keeper) => (
              <li key={keeper.id}>
                <Checkbox
                  label={keeper.name}
                  checked={chosen.includes(keeper.id)}
                  onChange={(wanted) =>
                    setInvited(wanted ? [...chosen, keeper.id] : chosen.filter((one) => one !== keeper.id))
                  }
                />
              </li>
            ))}
          </ul>
        </details>
        <FormError error={save.error} fields={["name", "first_on", "last_on", "protocol"]} />
        <Button type="submit" variant="main" className="w-full" disabled={save.isPending || !first}>
          {week ? "Change it" : "Open it"}
        </Button>
      </form>
    </Dialog>
  );
}
