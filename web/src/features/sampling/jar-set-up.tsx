/** How a jar was filled: the measure of the bees, where they came from, and whether the queen is safe. */
import { useState } from "react";
import type { Units } from "@/ui/units";
import { VOLUME_UNIT, oneDecimal } from "@/ui/units";
import { Choice, ChoiceField } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { Button } from "@/ui/button";
import { Notice } from "@/ui/page";
import { PLACE_OF_BEES } from "@/wording/words";
import { Stepper } from "@/ui/stepper";
import { inJar, onBoard, type Jar, type Measure, type SetUp, type Method } from "./jars";

const METHODS: readonly (readonly [Method, string])[] = [
  ["wash", "wash"],
  ["sugar", "sugar roll"],
  ["co2", "CO2 roll"],
  ["board", "board"],
  ["drone_brood", "drone brood"],
  ["look", "looked"],
];
const METHOD_SAYS: Partial<Record<Method, string>> = {
  wash: "The bees die; most mites are found.",
  sugar: "The bees live; about 75 in 100 mites are found.",
  co2: "The bees wake; about 60 in 100 are found. A screening.",
  board: "Mites fallen in 1 to 3 days, on a scale of their own.",
  drone_brood: "Cells opened and infested, on a scale of their own.",
  look: "Mites sit under the plates: looking is never a rate.",
};
const MEASURES: readonly (readonly [Measure, string])[] = [
  ["volume_level", "level scoop"],
  ["volume_heaped", "heaped scoop"],
  ["mass_dry", "dry bees, scale"],
  ["counted", "counted"],
  ["photo", "from a photo"],
  ["not_recorded", "not recorded"],
];
const PLACES = Object.entries(PLACE_OF_BEES) as [Jar["place"], string][];
const BROOD: readonly (readonly [Jar["brood"], string])[] = [
  ["open_and_capped", "open and sealed"],
  ["capped_only", "sealed only"],
  ["none", "none"],
  ["not_seen", "not looked"],
];

type Props = { jar: Jar; units: Units; onClose: () => void; onKeep: (next: SetUp, all: boolean) => void };
type PartProps = { next: SetUp; set: (part: Partial<SetUp>) => void };
type VolumeUnit = { label: string; ml: number; step: number; usual: number };

export function JarSetUp({ jar, units, onClose, onKeep }: Props) {
  const [next, setNext] = useState<SetUp>(jar);
  const set = (part: Partial<SetUp>) => setNext((old) => ({ ...old, ...part }));
  return (
    <Dialog open onClose={onClose} title={`${jar.label}: method and sample`}>
      <div className="space-y-5">
        <div>
          <p className="mb-1 font-semibold">Method of counting</p>
          <Choice
            label="Method of counting"
            value={next.method === "board_after_treatment" ? "board" : next.method}
            options={METHODS}
            onChange={(method) => set({ method })}
            columns={3}
          />
          <p className="mt-1 text-sm text-ink-2">{METHOD_SAYS[next.method]}</p>
        </div>
        {onBoard(next.method) && <BoardPart next={next} set={set} />}
        {next.method === "drone_brood" && (
          <Stepper
            label="Patches opened"
            value={next.patches}
            least={1}
            most={50}
            start={2}
            onChange={(value) => set({ patches: value ?? 1 })}
          />
        )}
        {inJar(next.method) && <JarPart next={next} set={set} units={units} />}
        <ChoiceField
          label="Brood"
          value={next.brood}
          options={BROOD}
          onChange={(brood) => set({ brood })}
          columns={2}
        />
        <div className="grid grid-cols-2 gap-2">
          <Button onClick={() => onKeep(next, true)}>Same for all jars</Button>
          <Button variant="main" onClick={() => onKeep(next, false)}>
            Use it
          </Button>
        </div>
      </div>
    </Dialog>
  );
}

function BoardPart({ next, set }: PartProps) {
  return (
    <>
      <Choice
        label="What falls"
        value={next.method}
        options={[
          ["board", "natural fall"],
          ["board_after_treatment", "after a treatment"],
        ]}
        onChange={(method) => set({ method })}
      />
      <Stepper
        label="Squares of the grid"
        value={next.squaresInAll}
        least={1}
        most={100}
        start={1}
        shown={(value) => (value === 1 ? "no grid: all of it" : `${value} squares`)}
        onChange={(value) => set({ squaresInAll: value ?? 1 })}
      />
      {next.squaresInAll > 1 && (
        <p className="text-sm text-ink-2">
          Count some squares spread over the board, three at least: mites lie in stripes under the seams of bees.
        </p>
      )}
    </>
  );
}

/** How the bees are known, where they were taken, and whether the queen is safe. */
function JarPart({ next, set, units }: PartProps & { units: Units }) {
  const unit: VolumeUnit = VOLUME_UNIT[units.volume] ?? { label: "ml", ml: 1, step: 5, usual: 120 };
  const measure = (knownBy: Measure) =>
    set({
      knownBy,
      volumeMl: knownBy.startsWith("volume") ? (next.volumeMl ?? unit.usual * unit.ml) : next.volumeMl,
      massG: knownBy === "mass_dry" ? (next.massG ?? 38) : next.massG,
      bees: knownBy === "counted" || knownBy === "photo" ? (next.bees ?? 300) : next.bees,
    });
  return (
    <>
      <div>
        <p className="mb-1 font-semibold">Bees known by</p>
        <Choice label="Bees known by" value={next.knownBy} options={MEASURES} onChange={measure} columns={3} />
        <Amount next={next} set={set} unit={unit} />
        {next.knownBy === "not_recorded" && (
          <div className="mt-2">
            <Notice>Without the bees there is no rate. 300 is never assumed.</Notice>
          </div>
        )}
      </div>
      <div>
        <p className="mb-1 font-semibold">Bees taken from</p>
        <Choice
          label="Bees taken from"
          value={next.place}
          options={PLACES}
          onChange={(place) => set({ place })}
          columns={2}
        />
        {(next.place === "super" || next.place === "entrance") && (
          <div className="mt-2">
            <Notice>Bees from here carry fewer mites than nurses: the count reads low and cannot show clear.</Notice>
          </div>
        )}
      </div>
      <div>
        <p className="mb-1 font-semibold">Queen seen safe</p>
        <Choice
          label="Queen seen safe"
          value={next.queen}
          options={[
            ["yes", "yes"],
            ["no", "no"],
            ["not_looked", "not looked"],
          ]}
          onChange={(queen) => set({ queen })}
        />
        {next.queen === "no" && next.method === "wash" && (
          <div className="mt-2">
            <Notice tone="act">
              A wash kills the sample. Look over the frame on both sides again before you pour.
            </Notice>
          </div>
        )}
      </div>
    </>
  );
}

/** The measure of the bees, stepped: a volume, a mass, or a number. */
function Amount({ next, set, unit }: PartProps & { unit: VolumeUnit }) {
  const shown = next.knownBy.startsWith("volume")
    ? {
        value: oneDecimal((next.volumeMl ?? 0) / unit.ml),
        unit: unit.label,
        by: unit.step,
        set: (by: number) => set({ volumeMl: Math.min(1000, Math.max(5, (next.volumeMl ?? 0) + by * unit.ml)) }),
      }
    : next.knownBy === "mass_dry"
      ? {
          value: oneDecimal(next.massG ?? 0),
          unit: "g",
          by: 1,
          set: (by: number) => set({ massG: Math.min(500, Math.max(1, (next.massG ?? 0) + by)) }),
        }
      : next.knownBy === "counted" || next.knownBy === "photo"
        ? {
            value: String(next.bees ?? 0),
            unit: "bees",
            by: 10,
            set: (by: number) => set({ bees: Math.min(5000, Math.max(1, (next.bees ?? 0) + by)) }),
          }
        : null;
  if (shown === null) return null;
  return (
    <div className="mt-3 grid grid-cols-[1fr_1fr_auto_1fr_1fr] items-center gap-2">
      <Button aria-label={`${shown.by * 5} ${shown.unit} less`} onClick={() => shown.set(-shown.by * 5)}>
        −{shown.by * 5}
      </Button>
      <Button aria-label={`${shown.by} ${shown.unit} less`} onClick={() => shown.set(-shown.by)}>
        −{shown.by}
      </Button>
      <output className="figure min-w-24 text-center text-3xl">
        {shown.value}
        <span className="block font-sans text-sm font-normal">{shown.unit}</span>
      </output>
      <Button aria-label={`${shown.by} ${shown.unit} more`} onClick={() => shown.set(shown.by)}>
        +{shown.by}
      </Button>
      <Button aria-label={`${shown.by * 5} ${shown.unit} more`} onClick={() => shown.set(shown.by * 5)}>
        +{shown.by * 5}
      </Button>
    </div>
  );
}
