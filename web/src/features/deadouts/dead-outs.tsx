/** Colonies that died: those nobody has opened yet first, then what was found, what is held, what waits to be done. */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { deadOutsQuery } from "@/client/deadout-queries";
import type { Schemas } from "@/client/types";
import { useMay } from "@/features/session/use-session";
import { shortDay } from "@/ui/dates";
import { LinkButton, TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { Empty, Page, SectionHeading, Title } from "@/ui/page";
import { capital } from "@/wording/words";
import { BeginExamination } from "./found-dead";

type Line = Schemas["DeadOutLine"];
type Names = Schemas["DeadOutList"]["names"];

export function DeadOuts() {
  const query = useQuery(deadOutsQuery());
  return (
    <Page>
      <div className="flex flex-wrap items-end justify-between gap-4">
        <div>
          <Title>Dead colonies</Title>
          <p className="mt-1 max-w-prose text-ink-2">
            Those that died within thirteen months. A colony is recorded as dead on its own page; what it left stays
            until foulbrood is excluded.
          </p>
        </div>
        <LinkButton to="/winters">Winter losses</LinkButton>
      </div>
      <Loaded query={query} what="Looking up the dead …">
        {({ lines, names, today }) =>
          lines.length === 0 ? (
            <div className="mt-6">
              <Empty title="No colony died">What dies is listed here, to be read.</Empty>
            </div>
          ) : (
            <>
              <Part
                id="unread"
                title="Not opened yet"
                lines={lines.filter((one) => !one.deadout_id)}
                names={names}
                today={today}
              />
              <Part
                id="held"
                title="Begun, or held"
                lines={lines.filter((one) => one.deadout_id && (one.state === "draft" || !one.is_cleared))}
                names={names}
                today={today}
              />
              <Part
                id="released"
                title="Released"
                lines={lines.filter((one) => one.deadout_id && one.state !== "draft" && one.is_cleared)}
                names={names}
                today={today}
              />
            </>
          )
        }
      </Loaded>
    </Page>
  );
}

type PartProps = { id: string; title: string; lines: Line[]; names: Names; today: string };

function Part({ id, title, lines, names, today }: PartProps) {
  if (lines.length === 0) return null;
  return (
    <section aria-labelledby={id} className="mt-6">
      <SectionHeading id={id} says={`${lines.length}`}>
        {title}
      </SectionHeading>
      <ul>
        {lines.map((line) => (
          <Row key={line.colony_id} line={line} names={names} today={today} />
        ))}
      </ul>
    </section>
  );
}

function Row({ line, names, today }: { line: Line; names: Names; today: string }) {
  const mayRecord = useMay("record");
  return (
    <li
      className={clsx(
        "grid items-center gap-x-6 gap-y-1 border-b border-line py-2",
        "desk:grid-cols-[minmax(0,1fr)_minmax(0,1.4fr)_14rem]",
      )}>
      <div>
        <TextLink to="/colonies/$id" params={{ id: line.colony_id }} className="text-lg font-semibold">
          {line.label}, {line.apiary}
        </TextLink>
        <p className="text-ink-2">
          {line.keeper}; {line.colony_state} {shortDay(line.state_since, today)}
        </p>
      </div>
      <p>{finding(line, names)}</p>
      <div className="flex flex-wrap gap-2">
        {line.deadout_id ? (
          <>
            <LinkButton to="/deadouts/$id" params={{ id: line.deadout_id }} search={{}}>
              {line.state === "draft" ? "Go on" : "What was found"}
            </LinkButton>
            {line.state === "closed" && (
              <TextLink
                to="/colonies/$id/combs"
                params={{ id: line.colony_id }}
                className="inline-flex min-h-14 items-center desk:min-h-10">
                combs
              </TextLink>
            )}
          </>
        ) : (
          mayRecord && <BeginExamination colonyId={line.colony_id} foundOn={line.state_since} />
        )}
      </div>
    </li>
  );
}

function finding(line: Line, names: Names): string {
  if (!line.deadout_id) return "Nobody has opened it. What it left is held.";
  if (line.state === "draft") return "The examination was begun.";
  const chain = (line.chain ?? []).map((one) => names[one] ?? one);
  const cause = line.cause ? capital(chain.join(", then ") || (names[line.cause] ?? "")) : "It cannot be told yet";
  const held = line.is_suspect
    ? "foulbrood is suspected"
    : line.is_cleared
      ? line.to_do > 0
        ? `${line.to_do} combs or boxes wait to be done`
        : "released"
      : line.is_complete
        ? "held: say that foulbrood is excluded"
        : "held: not every comb was read";
  return `${cause}; ${held}.`;
}
