/** Where a frame goes, once it is picked up: another slot (tapped in the plan), away, or another colony. */
import { moveFrame } from "@/client/commands/colonies";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Problem, type Schemas } from "@/client/types";
import { apiaryQuery, placesQuery } from "@/client/queries";
import { Button } from "@/ui/button";
import { Form } from "@/ui/fields";
import { boxesOf, type View } from "./visit-queue";

export type Target = { to_box?: string; to_slot?: number; to_away?: Schemas["MoveFrameInput"]["to_away"] };
export type Picked = { frameId: string; name: string };

export function useMove(view: View, onDone: () => Promise<void>) {
  return useMutation({
    mutationFn: ({
      picked,
      kind,
      target,
      why,
      swap,
      id,
    }: {
      picked: Picked | null;
      kind?: "comb" | "foundation" | "drone_comb" | "feeder" | "dummy";
      target: Target;
      why: string;
      swap?: boolean;
      id: string;
    }) =>
      moveFrame({
        id,
        frame_id: picked?.frameId ?? null,
        new: kind ? { kind, comb_year: kind === "foundation" ? Number(view.today.slice(0, 4)) : null } : null,
        to_box: target.to_box ?? null,
        to_slot: target.to_slot ?? null,
        to_away: target.to_away ?? null,
        moved_on: view.visit.visited_on,
        visit_id: view.visit.id,
        override_why: why,
        swap: swap ?? false,
        note: "",
      }),
    onSuccess: onDone,
  });
}

export function MoveBar({
  view,
  picked,
  move,
  onCancel,
  last,
  setLast,
  here,
}: {
  here: Target | null;
  view: View;
  picked: Picked;
  move: ReturnType<typeof useMove>;
  onCancel: () => void;
  last: Target | null;
  setLast: (target: Target) => void;
}) {
  const [elsewhere, setElsewhere] = useState(false);
  const [why, setWhy] = useState("");
  const problem = move.error instanceof Problem ? move.error : null;
  const go = (target: Target, swap = false) => {
    setLast(target);
    move.mutate({ picked, target, why, swap, id: crypto.randomUUID() });
  };
  return (
    <section aria-label="Move a frame" className="border-4 border-ink bg-sheet p-3">
      <p className="font-semibold">
        {picked.name} is in your hand: tap its slot
        {boxesOf(view).filter((box) => box.frames > 0).length > 1 ? " in any box" : ""}, or
      </p>
      <div className="mt-2 grid grid-cols-2 gap-2 desk:flex desk:flex-wrap">
        {here && (
          <Button
            onClick={() =>
              move.mutate({ picked: null, kind: "foundation", target: here, why: "", id: crypto.randomUUID() })
            }>
            put foundation in its place
          </Button>
        )}
        <Button onClick={() => go({ to_away: "store" })}>into store</Button>
        <Button onClick={() => go({ to_away: "freezer" })}>into the freezer</Button>
        <Button onClick={() => go({ to_away: "melted" })}>melt it</Button>
        <Button onClick={() => go({ to_away: "burned" })}>burn it</Button>
        <Button onClick={() => setElsewhere(true)}>to another colony</Button>
        <Button variant="quiet" className="col-span-2" onClick={onCancel}>
          Leave it where it is
        </Button>
      </div>
      {elsewhere && <Elsewhere view={view} onGo={(target) => go(target)} />}
      {problem && (
        <div role="alert" className="mt-3 space-y-2">
          <p className="font-semibold text-act">{problem.message}</p>
          {problem.rule === "occupied" && last && (
            <Button variant="main" onClick={() => go(last, true)}>
              Let the two change places
            </Button>
          )}
          {problem.canOverride && last && (
            <Form className="flex flex-wrap items-end gap-2" onSubmit={() => go(last)}>
              <label className="min-w-60 flex-1">
                <span className="mb-1 block font-semibold">
                  {problem.rule === "hold_standstill" ? "It happened anyway, because" : "Override, because"}
                </span>
                <input className="input" value={why} onChange={(event) => setWhy(event.target.value)} />
              </label>
              <Button type="submit" variant="main" disabled={why.trim().length < 3}>
                {problem.rule === "hold_standstill" ? "Record it" : "Set the hold aside"}
              </Button>
            </Form>
          )}
        </div>
      )}
    </section>
  );
}

function Elsewhere({ view, onGo }: { view: View; onGo: (target: Target) => void }) {
  const [place, setPlace] = useState(view.place.apiary_id);
  const places = useQuery(placesQuery());
  const apiary = useQuery(apiaryQuery(place));
  const [hive, setHive] = useState("");
  const [box, setBox] = useState("");
  const [slot, setSlot] = useState(1);
  const hives = new Map<string, Schemas["HiveBox"][]>();
  for (const one of apiary.data?.hives ?? [])
    if (one.id !== view.place.hive?.hive.id && one.frames) hives.set(one.id, [...(hives.get(one.id) ?? []), one]);
  const named = [...hives]
    .map(([id, [first]]) => [id, (first?.labels ?? []).join(", ") || "an empty hive"] as const)
    .sort((a, b) => a[1].localeCompare(b[1], "en", { numeric: true }));
  const boxes = hives.get(hive) ?? [];
  const chosen = boxes.find((one) => one.box_id === box) ?? boxes[0];
  return (
    <div className="mt-3 grid grid-cols-2 gap-2 desk:grid-cols-[1.5fr_1fr_1.2fr_5rem_auto]">
      <label className="col-span-2 desk:col-span-1">
        <span className="block font-semibold">Apiary</span>
        <select
          aria-label="Apiary"
          className="input"
          value={place}
          onChange={(event) => {
            setPlace(event.target.value);
            setHive("");
            setBox("");
          }}>
          {(places.data?.places ?? [{ id: view.place.apiary_id, name: view.place.apiary }]).map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      </label>
      <label>
        <span className="block font-semibold">Colony</span>
        <select aria-label="Colony" className="input" value={hive} onChange={(event) => setHive(event.target.value)}>
          <option value="">choose</option>
          {named.map(([id, says]) => (
            <option key={id} value={id}>
              {says}
            </option>
          ))}
        </select>
      </label>
      <label>
        <span className="block font-semibold">Box</span>
        <select
          aria-label="Box from the floor"
          className="input"
          value={chosen?.box_id ?? ""}
          onChange={(event) => setBox(event.target.value)}>
          {boxes.map((one) => (
            <option key={one.box_id} value={one.box_id ?? ""}>
              {one.position}, {one.purpose}
            </option>
          ))}
        </select>
      </label>
      <label>
        <span className="block font-semibold">Slot</span>
        <input
          type="number"
          min={1}
          max={chosen?.frames ?? 1}
          className="input"
          value={slot}
          onChange={(event) => setSlot(Number(event.target.value))}
        />
      </label>
      <Button
        className="self-end"
        variant="main"
        disabled={!chosen?.box_id}
        onClick={() => chosen?.box_id && onGo({ to_box: chosen.box_id, to_slot: slot })}>
        Put the frame here
      </Button>
    </div>
  );
}
