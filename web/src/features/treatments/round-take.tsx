/** Before the round: the product at hand and its label read, and what to take along. */
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { OxalicBatch } from "@/features/mixing/oxalic-batch";
import { useSay } from "@/features/session/use-say";
import { useMay, useSession } from "@/features/session/use-session";
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { FormError } from "@/ui/field";
import { Form, TextField } from "@/ui/fields";
import { SectionHeading } from "@/ui/page";
import { quantity } from "@/ui/units";
import { colonies } from "@/wording/words";
import type { Round, Stop } from "./round-stops";
import { useRecordAll, type Refusal } from "./record-all";
import { NO_FACTS, type FactsDraft } from "./step-facts";
import { factsSent } from "./step-facts-sent";

export function BeforeYouGo({ round }: { round: Round }) {
  const mayRecord = useMay("record");
  const waiting = round.stops.filter((stop) => stop.steps[0] === "prepare" && stop.is_due);
  const options = [...new Map(waiting.map((stop) => [stop.course.option.id, stop.course.option])).values()];
  if (options.length === 0 || !mayRecord) return null;
  return (
    <section aria-labelledby="before" className="border-4 border-ink bg-sheet p-4">
      <h2 id="before" className="text-xl">
        Before you go
      </h2>
      {options.map((option) => (
        <AtHand
          key={option.id}
          option={option}
          stops={waiting.filter((stop) => stop.course.option.id === option.id)}
          today={round.today}
        />
      ))}
    </section>
  );
}

type AtHandProps = { option: Schemas["OptionView"]; stops: Stop[]; today: string };

/** A step that is the same for all these hives. */
function useForAll(stops: Stop[], step: string, today: string) {
  const all = useRecordAll();
  const { person } = useSession();
  return useMutation({
    mutationFn: (facts: FactsDraft) =>
      all.record(
        stops.map((stop) => stop.course),
        () => ({ step, lot: "", note: "", outcome: "done", done_on: today, facts: factsSent(facts, person) }),
      ),
    onSettled: all.refresh,
  });
}

function Refused({ refused }: { refused: Refusal[] | undefined }) {
  const say = useSay();
  return refused?.map((one) => (
    <p key={one.id} role="alert" className="mt-1 font-semibold text-act">
      {one.label}: {say(one.problem.message)}
    </p>
  ));
}

/** One tick for all hives of an option: the product is there. */
function AtHand({ option, stops, today }: AtHandProps) {
  const record = useForAll(stops, "prepare", today);
  return (
    <div className="mt-2">
      <p>{option.name}: product at hand and in date, protective gear, label read.</p>
      <Button className="mt-2" variant="main" disabled={record.isPending} onClick={() => record.mutate(NO_FACTS)}>
        {record.isPending ? "Recording …" : `All at hand, for ${colonies(stops.length)}`}
      </Button>
      <Refused refused={record.data} />
      <FormError error={record.error} fields={[]} />
    </div>
  );
}

/** Back home: where the remains went, once for all hives of an option. */
export function BackHome({ round }: { round: Round }) {
  const mayRecord = useMay("record");
  const waiting = round.stops.filter((stop) => stop.steps[0] === "dispose");
  const options = [...new Map(waiting.map((stop) => [stop.course.option.id, stop.course.option])).values()];
  if (options.length === 0 || !mayRecord) return null;
  return (
    <section aria-labelledby="home">
      <SectionHeading id="home">Back home</SectionHeading>
      {options.map((option) => (
        <Remains
          key={option.id}
          option={option}
          stops={waiting.filter((stop) => stop.course.option.id === option.id)}
          today={round.today}
        />
      ))}
    </section>
  );
}

function Remains({ option, stops, today }: AtHandProps) {
  const [disposed, setDisposed] = useState("");
  const record = useForAll(stops, "dispose", today);
  return (
    <Form className="mt-2 space-y-3" onSubmit={() => record.mutate({ ...NO_FACTS, disposed })}>
      <p className="text-ink-2">
        {option.name}: {option.disposal}.
      </p>
      <TextField
        label="How and where the remains went"
        name={`${option.id}-disposed`}
        maxLength={400}
        value={disposed}
        onChange={setDisposed}
      />
      <Button type="submit" variant="main" disabled={record.isPending}>
        {record.isPending ? "Recording …" : `Record it for ${colonies(stops.length)}`}
      </Button>
      <Refused refused={record.data} />
      <FormError error={record.error} fields={[]} />
    </Form>
  );
}

/** How much of each product goes along, and from which lots. */
export function Doses({ round }: { round: Round }) {
  return round.take.doses.map((one) => (
    <li key={one.option_id} className="border-b border-line py-2">
      <strong className="figure text-2xl">{quantity(one.quantity, one.unit)}</strong> for {colonies(one.hives)}
      <span className="block">{one.name}</span>
      {one.lots.map((share) => (
        <span key={share.lot_id} className="block text-sm text-ink-2">
          {quantity(share.quantity, share.unit)} of {lotSaid(round, share.lot_id)}
        </span>
      ))}
      {one.lacking > 0 && <strong className="block text-act">{quantity(one.lacking, one.unit)} not in stock</strong>}
    </li>
  ));
}

export function TakeAlong({ round }: { round: Round }) {
  const { doses, kit, out, wear } = round.take;
  const solution = round.stops.filter(
    (stop) => stop.course.option.mixing === "oxalic_solution" && stop.steps.some((name) => name.startsWith("place_")),
  );
  if (doses.length + kit.length + out.length + wear.length === 0) return null;
  return (
    <section aria-labelledby="take">
      <SectionHeading id="take">Take along</SectionHeading>
      <ul>
        <Doses round={round} />
        {out.map((one) => (
          <li key={one.name} className="border-b border-line py-2">
            A closed bag for what comes out:{" "}
            <strong>{one.quantity === null ? "not known how much" : quantity(one.quantity, one.unit)}</strong> of{" "}
            {colonies(one.hives)}
            <span className="block text-sm text-ink-2">{one.name}. As many out as went in.</span>
          </li>
        ))}
        {kit.map((one) => (
          <li key={one.name} className="border-b border-line py-2">
            {one.name}, {colonies(one.hives)}, for each: {one.things.join(", ")}.
          </li>
        ))}
        {wear.length > 0 && <li className="border-b border-line py-2">Wear {wear.join(", ")}.</li>}
      </ul>
      {doses.length + out.length > 0 && <p className="mt-1 text-sm text-ink-2">Check your label.</p>}
      {solution.length > 0 && (
        <div className="mt-4">
          <OxalicBatch dosesMl={solution.flatMap((stop) => stop.course.dose_quantity ?? [])} />
        </div>
      )}
    </section>
  );
}

function lotSaid(round: Round, id: string): string {
  const lot = round.lots.find((one) => one.id === id);
  if (!lot) return "";
  const until = lot.expires_on ? `, use by ${shortDay(lot.expires_on, round.today)}` : "";
  return `${lot.product}, lot ${lot.lot || "not recorded"}${until}`;
}
