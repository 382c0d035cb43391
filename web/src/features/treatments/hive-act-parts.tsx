/** What an act at the hive asks for besides its day: combs and where they go, a box, a queen, feed. */
import { useQuery } from "@tanstack/react-query";
import { frameFormatsQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { useSession } from "@/features/session/use-session";
import { ChoiceField } from "@/ui/choice";
import { NumberField, SelectField } from "@/ui/fields";
import type { Save } from "@/ui/save-form";
import { litreUnit, weightUnit } from "@/ui/units";
import { CombGrid, type At } from "./comb-grid";

type Work = Schemas["HiveWorkNow"];
type Input = Schemas["HiveActInput"];
type Given<Name extends keyof Input> = NonNullable<Input[Name]>;
export type Act = Work["acts"][number];

export type Draft = {
  done_on: string;
  frame_ids: string[];
  fate: Given<"fate"> | "hatch" | "";
  hatch_with: string;
  fill: Given<"fill"> | "none";
  at: At | null;
  frame_format: string;
  box_frames: string;
  year: string;
  mark_seen: Given<"mark_seen"> | "";
  accepted: "eggs" | "seen" | "no" | "";
  feed: Given<"feed"> | "";
  feed_amount: string;
  note: string;
  authorised_by: string;
  reason: string;
};

type Parts = { draft: Draft; set: (part: Partial<Draft>) => void; save: Save; work: Work };

const FATES = [
  ["melted", "melted"],
  ["burned", "burned"],
  ["freezer", "frozen"],
  ["store", "into store"],
] as const;
const HATCH = [...FATES, ["hatch", "on to hatch elsewhere"]] as const;
const FILLS = [
  ["foundation", "foundation"],
  ["comb", "clean comb"],
  ["none", "nothing yet"],
] as const;
const FEEDS = [
  ["syrup_1_1", "syrup 1:1"],
  ["syrup_2_1", "syrup 2:1"],
  ["fondant", "fondant"],
] as const;
const MARKS = [
  ["", "none"],
  ["white", "white"],
  ["yellow", "yellow"],
  ["red", "red"],
  ["green", "green"],
  ["blue", "blue"],
] as const;
/** What the act asks for besides its day. */
export function Asked({ act, parts }: { act: Act; parts: Parts }) {
  switch (act.writes) {
    case "comb_in":
      return <WhichSlot {...parts} />;
    case "comb_out":
      return (
        <>
          <Fate {...parts} says="The drone comb was" />
          <Fill {...parts} says="In its place" none />
        </>
      );
    case "combs_out":
      return <CombsOut {...parts} />;
    case "boxes_off":
      return <OldCombs {...parts} />;
    case "box_under":
    case "box_above":
      return <NewBox {...parts} />;
    case "queen_in":
      return <NewQueen {...parts} />;
    case "queen_accepted":
      return <Accepted {...parts} />;
    case "feed":
      return <Fed {...parts} />;
    default:
      return null;
  }
}

/** Where combs went; those with brood (`hatch`) may go on another colony, where it hatches. */
function Fate({ work, draft, set, save, says = "They were", hatch }: Parts & { says?: string; hatch?: boolean }) {
  return (
    <>
      <ChoiceField
        label={says}
        value={draft.fate}
        columns={2}
        options={hatch && work.others.length > 0 ? HATCH : FATES}
        error={draft.fate === "hatch" ? undefined : save.at("fate")}
        onChange={(fate) => set({ fate })}
      />
      {draft.fate === "hatch" && (
        <>
          <SelectField
            label="With which colony"
            name="hatch_with"
            value={draft.hatch_with}
            options={[["", "choose"], ...work.others.map((one) => [one.id, one.label] as const)]}
            error={save.at("hatch_with") ?? save.at("fate")}
            onChange={(hatch_with) => set({ hatch_with })}
          />
          <p className="text-ink-2">On its nest, in free slots or a box of their own. Their mites come along.</p>
        </>
      )}
    </>
  );
}

function Fill({ draft, set, says, none }: Parts & { says: string; none: boolean }) {
  return (
    <ChoiceField
      label={says}
      value={draft.fill}
      options={none ? FILLS : FILLS.slice(0, 2)}
      onChange={(fill) => set({ fill })}
    />
  );
}

function WhichSlot({ work, draft, set, save }: Parts) {
  const nest = work.boxes.filter((box) => box.purpose === "brood");
  if (nest.length === 0) return null;
  return (
    <CombGrid
      work={work}
      boxes={nest}
      label="Which frame makes room? What hangs there goes into store"
      empty
      isChosen={(at) => draft.at?.box === at.box && draft.at.slot === at.slot}
      onTap={(at) => set({ at })}
      error={save.at("slot")}
    />
  );
}

/** Ticks combs of some boxes. */
function Ticked({ work, boxes, draft, set, save, label }: Parts & { boxes: Work["boxes"]; label: string }) {
  return (
    <CombGrid
      work={work}
      boxes={boxes}
      label={label}
      empty={false}
      isChosen={(_, comb) => comb !== undefined && draft.frame_ids.includes(comb.frame_id)}
      onTap={(_, comb) => {
        if (!comb) return;
        const others = draft.frame_ids.filter((one) => one !== comb.frame_id);
        set({ frame_ids: others.length < draft.frame_ids.length ? others : [...others, comb.frame_id] });
      }}
      error={save.at("frame_ids")}
    />
  );
}

function CombsOut(parts: Parts) {
  const boxes = parts.work.boxes.filter((box) => (parts.work.own_slots[box.id] ?? []).length > 0);
  if (boxes.length === 0) return null;
  return (
    <>
      <Ticked {...parts} boxes={boxes} label="Combs that came out" />
      <Fate {...parts} hatch />
      <Fill {...parts} says="In their place" none />
    </>
  );
}

/** The combs of the boxes that go: those with foundation hang in the new one. */
function OldCombs(parts: Parts) {
  const { work } = parts;
  const old = work.boxes.filter((box) => box.purpose === "brood" && work.old_box_ids.includes(box.id));
  if (old.length === 0) return null;
  return (
    <>
      <Ticked {...parts} boxes={old} label="Combs that do not go into store" />
      {parts.draft.frame_ids.length > 0 && <Fate {...parts} hatch />}
    </>
  );
}

function NewBox(parts: Parts) {
  const { draft, set, save } = parts;
  const formats = useQuery(frameFormatsQuery);
  const options = formats.data?.map((one) => [one.id, `${one.name}, ${one.width_mm} x ${one.height_mm} mm`] as const);
  return (
    <>
      <SelectField
        label="Frames of the new box"
        name="frame_format"
        value={draft.frame_format}
        options={[["", "choose"], ...(options ?? [])]}
        error={save.at("frame_format")}
        onChange={(frame_format) => set({ frame_format })}
      />
      <NumberField
        label="How many"
        name="box_frames"
        unit="frames"
        value={draft.box_frames}
        error={save.at("box_frames")}
        onChange={(box_frames) => set({ box_frames })}
      />
      <Fill {...parts} says="Hung with" none={false} />
    </>
  );
}

function NewQueen({ draft, set, save }: Parts) {
  return (
    <>
      <NumberField
        label="Her year"
        name="year"
        unit="mated"
        value={draft.year}
        error={save.at("year")}
        onChange={(year) => set({ year })}
      />
      <ChoiceField
        label="Her mark"
        value={draft.mark_seen}
        columns={3}
        options={MARKS}
        onChange={(mark_seen) => set({ mark_seen })}
      />
    </>
  );
}

function Accepted({ draft, set, save }: Parts) {
  return (
    <ChoiceField
      label="Accepted?"
      value={draft.accepted}
      options={[
        ["eggs", "yes, eggs seen"],
        ["seen", "yes, queen seen"],
        ["no", "no"],
      ]}
      error={save.at("accepted")}
      onChange={(accepted) => set({ accepted })}
    />
  );
}

function Fed({ draft, set, save }: Parts) {
  const { person } = useSession();
  return (
    <>
      <ChoiceField
        label="What"
        value={draft.feed}
        options={FEEDS}
        error={save.at("feed")}
        onChange={(feed) => set({ feed })}
      />
      <NumberField
        label="How much"
        name="feed_amount"
        unit={draft.feed === "fondant" ? weightUnit(person) : litreUnit(person)}
        value={draft.feed_amount}
        error={save.at("feed_amount")}
        onChange={(feed_amount) => set({ feed_amount })}
      />
    </>
  );
}
