/** Where a colony lives: the boxes of its hive as they stand from a day on, and moving it elsewhere. */
import { amendHive, moveColony } from "@/client/commands/colonies";
import { useQuery } from "@tanstack/react-query";
import type { Problem, Schemas } from "@/client/types";
import { apiaryQuery, placesQuery } from "@/client/queries";
import { Boxes, type Box } from "@/features/colonies/boxes";
import { Checkbox } from "@/ui/checkbox";
import { Choice, ChoiceField } from "@/ui/choice";
import { DateField } from "@/ui/date-field";
import { SelectField, TextArea, TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave, type Save } from "@/ui/save-form";
import { Stepper } from "@/ui/stepper";
import { Override } from "@/ui/override";
import { useDone } from "./use-done";

type View = Schemas["ColonyView"];
const HIVE_TYPES = ["stacked boxes", "nucleus", "long hive", "two colonies side by side"];
const ONE_BOX: Box[] = [{ purpose: "brood", frame_format: "A_deep", frames: 10 }];

function boxesOf(hive: Schemas["HiveBox"][]): Box[] {
  return hive.flatMap((one) =>
    one.position === null
      ? []
      : [{ id: one.box_id, purpose: one.purpose, frame_format: one.frame_format, frames: one.frames } as Box],
  );
}

function HiveType({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  const kinds = [...new Set([...HIVE_TYPES, value])].map((one) => [one, one] as const);
  return <SelectField label="Kind of hive" name="hive_type" value={value} options={kinds} onChange={onChange} />;
}

function boxesFault(problem: Problem | null): string | undefined {
  return problem?.faults.find((fault) => fault.field.startsWith("boxes"))?.message;
}

/** A hive as its form needs it, from the colony's page or from a visit. */
export type StandingHive = {
  version: number;
  type: string;
  floor: Floor;
  from: "left" | "right";
  boxes: Box[];
  /** Labels of those who live in it. */
  labels: string[];
  dividedAfter: number | null;
  side: "left" | "right";
};

type Floor = "solid" | "mesh" | "mesh_with_board";
const FLOORS = [
  ["solid", "solid"],
  ["mesh", "mesh"],
  ["mesh_with_board", "mesh with board"],
] as const;
const SIDES = [
  ["left", "on the left"],
  ["right", "on the right"],
] as const;

const SIDES_OF_DIVIDER = [
  ["left", "left of it"],
  ["right", "right of it"],
] as const;

/** The hive of a colony as the colony's page knows it; a colony may have none yet. */
export function hiveOf(view: View): StandingHive {
  const hive = view.hive[0];
  return {
    version: hive?.version ?? 0,
    type: hive?.hive_type ?? "stacked boxes",
    floor: hive?.floor ?? "solid",
    from: hive?.numbered_from ?? "left",
    boxes: view.hive.length > 0 ? boxesOf(view.hive) : ONE_BOX,
    labels: hive?.labels ?? [],
    dividedAfter: hive?.divided_after ?? null,
    side: hive?.left_label === view.colony.label ? "left" : "right",
  };
}

/** The boxes, floor, numbering and divider of a colony's hive as they stand from a day on. */
export function HiveForm({
  colony,
  hive,
  today,
  onDone,
}: {
  colony: { id: string; label: string };
  hive: StandingHive;
  today: string;
  onDone: () => void;
}) {
  const done = useDone(onDone);
  const shared = hive.labels.length > 1;
  const [draft, set, kept] = useDraft({ ...hive, on: today, overrideWhy: "" }, `hive:${colony.id}:${hive.version}`);
  const { dividedAfter: after, side } = draft;
  const save = useSave({
    kept,
    act: () =>
      amendHive(colony.id, hive.version, {
        hive_type: draft.type,
        boxes: draft.boxes,
        on: draft.on,
        floor: draft.floor,
        numbered_from: draft.from,
        override_why: draft.overrideWhy,
        ...(shared ? { divider: after === null ? { after: null, side: null } : { after, side } } : {}),
      }),
    done,
  });
  const field = bindFields(draft, set, save);
  return (
    <SaveForm save={save} kept={kept} fields={["boxes", "on", "override_why"]} label="Record the hive">
      {shared && <p className="text-ink-2">Shared by {hive.labels.join(" and ")}: it changes for both.</p>}
      <HiveType value={draft.type} onChange={(type) => set({ type })} />
      <Boxes boxes={draft.boxes} onChange={(boxes) => set({ boxes })} error={boxesFault(save.problem)} />
      <p className="text-sm text-ink-2">
        The frames of a box that is taken off go into store; a box that stays keeps its frames.
      </p>
      <ChoiceField label="Floor" value={draft.floor} options={FLOORS} onChange={(floor) => set({ floor })} />
      <ChoiceField
        label="Frame 1 hangs"
        says="Frame 1 hangs, seen from behind"
        value={draft.from}
        options={SIDES}
        onChange={(from) => set({ from })}
      />
      {shared && (
        <Checkbox
          label="A divider parts them"
          checked={after !== null}
          onChange={(divided) => set({ dividedAfter: divided ? 5 : null })}
        />
      )}
      {shared && after !== null && (
        <>
          <Stepper
            label="Divider after slot"
            value={after}
            least={1}
            most={39}
            onChange={(slot) => set({ dividedAfter: slot })}
          />
          <ChoiceField
            label="Side of the divider"
            says={`${colony.label} lives`}
            value={side}
            options={SIDES_OF_DIVIDER}
            onChange={(lives) => set({ side: lives })}
          />
        </>
      )}
      <Override
        label="Supers are on all the same, because"
        rule="C04"
        problem={save.problem}
        value={draft.overrideWhy}
        onChange={(overrideWhy) => set({ overrideWhy })}
      />
      <Override problem={save.problem} value={draft.overrideWhy} onChange={(overrideWhy) => set({ overrideWhy })} />
      <DateField label="So since" hint="What stood there before keeps its days" max={today} {...field("on")} />
    </SaveForm>
  );
}

type Home = "along" | "own" | "shared";
const HOMES = [
  ["along", "its hive goes along"],
  ["own", "a new hive"],
  ["shared", "shares a hive"],
] as const;
const MOVE_FIELDS = ["apiary_id", "hive", "hive_id", "boxes", "label", "on", "override_why"];
type MoveDraft = {
  apiary: string;
  home: Home;
  hive: string;
  type: string;
  boxes: Box[];
  label: string;
  on: string;
  note: string;
  overrideWhy: string;
};

export function MoveForm({ view, onDone }: { view: View; onDone: () => void }) {
  const done = useDone(onDone);
  const { colony } = view;
  const places = useQuery(placesQuery());
  const [draft, set, kept] = useDraft<MoveDraft>(
    {
      apiary: "",
      home: "along",
      hive: "",
      type: "stacked boxes",
      boxes: ONE_BOX,
      label: colony.label,
      on: view.today,
      note: "",
      overrideWhy: "",
    },
    `move:${colony.id}:${colony.version}`,
  );
  const { home } = draft;
  const save = useSave({
    kept,
    act: () =>
      moveColony(colony.id, colony.version, {
        apiary_id: draft.apiary,
        hive: home,
        hive_id: home === "shared" && draft.hive ? draft.hive : null,
        hive_type: draft.type,
        boxes: home === "own" ? draft.boxes : [],
        label: draft.label,
        on: draft.on,
        note: draft.note,
        override_why: draft.overrideWhy,
      }),
    done,
  });
  const field = bindFields(draft, set, save);
  const apiaries = (places.data?.places ?? []).map((one) => {
    const whose = one.id === colony.apiary_id ? " (here, another hive)" : `, ${one.keeper}`;
    return [one.id, one.name + whose] as const;
  });
  return (
    <SaveForm
      save={save}
      kept={kept}
      fields={MOVE_FIELDS}
      label={`Move ${colony.label}`}
      disabled={draft.apiary === ""}>
      <SelectField label="To" options={[["", "choose an apiary"], ...apiaries]} {...field("apiary", "apiary_id")} />
      <div>
        <Choice label="How it is housed there" value={home} options={HOMES} onChange={(next) => set({ home: next })} />
        {save.at("hive") && (
          <p role="alert" className="mt-1 font-semibold text-act">
            {save.at("hive")}
          </p>
        )}
      </div>
      {home === "shared" && <SharedHive colony={colony} draft={draft} set={set} save={save} />}
      {home === "own" && (
        <>
          <HiveType value={draft.type} onChange={(type) => set({ type })} />
          <Boxes boxes={draft.boxes} onChange={(boxes) => set({ boxes })} error={boxesFault(save.problem)} />
        </>
      )}
      <div className="grid grid-cols-2 gap-4">
        <TextField label="Label there" maxLength={24} {...field("label")} />
        <DateField label="Day" max={view.today} {...field("on")} />
      </div>
      <TextArea label="Note" {...field("note")} />
      <Override problem={save.problem} value={draft.overrideWhy} onChange={(overrideWhy) => set({ overrideWhy })} />
    </SaveForm>
  );
}

type SharedProps = { colony: View["colony"]; draft: MoveDraft; set: (part: Partial<MoveDraft>) => void; save: Save };

/** Which hive of the other apiary is shared. */
function SharedHive({ colony, draft, set, save }: SharedProps) {
  const field = bindFields(draft, set, save);
  const there = useQuery({ ...apiaryQuery(draft.apiary), enabled: draft.apiary !== "" });
  const each = new Map((there.data?.hives ?? []).map((one) => [one.id, one]));
  const hives = [...each.values()].filter((one) => one.id !== colony.hive_id);
  return (
    <SelectField
      label="Shares with"
      options={[
        ["", "choose a hive"],
        ...hives.map(
          (one) => [one.id, `${(one.labels ?? []).join(", ") || "an empty hive"}, ${one.hive_type}`] as const,
        ),
      ]}
      {...field("hive", "hive_id")}
    />
  );
}
