/**
 * What is recorded of a colony besides counts and visits: her queen, her hive, a move, a new label, a merger, its end.
 */
import { addQueen, amendColony, amendQueen, mergeColony } from "@/client/commands/colonies";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { apiaryQuery } from "@/client/queries";
import { Choice, ChoiceField } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { DateField } from "@/ui/date-field";
import { SelectField, TextArea, TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave, type Save } from "@/ui/save-form";
import { Override } from "@/ui/override";
import { FoundDeadForm } from "@/features/deadouts/found-dead";
import { EarlierVisit } from "@/features/visits/add-past-visit";
import { BroodForm } from "./brood-form";
import { HiveForm, MoveForm, hiveOf } from "./hive-forms";
import { HoldForm } from "./hold-form";
import { useDone } from "./use-done";

export type ColonyForm = "queen" | "brood" | "state" | "hive" | "move" | "hold" | "earlier" | "dead";
type View = Schemas["ColonyView"];

export function ColonyForms({ form, onClose, view }: { form: ColonyForm | null; onClose: () => void; view: View }) {
  return (
    <>
      <Dialog open={form === "queen"} onClose={onClose} title={`Queen of ${view.colony.label}`}>
        <QueenForm view={view} onDone={onClose} />
      </Dialog>
      <Dialog open={form === "brood"} onClose={onClose} title={`${view.colony.label}: the laying stopped`}>
        <BroodForm view={view} onDone={onClose} />
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
      <Dialog open={form === "dead"} onClose={onClose} title={`${view.colony.label} is dead`}>
        <FoundDeadForm colony={view.colony} today={view.today} />
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

type QueenStatus = Schemas["QueenInput"]["status"];
type Mark = (typeof COLOURS)[number];

function QueenForm({ view, onDone }: { view: View; onDone: () => void }) {
  const done = useDone(onDone);
  const present = view.queens.find((one) => one.queen.until === null)?.queen;
  const [id] = useState(() => crypto.randomUUID());
  const [draft, set, kept] = useDraft<QueenDraft>(
    {
      which: present ? "same" : "new",
      year: String(present?.year ?? ""),
      mark: present?.mark_seen ?? "",
      status: present?.status ?? "mated",
      since: view.today,
      laying: present?.laying_since ?? "",
      overrideWhy: "",
    },
    `queen:${view.colony.id}:${present?.version ?? 0}`,
  );
  const isNew = draft.which === "new";
  const record = (since: string) => ({
    year: draft.year ? Number(draft.year) : null,
    mark_seen: (draft.mark || null) as Mark | null,
    status: draft.status,
    since,
    laying_since: draft.laying || null,
    release_on: present?.release_on ?? null,
  });
  const save = useSave({
    kept,
    act: () =>
      isNew
        ? addQueen(view.colony.id, { id, ...record(draft.since), override_why: draft.overrideWhy })
        : amendQueen(view.colony.id, present?.version ?? 0, record(present?.since ?? draft.since)),
    done,
  });
  const field = bindFields(draft, set, save);
  return (
    <SaveForm
      save={save}
      kept={kept}
      fields={["year", "since", "laying_since", "override_why"]}
      label="Record the queen">
      {present && (
        <Choice
          label="Which queen"
          value={draft.which}
          options={[
            ["same", "the present queen"],
            ["new", "a new queen"],
          ]}
          onChange={(which) => set({ which })}
        />
      )}
      <div className="grid grid-cols-2 gap-4">
        <TextField
          label="Year"
          name="year"
          error={save.at("year")}
          inputMode="numeric"
          value={draft.year}
          onChange={(year) => set({ year: year.replace(/\D/g, "").slice(0, 4) })}
        />
        <SelectField
          label="Mark seen"
          options={[["", "no mark seen"], ...COLOURS.map((colour) => [colour, colour] as const)]}
          {...field("mark")}
        />
      </div>
      <Choice
        label="State of the queen"
        value={draft.status}
        options={QUEEN_STATES}
        onChange={(status) => set({ status })}
      />
      <div className="grid grid-cols-2 gap-4">
        {isNew && <DateField label="Queen since" max={view.today} {...field("since")} />}
        <DateField label="Laying since" max={view.today} {...field("laying", "laying_since")} />
      </div>
      <Override problem={save.problem} value={draft.overrideWhy} onChange={(overrideWhy) => set({ overrideWhy })} />
    </SaveForm>
  );
}

type QueenDraft = {
  which: "same" | "new";
  year: string;
  mark: string;
  status: QueenStatus;
  since: string;
  laying: string;
  overrideWhy: string;
};

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

type StateDraft = {
  label: string;
  state: State;
  day: string;
  into: string;
  queen: "" | Queen;
  combs: "" | Combs;
  overrideWhy: string;
  note: string;
};
const STATE_FIELDS = ["label", "state_since", "into", "on", "queen", "combs", "override_why"];

function StateForm({ view, onDone }: { view: View; onDone: () => void }) {
  const done = useDone(onDone);
  const { colony } = view;
  const [draft, set, kept] = useDraft<StateDraft>(
    {
      label: colony.label,
      state: colony.state as State,
      day: view.today,
      into: "",
      queen: "",
      combs: "",
      overrideWhy: "",
      note: "",
    },
    `state:${colony.id}:${colony.version}`,
  );
  const { label, state, day, into, queen, combs, note } = draft;
  const merges = state === "merge";
  const ends = state === "dead" || state === "gone";
  const save = useSave<unknown>({
    kept,
    act: () =>
      merges
        ? mergeColony(colony.id, colony.version, {
            into,
            on: day,
            queen: queen || null,
            combs: combs || null,
            note,
            override_why: draft.overrideWhy,
          })
        : amendColony(colony.id, colony.version, { label, state, state_since: day, note }),
    done,
  });
  return (
    <SaveForm
      save={save}
      kept={kept}
      fields={STATE_FIELDS}
      label={merges ? "Merge the colony" : ends ? `Record ${colony.label} as ${state}` : "Record the change"}
      disabled={merges && !into}>
      <TextField
        label="Label"
        name="label"
        hint="A new label; the history stays with the colony"
        error={save.at("label")}
        maxLength={24}
        disabled={merges}
        value={label}
        onChange={(changed) => set({ label: changed })}
      />
      <Choice
        label="State of the colony"
        value={state}
        columns={3}
        options={STATES}
        onChange={(changed) => set({ state: changed })}
      />
      {merges && <MergePart colony={colony} draft={draft} set={set} save={save} />}
      {(ends || merges) && (
        <p className="font-semibold">This ends the record of {colony.label} on the day below. It stays readable.</p>
      )}
      <DateField
        label="Day"
        name="state_since"
        error={save.at("state_since") ?? save.at("on")}
        max={view.today}
        value={day}
        onChange={(changed) => set({ day: changed })}
      />
      <TextArea label="Note" name="note" value={note} onChange={(changed) => set({ note: changed })} />
    </SaveForm>
  );
}

type MergeProps = { colony: View["colony"]; draft: StateDraft; set: (part: Partial<StateDraft>) => void; save: Save };

/** Into whom a colony goes, whose queen stays, and what becomes of its combs. */
function MergePart({ colony, draft, set, save }: MergeProps) {
  const field = bindFields(draft, set, save);
  const neighbours = useQuery(apiaryQuery(colony.apiary_id));
  const others = (neighbours.data?.colonies ?? []).filter((one) => one.id !== colony.id && one.is_living);
  return (
    <>
      <SelectField
        label="Merged into"
        options={[["", "choose a colony"], ...others.map((one) => [one.id, one.label] as const)]}
        {...field("into")}
      />
      <ChoiceField
        label="Whose queen stays"
        error={save.at("queen")}
        value={draft.queen}
        columns={2}
        options={QUEENS}
        onChange={(queen) => set({ queen })}
      />
      <ChoiceField
        label="Its combs"
        error={save.at("combs")}
        value={draft.combs}
        options={COMBS}
        onChange={(combs) => set({ combs })}
      />
      <Override problem={save.problem} value={draft.overrideWhy} onChange={(overrideWhy) => set({ overrideWhy })} />
    </>
  );
}
