/**
 * What is recorded of a colony besides counts and visits: her queen, her hive, a move, a new label, a merger, its end.
 */
import { addQueen, amendColony, amendQueen, mergeColony } from "@/client/commands/colonies";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Problem, type Schemas } from "@/client/types";
import { apiaryQuery } from "@/client/queries";
import { Choice } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { Button } from "@/ui/button";
import { Field, FormError, described } from "@/ui/field";
import { Override } from "@/ui/override";
import { EarlierVisit } from "@/features/visits/add-past-visit";
import { HiveForm, MoveForm, hiveOf } from "./hive-forms";
import { HoldForm } from "./hold-form";
import { useDone } from "./use-done";

export type ColonyForm = "queen" | "state" | "hive" | "move" | "hold" | "earlier";
type View = Schemas["ColonyView"];

export function ColonyForms({ form, onClose, view }: { form: ColonyForm | null; onClose: () => void; view: View }) {
  return (
    <>
      <Dialog open={form === "queen"} onClose={onClose} title={`Queen of ${view.colony.label}`}>
        <QueenForm view={view} onDone={onClose} />
      </Dialog>
      <Dialog open={form === "state"} onClose={onClose} title={`${view.colony.label}: renumber, merge or end`}>
        <StateForm view={view} onDone={onClose} />
      </Dialog>
      <Dialog open={form === "hive"} onClose={onClose} title={`Hive of ${view.colony.label}`}>
        <HiveForm colony={view.colony} hive={hiveOf(view)} today={view.today} onDone={onClose} />
      </Dialog>
      <Dialog open={form === "earlier"} onClose={onClose} title={`An earlier visit to ${view.colony.label}`}>
        <EarlierVisit colonyId={view.colony.id} today={view.today} />
      </Dialog>
      <Dialog open={form === "hold"} onClose={onClose} title={`Hold of ${view.colony.label}`}>
        <HoldForm view={view} onDone={onClose} />
      </Dialog>
      <Dialog open={form === "move"} onClose={onClose} title={`Move ${view.colony.label}`}>
        <MoveForm view={view} onDone={onClose} />
      </Dialog>
    </>
  );
}

const COLOURS = ["white", "yellow", "red", "green", "blue"] as const;
const QUEEN_STATES = [
  ["mated", "laying"],
  ["virgin", "virgin"],
  ["caged", "caged"],
  ["unknown", "not known"],
] as const;

function QueenForm({ view, onDone }: { view: View; onDone: () => void }) {
  const done = useDone(onDone);
  const present = view.queens.find((one) => one.queen.until === null)?.queen;
  const [isNew, setNew] = useState<"same" | "new">(present ? "same" : "new");
  const [year, setYear] = useState(String(present?.year ?? ""));
  const [mark, setMark] = useState<string>(present?.mark_seen ?? "");
  const [status, setStatus] = useState<"mated" | "virgin" | "caged" | "unknown">(
    (present?.status as "mated" | undefined) ?? "mated",
  );
  const [since, setSince] = useState(view.today);
  const [laying, setLaying] = useState(present?.laying_since ?? "");
  const [id] = useState(() => crypto.randomUUID());
  const [overrideWhy, setOverrideWhy] = useState("");
  const record = (from: string) => ({
    year: year ? Number(year) : null,
    mark_seen: (mark || null) as (typeof COLOURS)[number] | null,
    status,
    since: from,
    laying_since: laying || null,
    release_on: present?.release_on ?? null,
  });
  const save = useMutation({
    mutationFn: () =>
      isNew === "new"
        ? addQueen(view.colony.id, { id, ...record(since), override_why: overrideWhy })
        : amendQueen(view.colony.id, present?.version ?? 0, record(present?.since ?? since)),
    onSuccess: done,
  });
  const problem = save.error instanceof Problem ? save.error : null;
  return (
    <form
      noValidate
      className="space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}>
      {present && (
        <Choice
          label="Which queen"
          value={isNew}
          options={[
            ["same", "the present queen"],
            ["new", "a new queen"],
          ]}
          onChange={setNew}
        />
      )}
      <div className="grid grid-cols-2 gap-4">
        <Field label="Year" name="year" error={problem?.at("year")}>
          <input
            inputMode="numeric"
            className="input"
            value={year}
            onChange={(event) => setYear(event.target.value.replace(/\D/g, "").slice(0, 4))}
            {...described("year", problem?.at("year"))}
          />
        </Field>
        <Field label="Mark seen" name="mark_seen">
          <select
            className="input"
            value={mark}
            onChange={(event) => setMark(event.target.value)}
            {...described("mark_seen")}>
            <option value="">no mark seen</option>
            {COLOURS.map((colour) => (
              <option key={colour} value={colour}>
                {colour}
              </option>
            ))}
          </select>
        </Field>
      </div>
      <Choice label="State of the queen" value={status} options={QUEEN_STATES} onChange={setStatus} />
      <div className="grid grid-cols-2 gap-4">
        {isNew === "new" && (
          <Field label="Queen since" name="since" error={problem?.at("since")}>
            <input
              type="date"
              className="input"
              max={view.today}
              value={since}
              onChange={(event) => setSince(event.target.value)}
              {...described("since", problem?.at("since"))}
            />
          </Field>
        )}
        <Field label="Laying since" name="laying_since" error={problem?.at("laying_since")}>
          <input
            type="date"
            className="input"
            max={view.today}
            value={laying}
            onChange={(event) => setLaying(event.target.value)}
            {...described("laying_since", problem?.at("laying_since"))}
          />
        </Field>
      </div>
      <Override problem={problem} value={overrideWhy} onChange={setOverrideWhy} />
      <FormError error={save.error} fields={["year", "since", "laying_since", "override_why"]} />
      <Button type="submit" variant="main" className="w-full" disabled={save.isPending}>
        Record the queen
      </Button>
    </form>
  );
}

const STATES = [
  ["alive", "alive"],
  ["queenless", "queenless"],
  ["dead", "dead"],
  ["gone", "gone"],
  ["merge", "merged"],
] as const;
type State = (typeof STATES)[number][0];
type Queen = NonNullable<Schemas["MergeInput"]["queen"]>;
type Combs = NonNullable<Schemas["MergeInput"]["combs"]>;
const QUEENS: readonly (readonly [Queen, string])[] = [
  ["of_other", "of the colony that receives it"],
  ["of_this", "of this colony"],
  ["none", "neither"],
  ["not_known", "not known"],
];
const COMBS: readonly (readonly [Combs, string])[] = [
  ["onto_other", "its boxes go onto the other hive"],
  ["store", "into store"],
];

function StateForm({ view, onDone }: { view: View; onDone: () => void }) {
  const done = useDone(onDone);
  const { colony } = view;
  const neighbours = useQuery(apiaryQuery(colony.apiary_id));
  const [label, setLabel] = useState(colony.label);
  const [state, setState] = useState<State>(colony.state as State);
  const [day, setDay] = useState(view.today);
  const [into, setInto] = useState("");
  const [queen, setQueen] = useState<"" | Queen>("");
  const [combs, setCombs] = useState<"" | Combs>("");
  const [overrideWhy, setOverrideWhy] = useState("");
  const [note, setNote] = useState("");
  const save = useMutation<unknown>({
    mutationFn: () => {
      if (state === "merge") {
        return mergeColony(colony.id, colony.version, {
          into,
          on: day,
          queen: queen || null,
          combs: combs || null,
          note,
          override_why: overrideWhy,
        });
      }
      return amendColony(colony.id, colony.version, { label, state, state_since: day, note });
    },
    onSuccess: done,
  });
  const problem = save.error instanceof Problem ? save.error : null;
  const others = (neighbours.data?.colonies ?? []).filter((one) => one.id !== colony.id && one.is_living);
  return (
    <form
      noValidate
      className="space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}>
      <Field
        label="Label"
        name="label"
        hint="A new label; the history stays with the colony"
        error={problem?.at("label")}>
        <input
          className="input"
          maxLength={24}
          value={label}
          disabled={state === "merge"}
          onChange={(event) => setLabel(event.target.value)}
          {...described("label", problem?.at("label"), true)}
        />
      </Field>
      <Choice label="State of the colony" value={state} columns={3} options={STATES} onChange={setState} />
      {state === "merge" && (
        <Field label="Merged into" name="into" error={problem?.at("into")}>
          <select
            className="input"
            value={into}
            onChange={(event) => setInto(event.target.value)}
            {...described("into", problem?.at("into"))}>
            <option value="">choose a colony</option>
            {others.map((one) => (
              <option key={one.id} value={one.id}>
                {one.label}
              </option>
            ))}
          </select>
        </Field>
      )}
      {state === "merge" && (
        <>
          <div>
            <p aria-hidden="true" className="mb-1 font-semibold">
              Whose queen stays
            </p>
            <Choice label="Whose queen stays" value={queen} columns={2} options={QUEENS} onChange={setQueen} />
            {problem?.at("queen") && (
              <p role="alert" className="mt-1 font-semibold text-act">
                {problem.at("queen")}
              </p>
            )}
          </div>
          <div>
            <p aria-hidden="true" className="mb-1 font-semibold">
              Its combs
            </p>
            <Choice label="Its combs" value={combs} options={COMBS} onChange={setCombs} />
            {problem?.at("combs") && (
              <p role="alert" className="mt-1 font-semibold text-act">
                {problem.at("combs")}
              </p>
            )}
          </div>
          <Override problem={problem} value={overrideWhy} onChange={setOverrideWhy} />
        </>
      )}
      {(state === "dead" || state === "gone" || state === "merge") && (
        <p className="font-semibold">This ends the record of {colony.label} on the day below. It stays readable.</p>
      )}
      <Field label="Day" name="state_since" error={problem?.at("state_since") ?? problem?.at("on")}>
        <input
          type="date"
          className="input"
          max={view.today}
          value={day}
          onChange={(event) => setDay(event.target.value)}
          {...described("state_since", problem?.at("state_since"))}
        />
      </Field>
      <Field label="Note" name="note">
        <textarea
          className="input"
          rows={2}
          maxLength={2000}
          value={note}
          onChange={(event) => setNote(event.target.value)}
          {...described("note")}
        />
      </Field>
      <FormError error={save.error} fields={["label", "state_since", "into", "on", "queen", "combs", "override_why"]} />
      <Button type="submit" variant="main" className="w-full" disabled={save.isPending || (state === "merge" && !into)}>
        {state === "merge"
          ? "Merge the colony"
          : state === "dead" || state === "gone"
            ? `Record ${colony.label} as ${state}`
            : "Record the change"}
      </Button>
    </form>
  );
}
