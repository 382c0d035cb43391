/** The work at one apiary: why it comes where it does, what is to be done, what to take along. */
import type { Schemas } from "@/client/types";
import { useSentence } from "@/features/session/use-sentence";
import { useMay } from "@/features/session/use-session";
import { VisitButtons } from "@/features/visits/visit-buttons";
import { plural } from "@/ui/dates";
import { LinkButton, TextLink } from "@/ui/link";
import { quantity } from "@/ui/units";
import { linesAt } from "./lines";

type Props = { work: Schemas["WorklistView"]; apiary: Schemas["ApiaryWork"]; first: boolean };

export function ApiaryWork({ work, apiary, first }: Props) {
  const say = useSentence();
  const mayRecord = useMay("record");
  const lines = linesAt(work, apiary);
  const [foremost] = apiary.due;
  const [next] = lines;
  return (
    <section aria-labelledby="there" className="py-2 pr-3 desk:py-0 desk:pr-0">
      <h2 id="there" className="text-2xl">
        {first ? `${apiary.apiary} first` : apiary.apiary}
      </h2>
      {foremost && <p className="mt-1">{say(foremost)}</p>}
      <div className="mt-3 flex flex-wrap gap-2">
        {next && mayRecord && !next.visit && (
          <LinkButton variant="main" {...next.link}>
            {next.act}
          </LinkButton>
        )}
        {mayRecord && apiary.due.some((one) => one.kind === "step") && (
          <LinkButton to="/treatment-round" search={{ apiary: apiary.apiary_id }}>
            Treatments, hive by hive
          </LinkButton>
        )}
        <LinkButton to="/apiaries/$id" params={{ id: apiary.apiary_id }}>
          Open {apiary.apiary}
        </LinkButton>
      </div>
      <h3 className="mt-4 font-sans text-base font-bold">To do there</h3>
      <ul className="mt-1">
        {lines.map((line) => (
          <li key={line.key} className="border-t border-line pb-1.5 first:border-t-0 desk:pt-1">
            <TextLink {...line.link} className="font-semibold">
              {line.what}
            </TextLink>
            <span className="block text-sm text-ink-2">{line.why}</span>
            {line.visit && mayRecord && (
              <div className="mt-1.5">
                <VisitButtons {...line.visit} main={line === next} />
              </div>
            )}
          </li>
        ))}
      </ul>
      <Take kit={apiary.kit} />
    </section>
  );
}

function Take({ kit }: { kit: Schemas["Kit"] }) {
  const things = [
    kit.washes > 0 && `${plural(kit.washes, "jar")} with liquid`,
    ...kit.doses.map((one) => `${quantity(one.quantity, one.unit)} (${one.name})`),
    ...kit.protection,
  ].filter(Boolean);
  if (things.length === 0) return null;
  return (
    <>
      <h3 className="mt-4 font-sans text-base font-bold">Take along</h3>
      <p className="mt-1 text-ink-2">
        {things.join(", ")}.{kit.doses.length > 0 && " Check your label."}
      </p>
    </>
  );
}
