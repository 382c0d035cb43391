/** Honey taken from the colonies of an apiary: each weighed or not, into one batch; what is not clear is said. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import { recordHarvest } from "@/client/commands/honey";
import { apiaryQuery } from "@/client/queries";
import { ApiaryField } from "@/features/places/apiary-field";
import type { Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { useMay, useSession } from "@/features/session/use-session";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { Checkbox } from "@/ui/checkbox";
import { ChoiceField } from "@/ui/choice";
import { DateField } from "@/ui/date-field";
import { longDay } from "@/ui/dates";
import { TextField } from "@/ui/fields";
import { Loaded } from "@/ui/loaded";
import { Notice, Page, Title } from "@/ui/page";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { inKilograms, weightUnit } from "@/ui/units";
import { colonies } from "@/wording/words";

type View = Schemas["ApiaryView"];
type Barred = Schemas["HarvestedRow"];

export function Honey() {
  const { apiary } = useSearch({ from: "/in/honey" });
  const navigate = useNavigate({ from: "/honey" });
  const mayRecord = useMay("record");
  const query = useQuery({ ...apiaryQuery(apiary ?? ""), enabled: apiary !== undefined });
  return (
    <Page>
      {apiary === undefined ? (
        <>
          <Title>Honey taken</Title>
          <ApiaryField label="Apiary" onChange={(next) => void navigate({ search: { apiary: next }, replace: true })} />
        </>
      ) : (
        <Loaded query={query} what="Opening the apiary …">
          {(view) => (
            <>
              <Breadcrumbs path={[{ name: view.apiary.name, to: "/apiaries/$id", params: { id: view.apiary.id } }]} />
              <Title>Honey taken</Title>
              {mayRecord ? (
                <Harvest key={view.apiary.id} view={view} />
              ) : (
                <Notice>Your role reads, and records nothing.</Notice>
              )}
            </>
          )}
        </Loaded>
      )}
    </Page>
  );
}

const FOR: readonly (readonly [Schemas["HarvestInput"]["honey_for"], string])[] = [
  ["people", "for people"],
  ["bees", "for bees"],
];

/** `kg` as it is typed, by colony; `by` and `why`: who takes on what is not clear. */
type Draft = {
  day: string;
  honeyFor: Schemas["HarvestInput"]["honey_for"];
  batch: string;
  note: string;
  kg: Record<string, string>;
  from: string[];
  by: string;
  why: string;
};

function Harvest({ view }: { view: View }) {
  const { colonies: wanted } = useSearch({ from: "/in/honey" });
  const { person } = useSession();
  const living = view.colonies.filter((one) => one.is_living);
  const [ids] = useState(() => new Map(living.map((one) => [one.id, crypto.randomUUID()])));
  const [saved, setSaved] = useState("");
  const [barred, setBarred] = useState<Barred[]>([]);
  const [draft, set, kept] = useDraft<Draft>(
    { day: view.today, honeyFor: "people", batch: "", note: "", kg: {}, from: wanted ?? [], by: "", why: "" },
    `honey:${view.apiary.id}`,
  );
  const chosen = living.filter((one) => draft.from.includes(one.id));
  const shut = barred.filter((one) => draft.from.includes(one.colony_id));
  const done = useDone(() => undefined);
  const save = useSave({
    kept,
    check: () => ({ from: chosen.length === 0 && "choose the colonies it was taken from" }),
    act: async () => {
      const rows = chosen.map((one) => {
        const typed = draft.kg[one.id]?.trim() ?? "";
        const weighed = typed === "" ? null : inKilograms(Number(typed), person);
        return { id: ids.get(one.id) ?? crypto.randomUUID(), colony_id: one.id, honey_kg: weighed };
      });
      const { day, honeyFor, batch, note, by, why } = draft;
      const override = by.trim() && why.trim() ? { authorised_by: by, reason: why } : null;
      return recordHarvest({ harvested_on: day, honey_for: honeyFor, batch, note, override, rows });
    },
    done: async (rows) => {
      const left = rows.filter((row) => row.barred ?? row.held);
      const taken = rows.filter((row) => !left.includes(row));
      setBarred(left);
      setSaved(taken.map((row) => row.label).join(", "));
      taken.forEach((row) => ids.set(row.colony_id, crypto.randomUUID()));
      set({ from: left.map((row) => row.colony_id), by: "", why: "" });
      await done();
    },
  });
  const field = bindFields(draft, set, save);
  const toggle = (id: string) =>
    set({ from: draft.from.includes(id) ? draft.from.filter((one) => one !== id) : [...draft.from, id] });
  const wrong = (id: string) => save.at(`rows[${String(chosen.findIndex((one) => one.id === id))}].honey_kg`);
  return (
    <div className="mt-4 max-w-2xl">
      {saved && (
        <div role="status" className="mb-4">
          <Notice tone="course">Recorded: honey of {saved}.</Notice>
        </div>
      )}
      <SaveForm
        save={save}
        kept={kept}
        fields={["harvested_on", "batch", "note", "from", "rows"]}
        label={chosen.length > 0 ? `Record it for ${colonies(chosen.length)}` : "Record it"}>
        <DateField label="Taken on" max={view.today} {...field("day", "harvested_on")} />
        <ChoiceField
          label="What it is for"
          value={draft.honeyFor}
          options={FOR}
          onChange={(honeyFor) => set({ honeyFor })}
        />
        <TextField
          label="Batch"
          hint="As it stands on the bucket or jar: a recall finds it by this"
          maxLength={80}
          {...field("batch")}
        />
        <fieldset>
          <legend className="mb-1 font-semibold">From</legend>
          <ul className="border-t border-line">
            {living.map((one) => (
              <li
                key={one.id}
                className="flex flex-wrap items-center justify-between gap-x-3 border-b border-line py-1">
                <Checkbox label={one.label} checked={draft.from.includes(one.id)} onChange={() => toggle(one.id)} />
                {draft.from.includes(one.id) && (
                  <label className="flex items-center gap-2">
                    <span className="sr-only">Honey of {one.label}</span>
                    <input
                      inputMode="decimal"
                      className="input w-24 text-right"
                      value={draft.kg[one.id] ?? ""}
                      aria-invalid={wrong(one.id) ? true : undefined}
                      onChange={(event) => set({ kg: { ...draft.kg, [one.id]: event.target.value.replace(",", ".") } })}
                    />
                    <span className="w-8 text-sm">{weightUnit(person)}</span>
                  </label>
                )}
                {wrong(one.id) && (
                  <p role="alert" className="w-full font-semibold text-act">
                    {wrong(one.id)}
                  </p>
                )}
              </li>
            ))}
          </ul>
          {save.at("from") && (
            <p role="alert" className="mt-1 font-semibold text-act">
              {save.at("from")}
            </p>
          )}
        </fieldset>
        {shut.length > 0 && <NotClear shut={shut} by={field("by")} why={field("why")} />}
        <TextField label="Note" maxLength={2000} {...field("note")} />
      </SaveForm>
    </div>
  );
}

type Bound = { name: string; value: string; error: string | undefined; onChange: (value: string) => void };

function whatBars({ barred }: Barred): string {
  if (!barred) return "";
  const until = barred.until ? `honey clear from ${longDay(barred.until)}` : "not clear before it is out";
  return `${barred.option}, ${until}`;
}

/** What is not clear, and the way to take it on by name. */
function NotClear({ shut, by, why }: { shut: Barred[]; by: Bound; why: Bound }) {
  return (
    <div role="alert" className="space-y-3 border-l-4 border-act pl-3">
      <ul className="font-semibold">
        {shut.map((one) => (
          <li key={one.colony_id}>
            Not recorded, {one.label}: {one.held?.text ?? whatBars(one)}.
          </li>
        ))}
      </ul>
      <p>
        The label and the law say when honey is clear; a hold is set aside by an inspector. Only somebody named can take
        it on:
      </p>
      <TextField label="Who takes it on" maxLength={120} {...by} />
      <TextField label="Why" maxLength={400} {...why} />
    </div>
  );
}
