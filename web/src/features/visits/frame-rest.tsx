/** What is rarer about the frame in hand: the state of its comb, a note, pictures, and that it moves. */
import { useQuery } from "@tanstack/react-query";
import { signsQuery } from "@/client/queries";
import { Button } from "@/ui/button";
import { COMB_STATE } from "@/wording/words";
import { Photos } from "./photos";
import { orEmpty } from "./plan";
import type { VisitState } from "./use-visit";
import type { ChangeFrame, FrameRecord } from "./visit-queue";

export function FrameRest({ visit }: { visit: VisitState }) {
  const { at, frame, writable } = visit;
  if (!at || !frame || frame.kind === null) return null;
  const record = orEmpty(frame.record);
  const change = (next: ChangeFrame) => visit.keepFrame(at.box, at.slot, next);
  return (
    <div className="space-y-3">
      {writable && (
        <>
          <CombState record={record} onChange={change} />
          <label className="block">
            <span className="sr-only">Note on this frame</span>
            <input
              className="input"
              placeholder="Note on this frame"
              maxLength={2000}
              value={record.note}
              onChange={(event) => change((old) => ({ ...old, note: event.target.value }))}
            />
          </label>
          <Button onClick={() => visit.pickUp(visit.frameName)}>Move it</Button>
        </>
      )}
      <FramePhotos visit={visit} />
    </div>
  );
}

function CombState({ record, onChange }: { record: FrameRecord; onChange: (change: ChangeFrame) => void }) {
  return (
    <fieldset>
      <legend className="sr-only">State of the comb</legend>
      <div className="flex flex-wrap gap-1">
        {(Object.entries(COMB_STATE) as [FrameRecord["comb"][number], string][]).map(([state, says]) => {
          const on = record.comb.includes(state);
          const others = (old: FrameRecord) => old.comb.filter((one) => one !== state);
          return (
            <Button
              key={state}
              aria-pressed={on}
              variant={on ? "main" : "plain"}
              onClick={() => onChange((old) => ({ ...old, comb: on ? others(old) : [...others(old), state] }))}>
              {says}
            </Button>
          );
        })}
      </div>
    </fieldset>
  );
}

function FramePhotos({ visit }: { visit: VisitState }) {
  const { view, at, chosen, frame, writable } = visit;
  const signs = useQuery(signsQuery);
  if (!at || !frame || !chosen || !(writable || view.photos.length > 0)) return null;
  const nameOf = (sign: string) => signs.data?.find((each) => each.id === sign)?.name ?? sign;
  return (
    <Photos
      view={view}
      at={at}
      writable={writable}
      name={`frame ${chosen.numbered(at.slot)}`}
      signs={(frame.record?.signs ?? []).map((one) => ({ id: one.sign, name: nameOf(one.sign) }))}
    />
  );
}
