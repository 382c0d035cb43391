/** A step of the walk: what is looked for there, and the few figures and days that belong to it. */
import type { DeadOutView, DeadStep } from "@/client/commands/deadouts";
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";
import { ChoiceField } from "@/ui/choice";
import { DateField } from "@/ui/date-field";
import { TextArea } from "@/ui/fields";
import { Stepper } from "@/ui/stepper";
import { CombsStep } from "./combs-step";
import { SignRow } from "./sign-row";
import type { SetStep, StepRecord } from "./use-dead-out";

export type StepProps = {
  view: DeadOutView;
  content: StepRecord;
  set: SetStep;
  signs: Schemas["DeadSign"][];
  at: (field: string) => string | undefined;
};

/** Follow from what else is recorded: where the food was, mites among the bees that were washed. */
const FOLLOWS = ["d_stores_none", "d_stores_far", "d_stores_contact", "d_wash_high"];
/** Recorded on the comb in hand. */
const ON_COMBS = ["d_guanine", "d_scale_stuck", "d_dysentery_in", "d_moth_webbing", "d_shb_larvae_slime", "d_mouse"];

export function StepForm({ step, ...props }: StepProps & { step: DeadStep }) {
  const { content, set, signs } = props;
  const own = signs.filter(
    (one) =>
      one.step === step &&
      !FOLLOWS.includes(one.id) &&
      !(step === "combs" && props.view.place.combs.length > 0 && ON_COMBS.includes(one.id)),
  );
  const put = (sign: string, value: Schemas["DeadSeen"]["value"] | undefined) => {
    const others = (content.signs ?? []).filter((one) => one.sign !== sign);
    set({ signs: value === undefined ? others : [...others, { sign, value, effort: "standard" }] });
  };
  const fault = props.at("signs");
  const unseen = own.filter((sign) => !(content.signs ?? []).some((one) => one.sign === sign.id));
  return (
    <div className="space-y-4">
      <OwnFields step={step} {...props} />
      {unseen.length > 1 && step !== "record" && (
        <Button
          className="w-full"
          onClick={() =>
            set({
              signs: [
                ...(content.signs ?? []),
                ...unseen
                  .filter((sign) => sign.scale !== "kg")
                  .map((sign) => ({
                    sign: sign.id,
                    value: sign.scale === "mm" ? 0 : ("absent" as const),
                    effort: "standard" as const,
                  })),
              ],
            })
          }>
          Looked at all the rest: none of it
        </Button>
      )}
      <div>
        {own.map((sign) => (
          <SignRow
            key={sign.id}
            sign={sign}
            value={(content.signs ?? []).find((one) => one.sign === sign.id)?.value}
            onChange={(value) => put(sign.id, value)}
          />
        ))}
      </div>
      {fault && (
        <p role="alert" className="font-semibold text-act">
          {fault}
        </p>
      )}
      <TextArea label="Note" name={`note-${step}`} value={content.note ?? ""} onChange={(note) => set({ note })} />
    </div>
  );
}

function OwnFields({ step, ...props }: StepProps & { step: DeadStep }) {
  switch (step) {
    case "shut":
      return <Shut {...props} />;
    case "outside":
      return <Days {...props} />;
    case "cluster":
      return <Cluster {...props} />;
    case "queen":
      return <BeesLeft {...props} />;
    case "stores":
      return <StoresPlace {...props} />;
    case "brood":
      return <LastBrood {...props} />;
    case "combs":
      return <CombsStep {...props} />;
    case "cells":
      return <CellsOpened {...props} />;
    case "wash":
      return <Wash {...props} />;
    case "record":
      return <RecordFields {...props} />;
    default:
      return null;
  }
}

const SURE = [
  ["opened", "opened: nothing moves"],
  ["ear", "ear to the wall"],
  ["breath", "glass at the entrance"],
  ["tap", "a tap, no answer"],
] as const;

function Shut({ content, set, at }: StepProps) {
  const sure = content.sure_by ?? [];
  return (
    <>
      <fieldset>
        <legend className="font-semibold">Dead for sure, by</legend>
        {SURE.map(([id, name]) => (
          <Checkbox
            key={id}
            label={name}
            checked={sure.includes(id)}
            onChange={(is) => set({ sure_by: is ? [...sure, id] : sure.filter((one) => one !== id) })}
          />
        ))}
      </fieldset>
      <ChoiceField
        label="Shut against bees"
        value={content.is_shut == null ? "" : content.is_shut ? "yes" : "no"}
        options={[
          ["no", "not yet"],
          ["yes", "shut at every joint"],
        ]}
        error={at("is_shut")}
        onChange={(shut) => set({ is_shut: shut === "yes" })}
      />
    </>
  );
}

function Days({ view, content, set, at }: StepProps) {
  return (
    <div className="grid gap-4 desk:grid-cols-2">
      <DateField
        label="First flying day without flight"
        name="no_flight_since"
        max={view.today}
        value={content.no_flight_since ?? ""}
        error={at("no_flight_since")}
        onChange={(day) => set({ no_flight_since: day || null })}
      />
      <DateField
        label="Robbing was seen on"
        name="robbing_seen_on"
        max={view.today}
        value={content.robbing_seen_on ?? ""}
        error={at("robbing_seen_on")}
        onChange={(day) => set({ robbing_seen_on: day || null })}
      />
    </div>
  );
}

function Cluster({ content, set }: StepProps) {
  return (
    <>
      <ChoiceField
        label="The dead bees are"
        value={content.bees_look ?? ""}
        options={[
          ["", "not looked at"],
          ["soft", "soft"],
          ["dry", "dry and brittle"],
        ]}
        onChange={(look) => set({ bees_look: look || null })}
      />
      <Stepper
        label="Seams of dead bees"
        value={content.seams ?? null}
        step={0.5}
        most={40}
        onChange={(seams) => set({ seams })}
      />
    </>
  );
}

function BeesLeft({ content, set }: StepProps) {
  return (
    <Stepper
      label="Dead bees left in all, about"
      value={content.bees_left ?? null}
      step={100}
      most={30000}
      start={100}
      onChange={(left) => set({ bees_left: left })}
    />
  );
}

function StoresPlace({ content, set, at }: StepProps) {
  return (
    <ChoiceField
      label="The food was"
      value={content.stores_place ?? ""}
      options={[
        ["", "not looked at"],
        ["none", "nowhere"],
        ["far", "a comb or 5 cm away"],
        ["touching", "next to the bees"],
      ]}
      columns={2}
      error={at("stores_place")}
      onChange={(place) => set({ stores_place: place || null })}
    />
  );
}

function LastBrood({ content, set }: StepProps) {
  return (
    <>
      <ChoiceField
        label="Youngest worker brood"
        value={content.youngest ?? ""}
        options={[
          ["", "not looked at"],
          ["eggs", "eggs"],
          ["open", "open larvae"],
          ["capped", "sealed only"],
          ["none", "none"],
        ]}
        columns={3}
        onChange={(youngest) => set({ youngest: youngest || null })}
      />
      <ChoiceField
        label="Drone brood in worker cells"
        value={content.drone_brood ?? ""}
        options={[
          ["", "none, or not looked at"],
          ["capped", "sealed"],
          ["emerged", "emerged already"],
        ]}
        onChange={(drone) => set({ drone_brood: drone || null })}
      />
      <ChoiceField
        label="Emergency queen cells"
        value={content.queen_cells ?? ""}
        options={[
          ["", "none, or not looked at"],
          ["sealed", "sealed"],
          ["opened", "opened by a queen"],
        ]}
        onChange={(cells) => set({ queen_cells: cells || null })}
      />
    </>
  );
}

function CellsOpened({ content, set }: StepProps) {
  return (
    <Stepper
      label="Cells opened"
      value={content.cells_opened ?? null}
      step={5}
      most={2000}
      start={10}
      onChange={(opened) => set({ cells_opened: opened })}
    />
  );
}

function Wash({ content, set, at }: StepProps) {
  const { wash_bees: bees, wash_mites: mites } = content;
  return (
    <>
      <div className="grid gap-4 desk:grid-cols-2">
        <Stepper
          label="Dead bees washed"
          value={bees ?? null}
          step={10}
          most={2000}
          start={200}
          error={at("wash_bees")}
          onChange={(value) => set({ wash_bees: value, wash_mites: mites ?? 0 })}
        />
        <Stepper
          label="Mites"
          value={mites ?? null}
          most={5000}
          error={at("wash_mites")}
          onChange={(value) => set({ wash_mites: value, wash_bees: bees ?? 200 })}
        />
      </div>
      {bees != null && bees > 0 && mites != null && (
        <p className="flex flex-wrap items-center gap-x-3">
          <strong>{(Math.round((1000 * mites) / bees) / 10).toFixed(1)} per 100 dead bees</strong>
          {bees < 100 && <span className="text-ink-2">fewer than 100 bees tell little</span>}
          <Button variant="quiet" onClick={() => set({ wash_bees: null, wash_mites: null })}>
            No wash was done
          </Button>
        </p>
      )}
    </>
  );
}

function RecordFields({ view, content, set, at }: StepProps) {
  const day = (field: "alive_on" | "sensor_warm_on" | "sensor_cold_on", label: string) => (
    <DateField
      label={label}
      name={field}
      max={view.today}
      value={content[field] ?? ""}
      error={at(field)}
      onChange={(next) => set({ [field]: next || null })}
    />
  );
  return (
    <>
      <div className="grid gap-4 desk:grid-cols-2">
        {day("alive_on", "Seen alive last, by your own note")}
        {day("sensor_warm_on", "Sensor: still much warmer than the air")}
        {day("sensor_cold_on", "Sensor: as cold as the air for two days")}
      </div>
      <ChoiceField
        label="Medicines of the last season"
        value={content.medicines_declared == null ? "" : content.medicines_declared ? "yes" : "no"}
        options={[
          ["", "not asked"],
          ["yes", "declared by the keeper"],
          ["no", "nobody can say"],
        ]}
        onChange={(said) => set({ medicines_declared: said === "" ? null : said === "yes" })}
      />
      {content.medicines_declared && (
        <>
          <TextArea
            label="Which, and when"
            name="medicines"
            value={content.medicines ?? ""}
            onChange={(medicines) => set({ medicines })}
          />
          <Checkbox
            label="One was still within its residue days"
            checked={content.medicines_open === true}
            onChange={(open) => set({ medicines_open: open })}
          />
        </>
      )}
      {view.reading.flags.includes("POISON_SAMPLE") && (
        <ChoiceField
          label="Residues in the bees"
          value={content.residue_result ?? ""}
          options={[
            ["", "not known yet"],
            ["found", "found"],
            ["not_found", "not found"],
          ]}
          onChange={(result) => set({ residue_result: result || null })}
        />
      )}
    </>
  );
}
