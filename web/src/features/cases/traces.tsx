/**
 * The traces of a case: from whom it may have come and to whom it may have gone, each contact with its way in words,
 * when it was examined last and by when it is to be seen.
 */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { tracesQuery } from "@/client/case-queries";
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { SectionHeading } from "@/ui/page";

type Contact = Schemas["Contact"];

const KIND: Record<Schemas["Leg"]["kind"], string> = {
  brood_frame: "brood comb",
  honey_frame: "comb with food",
  drawn_comb: "comb",
  bees: "bees",
  queen: "queen",
  swarm: "swarm",
  package: "package",
  equipment: "gear",
  honey_fed: "honey fed",
  tools: "tools of the round",
  merge: "merged",
  split: "split",
  robbing: "robbing",
  same_apiary: "stood together",
  transfer: "hung in",
};

export function TracesOfCase({ id }: { id: string }) {
  const query = useQuery(tracesQuery(id));
  return (
    <section aria-labelledby="tracing" className="mt-8">
      <SectionHeading id="tracing" says="by what is on record; nobody is contacted before the authority says so">
        Tracing
      </SectionHeading>
      <Loaded query={query} what="Following combs, bees and tools …">
        {(traces) => (
          <>
            <p className="mt-2 max-w-prose text-ink-2">
              Sources are sought back to {shortDay(traces.window.back_to, traces.today)}; it may have spread from{" "}
              {shortDay(traces.window.infectious_from, traces.today)} on
              {traces.window.assumed
                ? ", an assumption: no examination of all its brood without a sign is on record."
                : ", the day after all its brood was seen without a sign."}
            </p>
            <div className="mt-3 grid gap-x-10 gap-y-6 desk:grid-cols-2">
              <List title="It may have come from" contacts={traces.sources} />
              <List title="It may have gone to" contacts={traces.spread} />
            </div>
          </>
        )}
      </Loaded>
    </section>
  );
}

function List({ title, contacts }: { title: string; contacts: Contact[] }) {
  return (
    <div>
      <h3 className="font-semibold">{title}</h3>
      {contacts.length === 0 ? (
        <p className="mt-1 text-ink-2">
          Nobody in the log. Ask for purchases, swarms, an extractor shared, second-hand combs.
        </p>
      ) : (
        <ul className="mt-1 border-t border-line">
          {contacts.map((one) => (
            <ContactLine key={one.colony_id} contact={one} />
          ))}
        </ul>
      )}
    </div>
  );
}

function ContactLine({ contact }: { contact: Contact }) {
  return (
    <li className="border-b border-line py-2">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <span className={clsx("w-16 font-semibold", contact.band === "high" && "text-act")}>{contact.band}</span>
        <TextLink to="/colonies/$id" params={{ id: contact.colony_id }} search={{}}>
          {contact.label}, {contact.apiary}
        </TextLink>
        <span className="text-ink-2">
          {contact.keeper}
          {!contact.is_living && "; lives no more"}
        </span>
      </p>
      <p>
        {contact.path.map(legSaid).join("; then ")}
        {!contact.is_certain && <span className="text-ink-2"> (possible: the order within a day is not known)</span>}
      </p>
      <p className="text-ink-2">
        {contact.last_examined ? `examined ${shortDay(contact.last_examined)}` : "not examined"}; see it by{" "}
        {shortDay(contact.see_by)}
      </p>
    </li>
  );
}

/** "brood comb 1 May, A to B"; what is gathered by rule is said to be. */
function legSaid(leg: Schemas["Leg"]): string {
  const day = leg.earliest === leg.latest ? shortDay(leg.earliest) : "";
  return `${KIND[leg.kind]}${day && ` ${day}`}, ${leg.origin} to ${leg.target}`;
}
