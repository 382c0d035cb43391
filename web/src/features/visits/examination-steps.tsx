/** The steps of the disease examination, but for the signs: queen, combs, cells, bees, kits, and what was not seen. */
import type { Schemas } from "@/client/types";
import { useSession } from "@/features/session/use-session";
import { temperature } from "@/ui/units";
import { Button } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";
import { ChoiceField } from "@/ui/choice";
import { DateField } from "@/ui/date-field";
import { TextField } from "@/ui/fields";
import { Notice } from "@/ui/page";
import { Stepper } from "@/ui/stepper";
import type { SetAfter } from "./after-set";
import { lookedAt, type Examination, type SetExamination } from "./examination";
import { QueenCage } from "./queen-cage";
import type { After } from "./visit-queue";

/** Cooler than this, brood that is shaken clear chills. */
const SHAKE_FROM_C = 18;

export type StepProps = { one: Examination; set: SetExamination; at: (field: string) => string | undefined };

type QueenProps = { content: After; set: SetAfter; known: number | null; onDone: (combs: number) => void };

export function QueenStep({ content, set, known, onDone }: QueenProps) {
  const units = useSession().person;
  return (
    <>
      <p>
        Find the queen first and cage her, or put her frame in a covered box. Brush a frame with queen cells, never
        shake it. No brood frame is shaken below {temperature(SHAKE_FROM_C, units)}.
      </p>
      <QueenCage content={content} set={set} />
      {known !== null ? (
        <div className="border-t border-line pt-4">
          <Button big className="w-full" onClick={() => onDone(known)}>
            Full examination, nothing seen
          </Button>
          <p className="mt-1 text-sm text-ink-2">
            All {known} brood combs read on both sides with the bees shaken off, lower walls held to the light, smelled,
            ten cells opened, a hundred bees looked at. Change what was otherwise.
          </p>
        </div>
      ) : (
        <p className="text-ink-2">Give the brood combs at the next step.</p>
      )}
    </>
  );
}

export function CombsStep({ one, set, at, known }: StepProps & { known: number | null }) {
  return (
    <>
      <div className="grid gap-4 desk:grid-cols-2">
        <Stepper
          label="Brood combs in the hive"
          value={one.brood_combs ?? null}
          most={60}
          start={known ?? 1}
          onChange={(value) =>
            set({ brood_combs: value, combs_read: Math.min(one.combs_read ?? value ?? 0, value ?? 0) })
          }
          error={at("brood_combs")}
        />
        <Stepper
          label="Read on both sides"
          value={one.combs_read ?? null}
          most={one.brood_combs ?? 60}
          start={one.brood_combs ?? 1}
          onChange={(value) => set({ combs_read: value })}
          error={at("combs_read")}
        />
      </div>
      <ChoiceField
        label="Bees"
        says="The bees were"
        value={one.bees_off ?? ""}
        options={[
          ["on", "on the combs"],
          ["moved", "mostly off"],
          ["shaken", "shaken or brushed off"],
        ]}
        onChange={(value) => value && set({ bees_off: value })}
      />
      <div>
        <Checkbox
          label="Lower cell walls held to the light, for scale"
          checked={one.scale_read}
          onChange={(read) => set({ scale_read: read })}
        />
        <Checkbox label="Smelled, away from the bees" checked={one.smelled} onChange={(smelled) => set({ smelled })} />
      </div>
    </>
  );
}

export function CellsStep({ one, set, at }: StepProps) {
  return (
    <>
      <p>Open ten suspect cells. Draw a match slowly through what is in them, five or more: how long is the thread?</p>
      <Stepper
        label="Suspect cells opened"
        value={one.cells_opened ?? null}
        step={5}
        most={2000}
        start={10}
        onChange={(value) => set({ cells_opened: value })}
        error={at("cells_opened")}
      />
      <div className="grid gap-4 desk:grid-cols-2">
        <Stepper
          label="Longest thread"
          unit="mm"
          value={one.thread_mm ?? null}
          step={5}
          most={300}
          onChange={(value) => set({ thread_mm: value, thread_cells: one.thread_cells ?? 5 })}
          error={at("thread_mm")}
        />
        <Stepper
          label="From so many cells"
          value={one.thread_cells ?? null}
          least={1}
          most={200}
          start={5}
          onChange={(value) => set({ thread_cells: value, thread_mm: one.thread_mm ?? 0 })}
          error={at("thread_cells")}
        />
      </div>
      {one.thread_mm != null && (
        <p className="flex flex-wrap items-center gap-x-3 text-ink-2">
          0 to 9 mm: no thread. 10 to 19: short. From 20: ropy.
          <Button variant="quiet" onClick={() => set({ thread_mm: null, thread_cells: null })}>
            No match was drawn
          </Button>
        </p>
      )}
    </>
  );
}

const OF_BEES: readonly (readonly [string, string])[] = [
  ["dwv", "Crippled wings"],
  ["mites_on_bees", "Mites on their backs"],
  ["trembling", "Trembling"],
  ["shiny_black", "Hairless and black"],
  ["crawlers", "Crawling, cannot fly"],
  ["kwing", "Wings held apart"],
];

export function BeesStep({ one, set, at }: StepProps) {
  const number = (sign: string) => one.signs.find((seen) => seen.sign === sign)?.number ?? null;
  const put = (sign: string, value: number | null) => {
    const others = one.signs.filter((seen) => seen.sign !== sign);
    const counted = { sign, seen: "seen" as const, extent: null, number: value, of: null };
    set({ signs: value ? [...others, counted] : others });
  };
  return (
    <>
      <p>Watch the top bars and combs for three minutes. Count the bees that have a sign.</p>
      <Stepper
        label="Bees looked at"
        value={one.bees_looked_at ?? null}
        step={50}
        least={10}
        most={5000}
        start={100}
        onChange={(value) => set({ bees_looked_at: value })}
        error={at("bees_looked_at")}
      />
      <div className="grid gap-4 desk:grid-cols-2">
        {OF_BEES.map(([sign, name]) => (
          <Stepper
            key={sign}
            label={name}
            shown={(value) => `${value} ${value === 1 ? "bee" : "bees"}`}
            value={number(sign)}
            most={5000}
            start={1}
            onChange={(value) => put(sign, value)}
          />
        ))}
      </div>
    </>
  );
}

const KITS = [
  ["afb", "American foulbrood"],
  ["efb", "European foulbrood"],
] as const;

export function KitStep({ one, set, at }: StepProps) {
  const change = (index: number, part: Partial<Schemas["FieldKit"]>) =>
    set({ kits: one.kits.map((kit, place) => (place === index ? { ...kit, ...part } : kit)) });
  return (
    <>
      <p>
        The foulbrood kits want remains or sick larvae. Read the line at the stated minute; the control line must show.
        A negative kit with signs clears nothing.
      </p>
      {one.kits.map((kit, index) => (
        <fieldset key={index} className="space-y-3 border border-line-2 p-3">
          <legend className="px-1 font-semibold">{KITS.find(([id]) => id === kit.tests_for)?.[1]}</legend>
          <ChoiceField
            label="Line"
            value={kit.result}
            options={[
              ["positive", "positive"],
              ["negative", "negative"],
              ["invalid", "no control line"],
            ]}
            onChange={(result) => change(index, { result })}
          />
          <div className="grid gap-3 desk:grid-cols-2">
            <TextField
              label="Lot"
              name={`lot-${index}`}
              maxLength={60}
              value={kit.lot}
              error={at(`kits[${index}].lot`)}
              onChange={(lot) => change(index, { lot })}
            />
            <DateField
              label="Use by"
              name={`use-by-${index}`}
              value={kit.use_by ?? ""}
              error={at(`kits[${index}].use_by`)}
              onChange={(day) => change(index, { use_by: day || null })}
            />
          </div>
          <Button variant="quiet" onClick={() => set({ kits: one.kits.filter((_, place) => place !== index) })}>
            Remove this kit
          </Button>
        </fieldset>
      ))}
      <div className="grid grid-cols-2 gap-2">
        {KITS.map(([id, name]) => (
          <Button
            key={id}
            onClick={() => set({ kits: [...one.kits, { tests_for: id, lot: "", use_by: null, result: "negative" }] })}>
            Kit: {name}
          </Button>
        ))}
      </div>
    </>
  );
}

type NotSeenProps = { one: Examination; set: SetExamination; words: Schemas["ExaminationWords"] };

export function NotSeenStep({ one, set, words }: NotSeenProps) {
  const toggle = <T extends string>(list: readonly T[], id: T, is: boolean): T[] =>
    is ? [...list, id] : list.filter((each) => each !== id);
  return (
    <>
      <fieldset>
        <legend className="font-semibold">Looked for and not seen</legend>
        <p className="text-sm text-ink-2">
          It says only what was looked at: with bees on the combs no larva, without opened cells nothing under cappings.
        </p>
        <div className="grid gap-x-6 desk:grid-cols-2">
          {words.groups.map((group) => (
            <Checkbox
              key={group.id}
              label={group.name}
              checked={one.not_seen.includes(group.id)}
              disabled={!lookedAt(one, group.looked_at)}
              onChange={(is) => set({ not_seen: toggle(one.not_seen, group.id, is) })}
            />
          ))}
        </div>
        {!lookedAt(one, "combs") && (
          <Notice>Say first how many brood combs were read, and whether the bees were off.</Notice>
        )}
      </fieldset>
      <fieldset className="border-t border-line pt-3">
        <legend className="font-semibold">Of late, as far as you know</legend>
        <div className="grid gap-x-6 desk:grid-cols-2">
          {Object.entries(words.lately)
            .filter(([, about]) => about.asked)
            .map(([id, about]) => (
              <Checkbox
                key={id}
                label={about.says}
                checked={one.lately.includes(id)}
                onChange={(is) => set({ lately: toggle(one.lately, id, is) })}
              />
            ))}
        </div>
      </fieldset>
    </>
  );
}
