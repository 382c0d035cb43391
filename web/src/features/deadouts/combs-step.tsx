/** Each comb in side light: which were read, and what was seen on the one in hand. */
import { clsx } from "clsx";
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";
import type { StepProps } from "./step-form";
import { SignRow } from "./sign-row";

type Comb = Schemas["CombThen"];
type Looked = Schemas["CombLooked"];

const ON_COMB = [
  "d_scale_stuck",
  "d_guanine",
  "d_sunken_greasy",
  "d_brood_perforated",
  "d_emerging_dead",
  "d_larva_dead_open",
  "d_bullet",
  "d_dysentery_in",
  "d_moth_webbing",
  "d_shb_larvae_slime",
  "d_mouse",
];

export function CombsStep({ view, content, set, signs }: StepProps) {
  const [at, setAt] = useState<string | null>(null);
  const combs = content.combs ?? [];
  const key = (one: { box_id: string; slot: number }) => `${one.box_id}:${one.slot}`;
  const looked = new Map(combs.map((one) => [key(one), one]));
  const every = view.place.combs;
  const put = (comb: Comb, change: Looked | null) => {
    const others = combs.filter((one) => key(one) !== key(comb));
    set({ combs: change ? [...others, change] : others });
  };
  const fresh = (comb: Comb): Looked => ({ box_id: comb.box_id, slot: comb.slot, had_brood: false, signs: [] });
  const inHand = every.find((one) => key(one) === at);
  const boxes = view.place.boxes.filter((box) => every.some((comb) => comb.box_id === box.box_id));
  if (every.length === 0)
    return <p className="text-ink-2">No comb of its own is on record: say what was seen on all that it left.</p>;
  return (
    <>
      <p aria-live="polite">
        <strong>
          {combs.length} of {every.length} combs
        </strong>{" "}
        read.
      </p>
      {combs.length < every.length && (
        <Button
          className="w-full"
          onClick={() => set({ combs: every.map((one) => looked.get(key(one)) ?? fresh(one)) })}>
          All {every.length} read on both faces; what was seen is marked
        </Button>
      )}
      <ol className="flex flex-col-reverse gap-2" aria-label="Boxes from the top">
        {boxes.map((box) => (
          <li key={box.box_id} className="border-[3px] border-ink bg-paper p-2">
            <p className="mb-1 text-sm text-ink-2">
              Box {box.position}
              {box.purpose === "super" && ", super"}
            </p>
            <div className="flex flex-wrap gap-1">
              {every
                .filter((comb) => comb.box_id === box.box_id)
                .map((comb) => (
                  <CombMark
                    key={key(comb)}
                    slot={comb.slot}
                    looked={looked.get(key(comb))}
                    chosen={key(comb) === at}
                    onChoose={() => setAt(key(comb))}
                  />
                ))}
            </div>
          </li>
        ))}
      </ol>
      {inHand && (
        <section aria-label={`Comb ${inHand.slot}`} className="border-t-2 border-ink pt-2">
          <CombInHand
            comb={inHand}
            looked={looked.get(key(inHand))}
            signs={signs}
            onChange={(change) => put(inHand, change)}
            fresh={fresh}
          />
        </section>
      )}
      <Checkbox
        label="Moth cocoons: no bees for four warm weeks"
        checked={content.cocoons === true}
        onChange={(cocoons) => set({ cocoons: cocoons || null })}
      />
    </>
  );
}

type MarkProps = { slot: number; looked: Looked | undefined; chosen: boolean; onChoose: () => void };

function CombMark({ slot, looked, chosen, onChoose }: MarkProps) {
  const seen = (looked?.signs ?? []).length;
  const says = looked ? (seen > 0 ? `read, ${seen} seen` : "read, nothing seen") : "not read";
  return (
    <button
      type="button"
      aria-pressed={chosen}
      aria-label={`Comb ${slot}: ${says}`}
      onClick={onChoose}
      className={clsx(
        "relative min-h-16 min-w-14 flex-1 border-t-[5px] border-ink desk:min-w-11",
        looked ? "bg-sheet" : "hatch bg-paper",
        chosen && "outline-3 outline-offset-[-3px] outline-ink",
      )}>
      <span className="figure text-lg">{slot}</span>
      {seen > 0 && (
        <svg viewBox="0 0 18 16" className="absolute right-0.5 top-0.5 w-[18px]" aria-hidden="true">
          <path d="M9 1 17 15H1z" fill="var(--watch)" stroke="var(--sheet)" strokeWidth="1.5" />
        </svg>
      )}
    </button>
  );
}

type HandProps = {
  comb: Comb;
  looked: Looked | undefined;
  signs: Schemas["DeadSign"][];
  onChange: (change: Looked | null) => void;
  fresh: (comb: Comb) => Looked;
};

function CombInHand({ comb, looked, signs, onChange, fresh }: HandProps) {
  const stands = looked ?? fresh(comb);
  const put = (sign: string, value: Schemas["DeadSeen"]["value"] | undefined) => {
    const others = (stands.signs ?? []).filter((one) => one.sign !== sign);
    const there = value !== undefined && value !== "absent" && value !== 0;
    onChange({ ...stands, signs: there ? [...others, { sign, value, effort: "standard" }] : others });
  };
  return (
    <>
      <h3 className="text-lg">
        Comb {comb.slot}
        {comb.comb_year !== null && <span className="font-sans text-base font-normal"> of {comb.comb_year}</span>}
      </h3>
      <Checkbox
        label="Both faces read in side light"
        checked={looked !== undefined}
        onChange={(read) => onChange(read ? stands : null)}
      />
      {looked && (
        <>
          <Checkbox
            label="There was brood in it"
            checked={looked.had_brood === true}
            onChange={(had) => onChange({ ...looked, had_brood: had })}
          />
          {ON_COMB.map((id) => {
            const sign = signs.find((one) => one.id === id);
            if (!sign) return null;
            const seen = (looked.signs ?? []).find((one) => one.sign === id);
            return <SignRow key={id} sign={sign} value={seen?.value} onComb onChange={(value) => put(id, value)} />;
          })}
        </>
      )}
    </>
  );
}
