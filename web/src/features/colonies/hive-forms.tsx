/** Where a colony lives: the boxes of its hive as they stand from a day on, and moving it elsewhere. */
import { amendHive, moveColony } from "@/client/commands/colonies";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { Problem, type Schemas } from "@/client/types";
import { apiaryQuery, apiariesQuery } from "@/client/queries";
import { Boxes, type Box } from "@/features/colonies/boxes";
import { Choice } from "@/ui/choice";
import { Button } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";
import { Field, FormError, described } from "@/ui/field";
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
  return (
    <Field label="Kind of hive" name="hive_type">
      <select
        className="input"
        value={value}
        onChange={(event) => onChange(event.target.value)}
        {...described("hive_type")}>
        {[...new Set([...HIVE_TYPES, value])].map((one) => (
          <option key={one} value={one}>
            {one}
          </option>
        ))}
      </select>
    </Field>
  );
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
  const [type, setType] = useState(hive.type);
  const [boxes, setBoxes] = useState(hive.boxes);
  const [floor, setFloor] = useState(hive.floor);
  const [from, setFrom] = useState(hive.from);
  const shared = hive.labels.length > 1;
  const [after, setAfter] = useState(hive.dividedAfter);
  const [side, setSide] = useState(hive.side);
  const [day, setDay] = useState(today);
  const save = useMutation({
    mutationFn: () =>
      amendHive(colony.id, hive.version, {
        hive_type: type,
        boxes,
        on: day,
        floor,
        numbered_from: from,
        ...(shared ? { divider: after === null ? { after: null, side: null } : { after, side } } : {}),
      }),
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
      {shared && <p className="text-ink-2">Shared by {hive.labels.join(" and ")}: it changes for both.</p>}
      <HiveType value={type} onChange={setType} />
      <Boxes boxes={boxes} onChange={setBoxes} error={boxesFault(problem)} />
      <p className="text-sm text-ink-2">
        The frames of a box that is taken off go into store; a box that stays keeps its frames.
      </p>
      <Labelled label="Floor">
        <Choice label="Floor" value={floor} options={FLOORS} onChange={setFloor} />
      </Labelled>
      <Labelled label="Frame 1 hangs, seen from behind">
        <Choice label="Frame 1 hangs" value={from} options={SIDES} onChange={setFrom} />
      </Labelled>
      {shared && (
        <>
          <Checkbox
            label="A divider parts them"
            checked={after !== null}
            onChange={(divided) => setAfter(divided ? 5 : null)}
          />
          {after !== null && (
            <Stepper label="Divider after slot" value={after} least={1} most={39} onChange={setAfter} />
          )}
          {after !== null && (
            <Labelled label={`${colony.label} lives`}>
              <Choice
                label="Side of the divider"
                value={side}
                options={[
                  ["left", "left of it"],
                  ["right", "right of it"],
                ]}
                onChange={setSide}
              />
            </Labelled>
          )}
        </>
      )}
      <Field label="So since" name="on" hint="What stood there before keeps its days" error={problem?.at("on")}>
        <input
          type="date"
          className="input"
          max={today}
          value={day}
          onChange={(event) => setDay(event.target.value)}
          {...described("on", problem?.at("on"), true)}
        />
      </Field>
      <FormError error={save.error} fields={["boxes", "on"]} />
      <Button type="submit" variant="main" className="w-full" disabled={save.isPending}>
        Record the hive
      </Button>
    </form>
  );
}

/** A choice under its name, which the choice itself speaks. */
function Labelled({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div>
      <p className="mb-1 font-semibold" aria-hidden="true">
        {label}
      </p>
      {children}
    </div>
  );
}

type Home = "along" | "own" | "shared";

export function MoveForm({ view, onDone }: { view: View; onDone: () => void }) {
  const done = useDone(onDone);
  const { colony } = view;
  const places = useQuery(apiariesQuery);
  const [apiary, setApiary] = useState("");
  const [home, setHome] = useState<Home>("along");
  const [hive, setHive] = useState("");
  const [type, setType] = useState("stacked boxes");
  const [boxes, setBoxes] = useState<Box[]>(ONE_BOX);
  const [label, setLabel] = useState(colony.label);
  const [day, setDay] = useState(view.today);
  const [note, setNote] = useState("");
  const [overrideWhy, setOverrideWhy] = useState("");
  const there = useQuery({ ...apiaryQuery(apiary), enabled: home === "shared" && apiary !== "" });
  const hives = [
    ...new Map(
      (there.data?.hives ?? []).filter((one) => one.id !== colony.hive_id).map((one) => [one.id, one]),
    ).values(),
  ];
  const save = useMutation({
    mutationFn: () =>
      moveColony(colony.id, colony.version, {
        apiary_id: apiary,
        hive: home,
        hive_id: home === "shared" && hive ? hive : null,
        hive_type: type,
        boxes: home === "own" ? boxes : [],
        label,
        on: day,
        note,
        override_why: overrideWhy,
      }),
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
      <Field label="To" name="apiary_id" error={problem?.at("apiary_id")}>
        <select
          className="input"
          value={apiary}
          onChange={(event) => setApiary(event.target.value)}
          {...described("apiary_id", problem?.at("apiary_id"))}>
          <option value="">choose an apiary</option>
          {(places.data?.apiaries ?? []).map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
              {one.id === colony.apiary_id ? " (here, another hive)" : `, ${one.keeper}`}
            </option>
          ))}
        </select>
      </Field>
      <div>
        <Choice
          label="How it is housed there"
          value={home}
          options={[
            ["along", "its hive goes along"],
            ["own", "a new hive"],
            ["shared", "shares a hive"],
          ]}
          onChange={setHome}
        />
        {problem?.at("hive") && (
          <p role="alert" className="mt-1 font-semibold text-act">
            {problem.at("hive")}
          </p>
        )}
      </div>
      {home === "shared" && (
        <Field label="Shares with" name="hive_id" error={problem?.at("hive_id")}>
          <select
            className="input"
            value={hive}
            onChange={(event) => setHive(event.target.value)}
            {...described("hive_id", problem?.at("hive_id"))}>
            <option value="">choose a hive</option>
            {hives.map((one) => (
              <option key={one.id} value={one.id}>
                {(one.labels ?? []).join(", ") || "an empty hive"}, {one.hive_type}
              </option>
            ))}
          </select>
        </Field>
      )}
      {home === "own" && (
        <>
          <HiveType value={type} onChange={setType} />
          <Boxes boxes={boxes} onChange={setBoxes} error={boxesFault(problem)} />
        </>
      )}
      <div className="grid grid-cols-2 gap-4">
        <Field label="Label there" name="label" error={problem?.at("label")}>
          <input
            className="input"
            maxLength={24}
            value={label}
            onChange={(event) => setLabel(event.target.value)}
            {...described("label", problem?.at("label"))}
          />
        </Field>
        <Field label="Day" name="on" error={problem?.at("on")}>
          <input
            type="date"
            className="input"
            max={view.today}
            value={day}
            onChange={(event) => setDay(event.target.value)}
            {...described("on", problem?.at("on"))}
          />
        </Field>
      </div>
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
      <Override problem={problem} value={overrideWhy} onChange={setOverrideWhy} />
      <FormError error={save.error} fields={["apiary_id", "hive", "hive_id", "boxes", "label", "on", "override_why"]} />
      <Button type="submit" variant="main" className="w-full" disabled={save.isPending || apiary === ""}>
        Move {colony.label}
      </Button>
    </form>
  );
}
