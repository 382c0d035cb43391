/** Where a colony lives: the boxes of its hive as they stand from a day on, and moving it elsewhere. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Problem, api, ask, ifMatch, type Schemas } from "@/client/api";
import { apiaryQuery, placesQuery } from "@/client/queries";
import { Boxes, type Box } from "@/ui/boxes";
import { Choice } from "@/ui/choice";
import { Button, Field, FormTrouble, described } from "@/ui/parts";
import { useDone } from "./use-done";

type View = Schemas["ColonyView"];
const HIVE_TYPES = ["stacked boxes", "nucleus", "long hive", "two colonies side by side"];
const ONE_BOX: Box[] = [{ purpose: "brood", frame_format: "A_deep", frames: 10 }];

export function boxesOf(hive: Schemas["HiveBox"][]): Box[] {
  return hive.flatMap((one) => (one.position === null ? [] : [{ id: one.box_id, purpose: one.purpose, frame_format: one.frame_format, frames: one.frames } as Box]));
}

function HiveType({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  return (
    <Field label="Kind of hive" name="hive_type">
      <select className="input" value={value} onChange={(event) => onChange(event.target.value)} {...described("hive_type")}>
        {[...new Set([...HIVE_TYPES, value])].map((one) => <option key={one} value={one}>{one}</option>)}
      </select>
    </Field>
  );
}

function boxesFault(problem: Problem | null): string | undefined {
  return problem?.faults.find((fault) => fault.field.startsWith("boxes"))?.message;
}

export function HiveForm({ view, onDone }: { view: View; onDone: () => void }) {
  const done = useDone(onDone);
  const hive = view.hive[0];
  const [type, setType] = useState(hive?.hive_type ?? "stacked boxes");
  const [boxes, setBoxes] = useState<Box[]>(view.hive.length > 0 ? boxesOf(view.hive) : ONE_BOX);
  const [day, setDay] = useState(view.today);
  const save = useMutation({
    mutationFn: () =>
      ask(api.PUT("/api/v1/colonies/{colony_id}/hive", { params: { path: { colony_id: view.colony.id }, header: ifMatch(hive?.version ?? 0) }, body: { hive_type: type, boxes, on: day } })),
    onSuccess: done,
  });
  const problem = save.error instanceof Problem ? save.error : null;
  return (
    <form noValidate className="space-y-4" onSubmit={(event) => { event.preventDefault(); save.mutate(); }}>
      {(hive?.labels ?? []).length > 1 && <p className="text-ink-2">Shared by {(hive?.labels ?? []).join(" and ")}: it changes for both.</p>}
      <HiveType value={type} onChange={setType} />
      <Boxes boxes={boxes} onChange={setBoxes} error={boxesFault(problem)} />
      <Field label="So since" name="on" hint="What stood there before keeps its days" error={problem?.at("on")}>
        <input type="date" className="input" max={view.today} value={day} onChange={(event) => setDay(event.target.value)} {...described("on", problem?.at("on"), true)} />
      </Field>
      <FormTrouble error={save.error} fields={["boxes", "on"]} />
      <Button type="submit" look="main" className="w-full" disabled={save.isPending}>Record the hive</Button>
    </form>
  );
}

type Home = "along" | "own" | "shared";

export function MoveForm({ view, onDone }: { view: View; onDone: () => void }) {
  const done = useDone(onDone);
  const { colony } = view;
  const places = useQuery(placesQuery);
  const [apiary, setApiary] = useState("");
  const [home, setHome] = useState<Home>("along");
  const [hive, setHive] = useState("");
  const [type, setType] = useState("stacked boxes");
  const [boxes, setBoxes] = useState<Box[]>(ONE_BOX);
  const [label, setLabel] = useState(colony.label);
  const [day, setDay] = useState(view.today);
  const [note, setNote] = useState("");
  const there = useQuery({ ...apiaryQuery(apiary), enabled: home === "shared" && apiary !== "" });
  const hives = [...new Map((there.data?.hives ?? []).filter((one) => one.id !== colony.hive_id).map((one) => [one.id, one])).values()];
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT("/api/v1/colonies/{colony_id}/place", {
          params: { path: { colony_id: colony.id }, header: ifMatch(colony.version) },
          body: { apiary_id: apiary, hive: home, hive_id: home === "shared" && hive ? hive : null, hive_type: type, boxes: home === "own" ? boxes : [], label, on: day, note },
        }),
      ),
    onSuccess: done,
  });
  const problem = save.error instanceof Problem ? save.error : null;
  return (
    <form noValidate className="space-y-4" onSubmit={(event) => { event.preventDefault(); save.mutate(); }}>
      <Field label="To" name="apiary_id" error={problem?.at("apiary_id")}>
        <select className="input" value={apiary} onChange={(event) => setApiary(event.target.value)} {...described("apiary_id", problem?.at("apiary_id"))}>
          <option value="">choose an apiary</option>
          {(places.data?.apiaries ?? []).map((one) => <option key={one.id} value={one.id}>{one.name}{one.id === colony.apiary_id ? " (here, another hive)" : `, ${one.keeper}`}</option>)}
        </select>
      </Field>
      <div>
        <Choice label="How it is housed there" value={home} options={[["along", "its hive goes along"], ["own", "a new hive"], ["shared", "shares a hive"]]} onChange={setHome} />
        {problem?.at("hive") && <p role="alert" className="mt-1 font-semibold text-act">{problem.at("hive")}</p>}
      </div>
      {home === "shared" && (
        <Field label="Shares with" name="hive_id" error={problem?.at("hive_id")}>
          <select className="input" value={hive} onChange={(event) => setHive(event.target.value)} {...described("hive_id", problem?.at("hive_id"))}>
            <option value="">choose a hive</option>
            {hives.map((one) => <option key={one.id} value={one.id}>{(one.labels ?? []).join(", ") || "an empty hive"}, {one.hive_type}</option>)}
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
          <input className="input" maxLength={24} value={label} onChange={(event) => setLabel(event.target.value)} {...described("label", problem?.at("label"))} />
        </Field>
        <Field label="Day" name="on" error={problem?.at("on")}>
          <input type="date" className="input" max={view.today} value={day} onChange={(event) => setDay(event.target.value)} {...described("on", problem?.at("on"))} />
        </Field>
      </div>
      <Field label="Note" name="note">
        <textarea className="input" rows={2} maxLength={2000} value={note} onChange={(event) => setNote(event.target.value)} {...described("note")} />
      </Field>
      <FormTrouble error={save.error} fields={["apiary_id", "hive", "hive_id", "boxes", "label", "on"]} />
      <Button type="submit" look="main" className="w-full" disabled={save.isPending || apiary === ""}>Move {colony.label}</Button>
    </form>
  );
}
