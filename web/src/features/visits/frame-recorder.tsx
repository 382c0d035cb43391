/** What was seen of one frame: fast ways first, then the covers, then what is rare. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { signsQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import type { Side } from "@/instruments/box-plan";
import { Button } from "@/ui/button";
import { useKeys } from "@/ui/keys";
import { CELL_CONTENT, COMB_STATE, COVER } from "@/wording/words";
import { CellDialog } from "./cell-dialog";
import { CoverBars } from "./cover-bars";
import { EMPTY_SIDE, KEY, RARE, areSame, type CoverName } from "./covers";
import { SignDialog } from "./sign-dialog";
import type { FrameRecord } from "./visit-queue";

type Props = {
  record: FrameRecord;
  previous: FrameRecord | null;
  fault: { field: string; message: string } | null;
  onChange: (record: FrameRecord) => void;
  onNext: () => void;
};

export function FrameRecorder({ record, previous, fault, onChange, onNext }: Props) {
  const [alike, setAlike] = useState(areSame(record.a, record.b));
  const [more, setMore] = useState(RARE.some((name) => (record.a?.[name] ?? 0) > 0 || (record.b?.[name] ?? 0) > 0));
  const [dialog, setDialog] = useState<"sign" | "cells" | null>(null);
  const signs = useQuery(signsQuery);
  const set = (which: "a" | "b", part: Partial<Side>) => {
    const side = { ...(record[which] ?? EMPTY_SIDE), ...part };
    onChange(alike ? { ...record, a: side, b: side } : { ...record, [which]: side });
  };
  const lastTime = () => {
    if (!previous) return;
    onChange({ ...record, a: previous.a ?? null, b: previous.b ?? null, comb: previous.comb });
    setAlike(areSame(previous.a, previous.b));
    onNext();
  };
  const stores = () => {
    const side = { ...EMPTY_SIDE, honey: 10 };
    onChange({ ...record, a: side, b: side });
    onNext();
  };
  const queen = () => onChange({ ...record, queen: !record.queen });
  const toBar = (name: CoverName) => {
    if (RARE.includes(name)) setMore(true);
    window.setTimeout(() => document.querySelector<HTMLElement>(`[data-bar="${name}-a"]`)?.focus());
  };
  useKeys([
    ...(Object.keys(KEY) as CoverName[]).map((name) => ({
      key: KEY[name],
      says: `${COVER[name]}: then 0 to 9, x for ten`,
      run: () => toBar(name),
    })),
    { key: "a", says: "as last time, next frame", run: lastTime },
    { key: "t", says: "stores only, next frame", run: stores },
    { key: "=", says: "both sides alike, or not", run: () => setAlike(!alike) },
    { key: "q", says: "queen seen here", run: queen },
    { key: "i", says: "add a sign", run: () => setDialog("sign") },
    { key: "u", says: "queen cells", run: () => setDialog("cells") },
  ]);
  const eggs = record.a?.eggs_seen ?? false;
  return (
    <div className="space-y-3">
      <div className="grid grid-cols-3 gap-2">
        <Button className="leading-tight" disabled={!previous} onClick={lastTime}>
          As last time
        </Button>
        <Button className="leading-tight" onClick={stores}>
          Stores only
        </Button>
        <Button
          className="leading-tight"
          aria-pressed={record.queen}
          variant={record.queen ? "main" : "plain"}
          onClick={queen}>
          {record.queen ? "Queen here" : "Queen seen"}
        </Button>
      </div>
      <CoverBars record={record} previous={previous} fault={fault} alike={alike} more={more} set={set} />
      <div className="flex flex-wrap gap-2">
        <Button aria-pressed={alike} onClick={() => setAlike(!alike)}>
          {alike ? "Sides differ" : "Both sides alike"}
        </Button>
        <Button aria-pressed={eggs} variant={eggs ? "main" : "plain"} onClick={() => set("a", { eggs_seen: !eggs })}>
          Eggs seen
        </Button>
        {!more && <Button onClick={() => setMore(true)}>Drone, nectar, pollen</Button>}
        <Button onClick={() => setDialog("sign")}>Add a sign</Button>
        <Button onClick={() => setDialog("cells")}>Queen cells</Button>
      </div>
      <SignsAndCells record={record} signs={signs.data ?? []} onChange={onChange} />
      <StateOfComb record={record} onChange={onChange} />
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
        onAdd={(one) => {
          const others = record.signs.filter((other) => other.sign !== one.sign || other.side !== one.side);
          onChange({ ...record, signs: [...others, one] });
        }}
      />
      <CellDialog
        open={dialog === "cells"}
        onClose={() => setDialog(null)}
        onAdd={(one) => onChange({ ...record, cells: [...record.cells, one] })}
      />
    </div>
  );
}

type PartProps = { record: FrameRecord; onChange: (record: FrameRecord) => void };

function SignsAndCells({ record, signs, onChange }: PartProps & { signs: Schemas["Sign"][] }) {
  if (record.signs.length === 0 && record.cells.length === 0) return null;
  const of = (id: string) => signs.find((one) => one.id === id);
  const name = (id: string) => of(id)?.name ?? id.replaceAll("_", " ");
  return (
    <ul className="border-t border-line">
      {record.signs.map((one, index) => (
        <li key={`${one.sign}-${index}`} className="flex items-center justify-between border-b border-line">
          <span>
            <strong className={of(one.sign)?.suspicious ? "text-act" : ""}>{name(one.sign)}</strong>,{" "}
            {one.number ?? one.extent ?? "seen"}
            {one.side && `, side ${one.side}`}
          </span>
          <Button
            variant="quiet"
            aria-label={`Remove: ${name(one.sign)}`}
            onClick={() => onChange({ ...record, signs: record.signs.filter((_, at) => at !== index) })}>
            Remove
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
            aria-label={`Remove: ${CELL_CONTENT[one.content]}`}
            onClick={() => onChange({ ...record, cells: record.cells.filter((_, at) => at !== index) })}>
            Remove
          </Button>
        </li>
      ))}
    </ul>
  );
}

function StateOfComb({ record, onChange }: PartProps) {
  return (
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
                onChange({ ...record, comb: on ? record.comb.filter((one) => one !== state) : [...record.comb, state] })
              }>
              {says}
            </Button>
          );
        })}
      </div>
    </fieldset>
  );
}
