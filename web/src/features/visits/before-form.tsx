/**
 * Before the hive is opened four things are asked: how warm, wind, rain, and the traffic at the entrance; the rest
 * stands behind More. Whether it is warm enough is said on top.
 */
import type { Schemas } from "@/client/types";
import { useReasons, useSentence } from "@/features/session/use-sentence";
import { Checkbox } from "@/ui/checkbox";
import { ChoiceField } from "@/ui/choice";
import { Notice } from "@/ui/page";
import { Stepper } from "@/ui/stepper";
import { temperature, type Units } from "@/ui/units";
import type { Before } from "./visit-queue";

type Asked = { [Name in keyof Before]?: readonly (readonly [string, string])[] };
const FIRST: Asked = {
  wind: [
    ["still", "still"],
    ["breezy", "breezy"],
    ["windy", "windy"],
  ],
  rain: [
    ["dry", "dry"],
    ["damp", "damp"],
    ["raining", "raining"],
  ],
  traffic: [
    ["none", "none"],
    ["light", "light"],
    ["normal", "normal"],
    ["heavy", "heavy"],
    ["fighting", "fighting"],
  ],
};
const REST: Asked = {
  purpose: [
    ["routine", "routine"],
    ["follow_up", "follow-up"],
    ["trace", "trace"],
    ["radius", "radius"],
    ["complaint", "complaint"],
    ["pre_movement", "before a move"],
    ["teaching", "teaching"],
  ],
  pollen_in: [
    ["none", "none"],
    ["few", "few"],
    ["many", "many"],
  ],
  dead_bees: [
    ["none", "none"],
    ["few", "few"],
    ["some", "some"],
    ["many", "many"],
  ],
  wax_bits: [
    ["none", "none"],
    ["few", "few"],
    ["many", "ragged, many"],
  ],
  mummies: [
    ["none", "none"],
    ["white", "white"],
    ["black", "black"],
    ["both", "both"],
  ],
};
const SAID: Record<string, string> = {
  purpose: "Why it is opened",
  wind: "Wind",
  rain: "Rain",
  traffic: "Traffic at the entrance",
  pollen_in: "Pollen coming in",
  dead_bees: "Dead bees in front of the hive",
  wax_bits: "Cappings at the entrance",
  mummies: "Mummies",
};

type SetBefore = (part: Partial<Before>) => void;
type Props = {
  content: Before;
  opening: Schemas["VisitFinding"][];
  units: Units;
  fault: { field: string; message: string } | null;
  onChange: SetBefore;
};

export function BeforeForm({ content, opening, units, fault, onChange: set }: Props) {
  const recorded = countRest(content);
  return (
    <div className="space-y-5">
      <MayItBeOpened opening={opening} />
      <div className="grid gap-x-6 gap-y-4 desk:grid-cols-2">
        <Stepper
          label="Air temperature"
          value={content.air_temp_c ?? null}
          least={-20}
          most={45}
          start={15}
          shown={(value) => temperature(value, units)}
          onChange={(value) => set({ air_temp_c: value })}
        />
        <Choices asked={FIRST} content={content} set={set} />
      </div>
      <details className="border-t border-line pt-2" open={fault !== null || undefined}>
        <summary className="min-h-10 font-semibold underline underline-offset-4">
          More: why it is opened, entrance, board{recorded > 0 ? ` (${recorded} recorded)` : ""}
        </summary>
        <Rest content={content} set={set} fault={fault} />
      </details>
    </div>
  );
}

/** How many of the things behind More are recorded: a routine visit is what is taken where nothing is said. */
function countRest(content: Before): number {
  const measured = [content.board_mites, content.board_seams, content.soiling].filter((one) => one != null).length;
  const said = [content.bees_under, content.emergency, content.note.trim() !== ""].filter(Boolean).length;
  const chosen = (Object.keys(REST) as (keyof Before)[]).filter((name) => content[name] && content[name] !== "routine");
  return measured + said + chosen.length;
}

function MayItBeOpened({ opening }: { opening: Schemas["VisitFinding"][] }) {
  const say = useSentence();
  const reasons = useReasons();
  if (opening.length === 0) return null;
  return (
    <div className="space-y-2" role="status">
      {opening.map((one) => (
        <Notice key={one.code} tone={one.level === "act" ? "act" : one.level === "watch" ? "watch" : "course"}>
          <strong>{say(one)}</strong> {reasons(one.because)}
        </Notice>
      ))}
    </div>
  );
}

function Choices({ asked, content, set }: { asked: Asked; content: Before; set: SetBefore }) {
  return (Object.entries(asked) as [keyof Before, readonly (readonly [string, string])[]][]).map(([name, options]) => (
    <ChoiceField
      key={name}
      label={SAID[name] ?? name}
      value={String(content[name] ?? "")}
      options={options}
      columns={options.length > 5 ? 4 : options.length}
      onChange={(value) => set({ [name]: value })}
    />
  ));
}

function Rest({ content, set, fault }: Pick<Props, "content" | "fault"> & { set: SetBefore }) {
  const at = (name: string) => (fault?.field.endsWith(name) ? fault.message : undefined);
  return (
    <div className="mt-3 space-y-5">
      <div className="grid gap-x-6 gap-y-4 desk:grid-cols-2">
        <Choices asked={REST} content={content} set={set} />
      </div>
      <div className="grid grid-cols-1 gap-4 desk:grid-cols-4">
        <Stepper
          label="Mites on the board"
          value={content.board_mites ?? null}
          most={100000}
          onChange={(value) => set({ board_mites: value, board_days: content.board_days ?? 3 })}
        />
        <Stepper
          label="Days it lay there"
          value={content.board_days ?? null}
          unit="days"
          least={1}
          most={60}
          start={3}
          onChange={(value) => set({ board_days: value })}
          error={at("board_days")}
        />
        <Stepper
          label="Seams of cappings on the board"
          value={content.board_seams ?? null}
          most={40}
          onChange={(value) => set({ board_seams: value })}
        />
        <Checkbox
          label="Bees hang under the floor"
          checked={content.bees_under ?? false}
          onChange={(under) => set({ bees_under: under })}
        />
        <Checkbox
          label="An emergency: it must be opened"
          checked={content.emergency}
          onChange={(emergency) => set({ emergency })}
        />
        <Stepper
          label="Soiling, 0 to 3"
          value={content.soiling ?? null}
          most={3}
          onChange={(value) => set({ soiling: value })}
        />
      </div>
      <label className="block">
        <span className="mb-1 block font-semibold">Note</span>
        <textarea
          className="input"
          rows={2}
          maxLength={2000}
          value={content.note}
          onChange={(event) => set({ note: event.target.value })}
        />
      </label>
    </div>
  );
}
