/** What was seen of one frame: fast ways first, then the covers, then what is rare. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { signsQuery } from "@/client/queries";
import { COVER_FILL, type FrameRecord, type Side } from "@/instruments/box-plan";
import { FillBar } from "@/instruments/fill-bar";
import { Choice } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { useKeys } from "@/ui/keys";
import { Button } from "@/ui/button";
import { Stepper } from "@/ui/stepper";
import { CELL_CONTENT, COMB_STATE, COVER } from "@/wording/words";

type CoverName = keyof typeof COVER;
const USUAL: CoverName[] = ["capped", "open", "eggs", "honey", "bees"];
const RARE: CoverName[] = ["drone", "nectar", "pollen"];
const KEY: Record<CoverName, string> = {
  capped: "c",
  open: "o",
  eggs: "e",
  honey: "h",
  bees: "b",
  drone: "d",
  nectar: "n",
  pollen: "p",
};
export const EMPTY_SIDE: Side = {
  capped: 0,
  open: 0,
  eggs: 0,
  drone: 0,
  honey: 0,
  nectar: 0,
  pollen: 0,
  eggs_seen: false,
  bees: null,
};
const same = (a: Side | null | undefined, b: Side | null | undefined) =>
  JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

export function FrameRecorder({
  record,
  previous,
  fault,
  onChange,
  onNext,
}: {
  record: FrameRecord;
  previous: FrameRecord | null;
  fault: { field: string; message: string } | null;
  onChange: (record: FrameRecord) => void;
  onNext: () => void;
}) {
  const [alike, setAlike] = useState(same(record.a, record.b));
  const [more, setMore] = useState(RARE.some((name) => (record.a?.[name] ?? 0) > 0 || (record.b?.[name] ?? 0) > 0));
  const [dialog, setDialog] = useState<"sign" | "cells" | null>(null);
  const signs = useQuery(signsQuery);
  const set = (which: "a" | "b", part: Partial<Side>) => {
    const side = { ...(record[which] ?? EMPTY_SIDE), ...part };
    onChange(alike ? { ...record, a: side, b: side } : { ...record, [which]: side });
  };
  const both = (side: Side) => onChange({ ...record, a: side, b: side });
  const lastTime = () => {
    if (!previous) return;
    onChange({ ...record, a: previous.a ?? null, b: previous.b ?? null, comb: previous.comb });
    setAlike(same(previous.a, previous.b));
    onNext();
  };
  const stores = () => {
    both({ ...EMPTY_SIDE, honey: 10 });
    onNext();
  };
  const toBar = (name: string) => document.querySelector<HTMLElement>(`[data-bar="${name}"]`)?.focus();
  useKeys([
    ...(Object.keys(KEY) as CoverName[]).map((name) => ({
      key: KEY[name],
      says: `${COVER[name]}: then 0 to 9, x for ten`,
      run: () => {
        if (RARE.includes(name)) setMore(true);
        window.setTimeout(() => toBar(`${name}-a`));
      },
    })),
    { key: "a", says: "as last time, next frame", run: lastTime },
    { key: "t", says: "stores only, next frame", run: stores },
    { key: "=", says: "both sides alike, or not", run: () => setAlike(!alike) },
    { key: "q", says: "queen seen here", run: () => onChange({ ...record, queen: !record.queen }) },
    { key: "i", says: "add a sign", run: () => setDialog("sign") },
    { key: "u", says: "queen cells", run: () => setDialog("cells") },
  ]);
  const rows = more ? [...USUAL, ...RARE] : USUAL;
  const covered = (side: Side | null | undefined) =>
    side ? side.capped + side.open + side.eggs + side.drone + side.honey + side.nectar + side.pollen : 0;
  const columns = alike ? (["a"] as const) : (["a", "b"] as const);
  const name = (id: string) => signs.data?.find((one) => one.id === id)?.name ?? id.replaceAll("_", " ");
  return (
    <div className="space-y-3">
      <div className="grid grid-cols-3 gap-2">
        <Button className="leading-tight" disabled={!previous} onClick={lastTime}>
          As last time
        </Button>
        <Button className="leading-tight" onClick={stores}>
          Nothing but stores
        </Button>
        <Button
          className="leading-tight"
          aria-pressed={record.queen}
          variant={record.queen ? "main" : "plain"}
          onClick={() => onChange({ ...record, queen: !record.queen })}>
          {record.queen ? "Queen here" : "Queen seen"}
        </Button>
      </div>
      <div
        className={`grid gap-x-3 gap-y-1.5 ${alike ? "grid-cols-[4.1rem_1fr_1.5rem]" : "grid-cols-[4.1rem_1fr_1.5rem_1fr_1.5rem]"} items-center`}>
        {!alike && (
          <>
            <span />
            <span className="col-span-2 font-semibold">Side a</span>
            <span className="col-span-2 font-semibold">Side b</span>
          </>
        )}
        {rows.map((cover) => (
          <div key={cover} className="contents">
            <span className="font-semibold leading-tight">{COVER[cover]}</span>
            {columns.map((which) => {
              const value = record[which]?.[cover] ?? null;
              return (
                <div key={which} className="contents">
                  <FillBar
                    label={`${COVER[cover]}${alike ? "" : `, side ${which}`}`}
                    name={`${cover}-${which}`}
                    value={value}
                    fill={COVER_FILL[cover] ?? ""}
                    was={previous?.[which]?.[cover] ?? undefined}
                    invalid={fault?.field.includes(`.${which}`) ?? false}
                    onChange={(next) => set(which, { [cover]: next })}
                  />
                  <span className="figure text-right text-xl">{value ?? "–"}</span>
                </div>
              );
            })}
          </div>
        ))}
      </div>
      {columns.map(
        (which) =>
          covered(record[which]) > 10 && (
            <p key={which} role="alert" className="font-semibold text-act">
              {alike ? "" : `Side ${which}: `}
              {covered(record[which])} tenths: a side has 10. Take some back.
            </p>
          ),
      )}
      {fault && columns.every((which) => covered(record[which]) <= 10) && (
        <p role="alert" className="font-semibold text-act">
          {fault.message}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <Button aria-pressed={alike} onClick={() => setAlike(!alike)}>
          {alike ? "Sides differ" : "Both sides alike"}
        </Button>
        <Button
          aria-pressed={record.a?.eggs_seen ?? false}
          variant={record.a?.eggs_seen ? "main" : "plain"}
          onClick={() => set("a", { eggs_seen: !(record.a?.eggs_seen ?? false) })}>
          Eggs seen
        </Button>
        {!more && <Button onClick={() => setMore(true)}>Drone, nectar, pollen</Button>}
        <Button onClick={() => setDialog("sign")}>Add a sign</Button>
        <Button onClick={() => setDialog("cells")}>Queen cells</Button>
      </div>
      {(record.signs.length > 0 || record.cells.length > 0) && (
        <ul className="border-t border-line">
          {record.signs.map((one, index) => (
            <li key={`${one.sign}-${index}`} className="flex items-center justify-between border-b border-line">
              <span>
                <strong className={signs.data?.find((each) => each.id === one.sign)?.suspicious ? "text-act" : ""}>
                  {name(one.sign)}
                </strong>
                , {one.number ?? one.extent ?? "seen"}
                {one.side && `, side ${one.side}`}
              </span>
              <Button
                variant="quiet"
                aria-label={`Take off: ${name(one.sign)}`}
                onClick={() => onChange({ ...record, signs: record.signs.filter((_, at) => at !== index) })}>
                Take off
              </Button>
            </li>
          ))}
          {record.cells.map((one, index) => (
            <li key={`${one.content}-${index}`} className="flex items-center justify-between border-b border-line">
              <span>
                {CELL_CONTENT[one.content]}: <strong>{one.number}</strong>,{" "}
                {one.place === "face" ? "on the face" : "on the edge"}
              </span>
              <Button
                variant="quiet"
                aria-label={`Take off: ${CELL_CONTENT[one.content]}`}
                onClick={() => onChange({ ...record, cells: record.cells.filter((_, at) => at !== index) })}>
                Take off
              </Button>
            </li>
          ))}
        </ul>
      )}
      <fieldset>
        <legend className="sr-only">State of the comb</legend>
        <div className="flex flex-wrap gap-1">
          {(Object.entries(COMB_STATE) as [FrameRecord["comb"][number], string][]).map(([state, says]) => {
            const on = record.comb.includes(state);
            return (
              <Button
                key={state}
                aria-pressed={on}
                variant={on ? "main" : "plain"}
                onClick={() =>
                  onChange({
                    ...record,
                    comb: on ? record.comb.filter((one) => one !== state) : [...record.comb, state],
                  })
                }>
                {says}
              </Button>
            );
          })}
        </div>
      </fieldset>
      <label className="block">
        <span className="sr-only">Note on this frame</span>
        <input
          className="input"
          placeholder="Note on this frame"
          maxLength={2000}
          value={record.note}
          onChange={(event) => onChange({ ...record, note: event.target.value })}
        />
      </label>
      <SignDialog
        open={dialog === "sign"}
        onClose={() => setDialog(null)}
        signs={signs.data ?? []}
        onAdd={(one) =>
          onChange({
            ...record,
            signs: [...record.signs.filter((other) => other.sign !== one.sign || other.side !== one.side), one],
          })
        }
      />
      <CellDialog
        open={dialog === "cells"}
        onClose={() => setDialog(null)}
        onAdd={(one) => onChange({ ...record, cells: [...record.cells, one] })}
      />
    </div>
  );
}

const GROUP: Record<string, string> = {
  cappings: "Cappings and pattern",
  larvae: "Larvae, pupae, remains",
  tests: "Tests and smell",
  mites_and_bees: "Mites and bees",
  queen_and_food: "Eggs, cells, food",
  pests: "Pests",
};

function SignDialog({
  open,
  onClose,
  signs,
  onAdd,
}: {
  open: boolean;
  onClose: () => void;
  signs: Schemas["Sign"][];
  onAdd: (sign: Schemas["SignSeen"]) => void;
}) {
  const [find, setFind] = useState("");
  const [chosen, setChosen] = useState<Schemas["Sign"] | null>(null);
  const [side, setSide] = useState<"both" | "a" | "b">("both");
  const found = signs.filter((one) => `${one.name} ${one.definition}`.toLowerCase().includes(find.toLowerCase()));
  const add = (part: Partial<Schemas["SignSeen"]>) => {
    if (!chosen) return;
    onAdd({ sign: chosen.id, extent: null, number: null, side: side === "both" ? null : side, ...part });
    setChosen(null);
    onClose();
  };
  return (
    <Dialog
      open={open}
      onClose={() => {
        setChosen(null);
        onClose();
      }}
      title={chosen ? chosen.name : "Which sign?"}
      wide>
      {chosen ? (
        <div className="space-y-4">
          <p>{chosen.definition}.</p>
          {chosen.examined.some((how) => how === "S" || how === "U") && (
            <p className="border-l-4 border-watch pl-3">
              Seen with the bees off the comb. Before you shake: is the queen found, and caged or on a frame put to one
              side? Brush a frame with queen cells, never shake it.
            </p>
          )}
          <Choice
            label="Side"
            value={side}
            options={[
              ["both", "both or not recorded"],
              ["a", "side a"],
              ["b", "side b"],
            ]}
            onChange={setSide}
          />
          <p className="font-semibold">How much? few: to 10 cells; some: to 100; many: more.</p>
          <div className="grid grid-cols-3 gap-2">
            {(["few", "some", "many"] as const).map((extent) => (
              <Button key={extent} big onClick={() => add({ extent })}>
                {extent}
              </Button>
            ))}
          </div>
          {chosen.suspicious && (
            <p className="border-l-4 border-act pl-3">
              While this is not explained, no comb leaves the hive. Photograph it; open cells and draw a match through
              them. Report a suspicion to the competent authority as local law asks.
            </p>
          )}
          <Button variant="quiet" onClick={() => setChosen(null)}>
            Another sign
          </Button>
        </div>
      ) : (
        <>
          <input
            className="input"
            placeholder="Find a sign"
            aria-label="Find a sign"
            value={find}
            onChange={(event) => setFind(event.target.value)}
          />
          {Object.entries(GROUP).map(([group, title]) => {
            const here = found.filter((one) => one.group === group);
            return (
              here.length > 0 && (
                <section key={group} className="mt-4">
                  <h3 className="mb-1 text-lg">{title}</h3>
                  <div className="grid grid-cols-2 gap-1 desk:grid-cols-3">
                    {here.map((one) => (
                      <Button
                        key={one.id}
                        className="justify-start text-left leading-tight"
                        onClick={() => setChosen(one)}>
                        {one.name}
                      </Button>
                    ))}
                  </div>
                </section>
              )
            );
          })}
        </>
      )}
    </Dialog>
  );
}

function CellDialog({
  open,
  onClose,
  onAdd,
}: {
  open: boolean;
  onClose: () => void;
  onAdd: (cells: Schemas["QueenCells"]) => void;
}) {
  const [place, setPlace] = useState<"edge" | "face">("edge");
  const [number, setNumber] = useState(1);
  return (
    <Dialog open={open} onClose={onClose} title="Queen cells">
      <div className="space-y-4">
        <Choice
          label="Place"
          value={place}
          options={[
            ["edge", "edge of the comb"],
            ["face", "face of the comb"],
          ]}
          onChange={setPlace}
        />
        <Stepper
          label="How many"
          value={number}
          least={1}
          most={200}
          start={1}
          onChange={(next) => setNumber(next ?? 1)}
        />
        <p className="font-semibold">What is in them?</p>
        <div className="grid grid-cols-2 gap-2">
          {(Object.entries(CELL_CONTENT) as [Schemas["QueenCells"]["content"], string][]).map(([content, says]) => (
            <Button
              key={content}
              big
              className="leading-tight"
              onClick={() => {
                onAdd({ content, place, number });
                onClose();
              }}>
              {says}
            </Button>
          ))}
        </div>
      </div>
    </Dialog>
  );
}
