/** The case room: every suspect case that is open, where it stands, for whom it waits, and what is late. */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { casesQuery } from "@/client/case-queries";
import type { Schemas } from "@/client/types";
import { useMay, useSession } from "@/features/session/use-session";
import { Choice } from "@/ui/choice";
import { shortDay } from "@/ui/dates";
import { Loaded } from "@/ui/loaded";
import { Empty, Page, Title } from "@/ui/page";
import { CommonSources } from "./common-sources";
import { RaiseCase } from "./raise-case";
import { hoursSaid, said, useCaseWords, whoSays } from "./words";

export function Cases() {
  const { closed = false } = useSearch({ from: "/in/cases" });
  const navigate = useNavigate();
  const mayRecord = useMay("record");
  const { role } = useSession();
  const query = useQuery(casesQuery(closed ? { closed } : {}));
  return (
    <Page>
      <div className="flex flex-wrap items-end justify-between gap-4">
        <div>
          <Title>Cases</Title>
          <p className="mt-1 max-w-prose text-ink-2">
            What a visit or a person suspects of a notifiable disease, step by step. Only the laboratory confirms, only
            the authority orders.
          </p>
        </div>
        {mayRecord && <RaiseCase />}
      </div>
      <div className="mt-5 max-w-80">
        <Choice
          label="Which cases"
          value={closed ? "closed" : "open"}
          options={[
            ["open", "open"],
            ["closed", "closed"],
          ]}
          onChange={(which) => void navigate({ to: "/cases", search: which === "closed" ? { closed: true } : {} })}
        />
      </div>
      <Loaded query={query} what="Looking up the cases …">
        {(lines) =>
          lines.length === 0 ? (
            <div className="mt-6">
              <Empty title={closed ? "No case was closed yet" : "No open case"}>
                {closed
                  ? "What is closed stays here with its whole record."
                  : "A visit that finds what may be a notifiable disease opens one by itself."}
              </Empty>
            </div>
          ) : (
            <ul className="mt-5 border-t border-line">
              {lines.map((line) => (
                <CaseRow key={line.case.id} line={line} />
              ))}
            </ul>
          )
        }
      </Loaded>
      {!closed && (role === "inspector" || role === "administrator") && <CommonSources />}
    </Page>
  );
}

function CaseRow({ line }: { line: Schemas["CaseLine"] }) {
  const { words } = useCaseWords();
  const row = line.case;
  return (
    <li className="border-b border-line">
      <Link
        to="/cases/$id"
        params={{ id: row.id }}
        className={clsx(
          "grid gap-x-6 gap-y-1 py-3 hover:bg-sheet",
          "desk:grid-cols-[6rem_minmax(0,1.4fr)_minmax(0,1fr)_minmax(0,1fr)] desk:items-baseline",
        )}>
        <span className="figure text-xl">{row.number}</span>
        <span>
          <span className="block font-head text-lg font-semibold">
            {said(words.diseases, row.disease)}, {said(words.states, line.state).name}
          </span>
          <span className="block text-ink-2">
            {row.label}, {row.apiary}; {row.keeper}; found {shortDay(row.found_on)}
          </span>
        </span>
        <span>
          {line.waits_for.length > 0 && (
            <span className="block">
              Waits for <b>{whoSays(line.waits_for)}</b>
            </span>
          )}
          {line.due && (
            <span className="block text-ink-2">
              from {shortDay(line.due.first)} to {shortDay(line.due.last)}
            </span>
          )}
          <span className="block text-ink-2">{said(words.holds, row.hold)}</span>
        </span>
        {line.clock ? <ClockLine clock={line.clock} /> : <span />}
      </Link>
    </li>
  );
}

/** A clock in words and colour: how long, of how long. */
export function ClockLine({ clock }: { clock: Schemas["Clock"] }) {
  const { words } = useCaseWords();
  const allowed = clock.allowed_h === null ? "" : ` of ${hoursSaid(clock.allowed_h)}`;
  return (
    <span className={clsx("block", clock.is_over && "font-semibold text-act")}>
      {hoursSaid(clock.hours)}
      {allowed}
      {clock.is_over && ", late"}
      <span className="block text-ink-2">{said(words.clocks, clock.id)}</span>
    </span>
  );
}
