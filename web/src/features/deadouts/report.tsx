/** What a closed examination came to: causes, when, what its record says, what the neighbours need, what was found. */
import { useQuery } from "@tanstack/react-query";
import type { DeadOutView } from "@/client/commands/deadouts";
import { deadSignsQuery } from "@/client/deadout-queries";
import type { Schemas } from "@/client/types";
import { useSentence } from "@/features/session/use-sentence";
import { useSession } from "@/features/session/use-session";
import { TextLink } from "@/ui/link";
import { SectionHeading } from "@/ui/page";
import { weight } from "@/ui/units";
import { capital, NOT_ON_RECORD } from "@/wording/words";
import { DeadReading } from "./dead-reading";
import { STEPS } from "./steps";
import { When } from "./when";

export function Report({ view }: { view: DeadOutView }) {
  return (
    <div className="mt-5 grid items-start gap-x-10 gap-y-8 desk:grid-cols-[minmax(0,1fr)_24rem]">
      <div className="space-y-8">
        <DeadReading view={view} />
        <Found view={view} />
      </div>
      <div className="space-y-8">
        <When view={view} />
        <RecordSays view={view} />
        {view.reading.neighbours.length > 0 && (
          <section aria-labelledby="neighbours">
            <SectionHeading id="neighbours">The neighbours now</SectionHeading>
            <ul className="mt-2 list-disc space-y-1 pl-5">
              {view.reading.neighbours.map((line) => (
                <li key={line}>{line}.</li>
              ))}
            </ul>
          </section>
        )}
      </div>
    </div>
  );
}

const STRENGTH: Record<Schemas["ReadBackItem"]["strength"], string> = {
  clear: "clear",
  likely: "likely",
  possible: "possible",
};

/** The colony's own record read back; what nobody wrote down is a list for next year. */
function RecordSays({ view }: { view: DeadOutView }) {
  const { items, missing } = view.read_back;
  const say = useSentence();
  return (
    <section aria-labelledby="record-says">
      <SectionHeading id="record-says" says="of this colony alone">
        What its record says
      </SectionHeading>
      {items.length === 0 ? (
        <p className="mt-2">Nothing on record speaks of it.</p>
      ) : (
        <ul className="mt-2">
          {items.map((item) => (
            <li key={item.code} className="grid grid-cols-[5rem_1fr] gap-x-3 border-t border-line py-1.5">
              <span className="font-semibold">{STRENGTH[item.strength]}</span>
              <span>{capital(say(item))}.</span>
            </li>
          ))}
        </ul>
      )}
      {missing.length > 0 && (
        <p className="mt-2 text-ink-2">
          Not on record; to note next year: {missing.map((one) => NOT_ON_RECORD[one]).join("; ")}.
        </p>
      )}
    </section>
  );
}

/** What was found at each step, and what was looked for and not seen. */
function Found({ view }: { view: DeadOutView }) {
  const signs = useQuery(deadSignsQuery).data ?? [];
  const units = useSession().person;
  const name = (id: string) => signs.find((one) => one.id === id)?.name ?? id;
  return (
    <section aria-labelledby="found">
      <SectionHeading id="found" says={`${view.combs.read} of ${view.combs.of} combs read in side light`}>
        What was found
      </SectionHeading>
      <ul className="mt-2">
        {STEPS.map((step) => {
          const saved = view.steps.find((one) => one.step === step.id);
          const seen = seenAt(saved?.record, name, (kg) => weight(kg, units));
          const photos = view.photos.filter((one) => one.step === step.id);
          return (
            <li key={step.id} className="grid gap-x-4 border-t border-line py-1.5 desk:grid-cols-[8rem_1fr]">
              <TextLink
                to="/deadouts/$id"
                params={{ id: view.id }}
                search={{ step: step.id }}
                className="font-semibold">
                {step.name}
              </TextLink>
              <div>
                {!saved ? (
                  <span className="text-ink-2">not looked at</span>
                ) : (
                  <>
                    {seen.there.length > 0 && <p>{capital(seen.there.join("; "))}.</p>}
                    {seen.absent.length > 0 && (
                      <p className="text-ink-2">Looked for, not seen: {seen.absent.join(", ")}.</p>
                    )}
                    {seen.there.length === 0 && seen.absent.length === 0 && <p className="text-ink-2">gone through</p>}
                    {saved.record.note && <p>{saved.record.note}</p>}
                  </>
                )}
                {photos.length > 0 && (
                  <p className="mt-1 flex flex-wrap gap-2">
                    {photos.map((one) => (
                      <a key={one.id} href={`/api/v1/deadout-photos/${one.id}`} target="_blank" rel="noreferrer">
                        <img
                          src={`/api/v1/deadout-photos/${one.id}?small=true`}
                          alt={one.caption || `Photo of the step ${step.name}, ${one.by_name}`}
                          className="h-16 border border-line-2 object-cover"
                        />
                      </a>
                    ))}
                  </p>
                )}
              </div>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

const STORES = { none: "no food anywhere", far: "food a comb or 5 cm away", touching: "food next to the bees" };
const YOUNGEST = { eggs: "eggs", open: "open larvae", capped: "sealed brood", none: "no worker brood" };

type Figure = (kg: number) => string;

function seenAt(record: Schemas["DeadStepRecord"] | undefined, name: (id: string) => string, kg: Figure) {
  const there: string[] = [];
  const absent: string[] = [];
  if (!record) return { there, absent };
  for (const one of record.signs ?? []) {
    if (one.value === "absent" || one.value === 0) absent.push(name(one.sign));
    else if (one.sign === "d_stores_plenty" && typeof one.value === "number")
      there.push(`${kg(one.value)} of food left`);
    else if (typeof one.value === "number") there.push(`${name(one.sign)} (${one.value})`);
    else there.push(amount(name(one.sign), one.value));
  }
  if (record.is_shut) there.push("shut against bees");
  if (record.bees_look) there.push(record.bees_look === "soft" ? "bees soft" : "bees dry and brittle");
  if (record.bees_left != null) there.push(`about ${record.bees_left} dead bees left`);
  if (record.stores_place) there.push(STORES[record.stores_place]);
  if (record.youngest) there.push(`youngest brood: ${YOUNGEST[record.youngest]}`);
  if (record.drone_brood)
    there.push(`drone brood in worker cells, ${record.drone_brood === "capped" ? "sealed" : "emerged"}`);
  if (record.wash_bees != null && record.wash_mites != null)
    there.push(`${record.wash_mites} mites from ${record.wash_bees} dead bees`);
  const combs = record.combs ?? [];
  const onCombs = new Set(combs.flatMap((one) => (one.signs ?? []).map((sign) => name(sign.sign))));
  there.push(...onCombs);
  return { there, absent };
}

const amount = (name: string, value: string) => (value === "some" ? name : `${name} (${value})`);
