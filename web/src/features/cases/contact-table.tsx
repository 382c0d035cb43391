/** A list of contacts, the most dangerous first, each with its way in words. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { plural, shortDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { SectionHeading } from "@/ui/page";
import { legSaid } from "./trace-lines";

type Contact = Schemas["Contact"];
type Outside = Schemas["OutsideContact"];
/** More low contacts than these are folded. */
const MOST_LOW = 4;
const STATUS: Record<Contact["status"], string> = { suspect: "suspect", clear: "clear since", unknown: "not known" };

export function ContactTable({
  id,
  title,
  contacts,
  outside,
  today,
}: {
  id: string;
  title: string;
  contacts: Contact[];
  outside: Outside[];
  today: string;
}) {
  const low = contacts.filter((one) => one.band === "low" && one.status !== "suspect");
  const folded = low.length > MOST_LOW ? low : [];
  const shown = folded.length > 0 ? contacts.filter((one) => !low.includes(one)) : contacts;
  const reached = contacts.filter((one) => one.is_reached).length;
  return (
    <section aria-labelledby={id}>
      <SectionHeading
        id={id}
        says={contacts.length > 0 ? `${reached} of ${contacts.length} examined since the case was found` : undefined}>
        {title}
      </SectionHeading>
      {contacts.length + outside.length === 0 ? (
        <p className="mt-2 max-w-prose text-ink-2">
          Nobody in the log. Ask for purchases, swarms, an extractor shared, second-hand combs, and record them where
          the colony has been.
        </p>
      ) : (
        <>
          <ul className="mt-2 border-t border-line">
            {outside.map((one) => (
              <OutsideLine key={`${one.place}${one.on}`} contact={one} today={today} />
            ))}
            {shown.map((one) => (
              <ContactLine key={one.colony_id} contact={one} today={today} />
            ))}
          </ul>
          {folded.length > 0 && (
            <details className="mt-1">
              <summary className="flex min-h-14 cursor-pointer items-center underline underline-offset-4 desk:min-h-8">
                {plural(folded.length, "low contact")} more
              </summary>
              <ul className="border-t border-line">
                {folded.map((one) => (
                  <ContactLine key={one.colony_id} contact={one} today={today} />
                ))}
              </ul>
            </details>
          )}
        </>
      )}
    </section>
  );
}

const LINE = "grid gap-x-4 border-b border-line py-2 desk:grid-cols-[4.5rem_minmax(0,1fr)_minmax(0,1.7fr)_17rem]";

function ContactLine({ contact, today }: { contact: Contact; today: string }) {
  return (
    <li className={LINE}>
      <Band band={contact.band} />
      <span>
        <TextLink to="/colonies/$id/where" params={{ id: contact.colony_id }}>
          {contact.label}, {contact.apiary}
        </TextLink>
        <span className="block text-ink-2">
          {contact.keeper}
          {!contact.is_living && "; lives no more"}
        </span>
      </span>
      <Way path={contact.path} isCertain={contact.is_certain} today={today} />
      <span className="text-ink-2">
        <span className={clsx("block", contact.status === "suspect" && "font-semibold text-act")}>
          {STATUS[contact.status]}
          {contact.status === "clear" && contact.examined && ` ${shortDay(contact.examined.on, today)}`}
        </span>
        {contact.status !== "clear" && <span className="block">{examinedSaid(contact.examined, today)}</span>}
        {contact.is_living && contact.status !== "clear" && (
          <span className={clsx("block", contact.see_by < today && "font-semibold text-act")}>
            see it by {shortDay(contact.see_by, today)}
          </span>
        )}
      </span>
    </li>
  );
}

function OutsideLine({ contact, today }: { contact: Outside; today: string }) {
  return (
    <li className={LINE}>
      <Band band={contact.band} />
      <span>
        <b>{contact.place}</b>
        <span className="block text-ink-2">elsewhere</span>
      </span>
      <Way path={contact.path} isCertain={contact.is_certain} today={today} />
      <span className="text-ink-2">for the authority to follow</span>
    </li>
  );
}

function Band({ band }: { band: Contact["band"] }) {
  return <span className={clsx("font-semibold", band === "high" && "text-act")}>{band}</span>;
}

export function Way({ path, isCertain, today }: { path: Schemas["Leg"][]; isCertain: boolean; today: string }) {
  return (
    <span>
      {path.map((leg) => legSaid(leg, today)).join("; then ")}
      {!isCertain && <span className="text-ink-2"> (possible: the order within a day is not known)</span>}
    </span>
  );
}

function examinedSaid(examined: Contact["examined"], today: string): string {
  if (examined === null) return "not examined";
  return `${examined.combs_read} of ${examined.brood_combs} brood combs read ${shortDay(examined.on, today)}`;
}
