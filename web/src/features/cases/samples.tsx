/** The samples of a case: their blind codes, in whose hands they were, and what the laboratory wrote of them. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { askLaboratory } from "@/client/commands/cases";
import type { Schemas } from "@/client/types";
import { useSession } from "@/features/session/use-session";
import { Button } from "@/ui/button";
import { SectionHeading } from "@/ui/page";
import { HandOnForm } from "./hand-on-form";
import { SampleForm } from "./sample-form";
import { said, shortMoment, useCaseWords } from "./words";

type View = Schemas["CaseView"];
type Sample = Schemas["SampleView"];

const HANDS: Record<Schemas["CustodyRow"]["kind"], string> = {
  taken: "taken",
  sealed: "sealed",
  handed_over: "handed over",
  received: "received",
};
const RESULT: Record<string, string> = {
  found: "found",
  nothing_found: "nothing found",
  could_not_tell: "could not tell",
  unsuitable: "sample unsuitable",
};

export function Samples({ view }: { view: View }) {
  const { role } = useSession();
  const [form, setForm] = useState<"take" | Sample | null>(null);
  const maySample = role === "inspector" || (role === "mentor" && view.law.mentor_may_sample);
  const isOpen = view.line.state !== "closed";
  const out = view.samples.some((one) => one.documents.every((paper) => paper.kind !== "result"));
  if (!maySample && view.samples.length === 0) return null;
  return (
    <section aria-labelledby="samples">
      <SectionHeading id="samples">Samples</SectionHeading>
      {view.samples.length === 0 && <p className="mt-2 text-ink-2">None so far.</p>}
      <ul>
        {view.samples.map((one) => (
          <SampleItem
            key={one.sample.id}
            one={one}
            onHand={maySample && isOpen && one.documents.length === 0 ? () => setForm(one) : null}
          />
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap gap-2">
        {maySample && isOpen && <Button onClick={() => setForm("take")}>Take a sample</Button>}
        {view.samples.length > 0 && out && role !== "read_only" && <AskLaboratory id={view.line.case.id} />}
      </div>
      {form === "take" && <SampleForm view={view} onClose={() => setForm(null)} />}
      {form !== null && form !== "take" && <HandOnForm view={view} one={form} onClose={() => setForm(null)} />}
    </section>
  );
}

function SampleItem({ one, onHand }: { one: Sample; onHand: (() => void) | null }) {
  const { samples } = useCaseWords();
  const { sample } = one;
  return (
    <li className="border-b border-line py-2">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <span className="figure text-2xl">
          {sample.code.slice(0, 3)} {sample.code.slice(3)}
        </span>
        <span>
          {said(samples, sample.kind).name}, {sample.label}
          {sample.taken_from && `, ${sample.taken_from}`}
        </span>
        <a
          href={`/api/v1/case-samples/${sample.id}/label.pdf`}
          target="_blank"
          rel="noreferrer"
          aria-label={`Label of ${sample.code} (PDF)`}
          className="inline-flex min-h-14 min-w-14 items-center underline underline-offset-4 desk:min-h-9">
          Label
        </a>
        {onHand && (
          <Button aria-label={`Hand on ${sample.code}`} onClick={onHand}>
            Hand on
          </Button>
        )}
      </div>
      <ol className="text-ink-2">
        {one.custody.map((line) => (
          <li key={line.id}>
            {shortMoment(line.at)}: {HANDS[line.kind]}, {line.by_name}
            {line.to_name && ` to ${line.to_name}`}
            {line.seal && `, seal ${line.seal}`}
            {line.temperature_c !== null && `, ${line.temperature_c} °C`}
            {line.seal_whole === false && ", broken"}
          </li>
        ))}
      </ol>
      {one.gaps.map((gap) => (
        <p key={gap} className="font-semibold text-act">
          Custody: {gap}. The authority decides what a result is worth.
        </p>
      ))}
      {one.documents
        .filter((paper) => paper.kind === "result")
        .map((paper) => (
          <p key={paper.id} className="mt-1">
            <b>Result: {RESULT[String(paper.content["result"])] ?? "written"}</b>; {String(paper.content["method"])};
            {` ${shortMoment(paper.at)}`}, signed by {String(paper.content["signed_by"])}
          </p>
        ))}
    </li>
  );
}

/** Takes in what the laboratory has signed; says when there is nothing new. */
function AskLaboratory({ id }: { id: string }) {
  const client = useQueryClient();
  const asked = useMutation({
    mutationFn: () => askLaboratory(id),
    onSuccess: async () => client.invalidateQueries({ queryKey: ["cases"] }),
  });
  const news = asked.data?.samples.some((one) => one.documents.some((paper) => paper.kind === "result"));
  return (
    <>
      <Button disabled={asked.isPending} onClick={() => asked.mutate()}>
        Ask the laboratory
      </Button>
      <p role="status" className="self-center text-ink-2">
        {asked.isSuccess && !news && "Nothing new."}
        {asked.isError && "No answer: try again."}
      </p>
    </>
  );
}
