/** A pest is looked for: what was counted, or how it looks by eye, and what was done about it at once. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { recordPestCheck } from "@/client/commands/pests";
import { pestsQuery } from "@/client/pest-queries";
import { apiaryQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { Checkbox } from "@/ui/checkbox";
import { ChoiceField } from "@/ui/choice";
import { DateField } from "@/ui/date-field";
import { SelectField, TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { Stepper } from "@/ui/stepper";
import { capital } from "@/wording/words";

type PestId = Schemas["PestCheckInput"]["pest"];
type Counted = Schemas["CountedInput"];

const NOTHING: Counted = { eggs: false, larvae: false, slime: false, stopped: false, abandoned: false };
const COUNTED: readonly PestId[] = ["beetle", "wasps"];

type Props = {
  at: { colony_id: string | null; apiary_id: string };
  today: string;
  /** Of combs in store only moth is scored. */
  stored?: boolean;
  onDone: () => Promise<void>;
};

export function PestForm({ at, today, stored = false, onDone }: Props) {
  const kinds = useQuery(pestsQuery).data;
  const [id] = useState(() => crypto.randomUUID());
  const [draft, set, kept] = useDraft(
    {
      pest: (stored ? "moth" : "") as PestId | "",
      score: null as number | null,
      counted: NOTHING,
      seen_on: today,
      done: "",
      note: "",
      robber: "",
      robbers_seen: true,
    },
    `pest:${at.colony_id ?? at.apiary_id}`,
  );
  const { pest } = draft;
  const save = useSave({
    kept,
    check: () => ({ pest: pest === "" && "choose what was looked for" }),
    act: () =>
      recordPestCheck({
        id,
        colony_id: at.colony_id,
        apiary_id: at.apiary_id,
        pest: pest as PestId,
        seen_on: draft.seen_on,
        score: draft.score,
        counted: draft.counted,
        done: draft.done,
        note: draft.note,
        robbers: draft.robber ? [draft.robber] : [],
        robbers_seen: draft.robbers_seen,
      }),
    done: onDone,
  });
  const field = bindFields(draft, set, save);
  if (!kinds) return null;
  const kind = pest === "" ? null : kinds[pest];
  return (
    <SaveForm
      save={save}
      kept={kept}
      fields={["pest", "score", "seen_on", "done", "note", "robbers"]}
      label="Record it"
      disabled={pest === ""}>
      {!stored && (
        <ChoiceField
          label="Looked for"
          value={pest}
          options={(Object.keys(kinds) as PestId[]).map((one) => [one, capital(kinds[one]?.name ?? one)] as const)}
          columns={2}
          error={save.at("pest")}
          onChange={(next) => set({ pest: next, score: null, counted: NOTHING })}
        />
      )}
      {kind && pest !== "" && (
        <>
          <p>{kind.how}</p>
          {pest === "beetle" && <Beetles counted={draft.counted} set={(counted) => set({ counted })} />}
          {pest === "wasps" && <Wasps counted={draft.counted} set={(counted) => set({ counted })} />}
          {!COUNTED.includes(pest) && (
            <ByEye kind={kind} score={draft.score} error={save.at("score")} onChange={(score) => set({ score })} />
          )}
          {COUNTED.includes(pest) && save.at("score") && (
            <p role="alert" className="font-semibold text-act">
              {save.at("score")}
            </p>
          )}
          {pest === "robbing" && at.colony_id && draft.score !== null && draft.score >= 2 && (
            <Robbers
              apiaryId={at.apiary_id}
              own={at.colony_id}
              robber={draft.robber}
              seen={draft.robbers_seen}
              set={set}
            />
          )}
          <TextField label="What was done" maxLength={400} {...field("done")} />
          <DateField label="Seen on" max={today} {...field("seen_on")} />
        </>
      )}
    </SaveForm>
  );
}

type CountProps = { counted: Counted; set: (counted: Counted) => void };

function Beetles({ counted, set }: CountProps) {
  return (
    <>
      <Stepper
        label="Adult beetles"
        value={counted.adults ?? null}
        most={2000}
        onChange={(adults) => set({ ...counted, adults })}
      />
      {(["eggs", "larvae", "slime"] as const).map((one) => (
        <Checkbox
          key={one}
          label={{ eggs: "Clusters of eggs", larvae: "Larvae in comb", slime: "Slimed comb" }[one]}
          checked={counted[one] === true}
          onChange={(is) => set({ ...counted, [one]: is })}
        />
      ))}
    </>
  );
}

function Wasps({ counted, set }: CountProps) {
  return (
    <>
      <Stepper
        label="Hovering, in five minutes"
        value={counted.hovering ?? null}
        most={500}
        onChange={(hovering) => set({ ...counted, hovering })}
      />
      <Stepper
        label="Going in"
        value={counted.going_in ?? null}
        most={500}
        onChange={(going) => set({ ...counted, going_in: going })}
      />
      <Checkbox
        label="The bees no longer defend, or no longer fly"
        checked={counted.stopped === true}
        onChange={(stopped) => set({ ...counted, stopped })}
      />
    </>
  );
}

type EyeProps = {
  kind: { scores: Record<string, { says: string; act: string[] }> };
  score: number | null;
  error: string | undefined;
  onChange: (score: number) => void;
};

/** Each score in words, with what it asks for under the one that is chosen. */
function ByEye({ kind, score, error, onChange }: EyeProps) {
  const scores = Object.entries(kind.scores);
  const chosen = score === null ? undefined : kind.scores[String(score)];
  return (
    <fieldset>
      <legend className="font-semibold">What is seen</legend>
      {[["0", { says: "none seen" }] as const, ...scores].map(([number, words]) => (
        <label key={number} className="flex min-h-14 items-center gap-3 border-t border-line desk:min-h-11">
          <input
            type="radio"
            name="score"
            className="h-5 w-5 accent-ink"
            checked={score === Number(number)}
            onChange={() => onChange(Number(number))}
          />
          {capital(words.says)}
        </label>
      ))}
      {chosen && (
        <ul className="mt-2 border-l-4 border-watch pl-3">
          {chosen.act.map((act) => (
            <li key={act}>{act}.</li>
          ))}
        </ul>
      )}
      {error && (
        <p role="alert" className="mt-1 font-semibold text-act">
          {error}
        </p>
      )}
    </fieldset>
  );
}

type RobberProps = {
  apiaryId: string;
  own: string;
  robber: string;
  seen: boolean;
  set: (part: { robber?: string; robbers_seen?: boolean }) => void;
};

/** Who robbed goes into what came and went, for tracing. */
function Robbers({ apiaryId, own, robber, seen, set }: RobberProps) {
  const apiary = useQuery(apiaryQuery(apiaryId));
  const others = (apiary.data?.colonies ?? []).filter((one) => one.id !== own && one.is_living);
  return (
    <>
      <SelectField
        label="Who robbed it"
        name="robbers"
        value={robber}
        options={[["", "not known"], ...others.map((one) => [one.id, one.label] as const)]}
        onChange={(next) => set({ robber: next })}
      />
      {robber && (
        <Checkbox
          label="Bees white with flour were seen there"
          checked={seen}
          onChange={(white) => set({ robbers_seen: white })}
        />
      )}
    </>
  );
}
