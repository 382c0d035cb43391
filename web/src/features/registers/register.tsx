/** The register of treatments: one line a placing, what was added or amended since under it, and the way to paper. */
import { useInfiniteQuery } from "@tanstack/react-query";
import { useSearch } from "@tanstack/react-router";
import { registerQuery } from "@/client/queries";
import type { RegisterWanted, Schemas } from "@/client/types";
import { TreatmentDoors } from "@/features/treatments/doors";
import { Button, buttonClass } from "@/ui/button";
import { Loaded } from "@/ui/loaded";
import { Empty, Page, Title } from "@/ui/page";
import { RegisterFilter } from "./register-filter";
import { RegisterLine } from "./register-line";

export function Register() {
  const wanted = useSearch({ from: "/in/register" });
  const query = useInfiniteQuery(registerQuery(wanted));
  return (
    <Page>
      <TreatmentDoors />
      <Title>Register</Title>
      <RegisterFilter wanted={wanted} />
      <Loaded query={query} what="Fetching the register …">
        {(view) => (
          <>
            <Head view={view} wanted={wanted} />
            <ol className="mt-4 border-t-2 border-ink">
              {view.lines.map((one) => (
                <RegisterLine key={one.line.id} of={one} today={view.today} ofKeeper={wanted.keeper !== undefined} />
              ))}
            </ol>
            {query.hasNextPage && (
              <Button className="mt-4" disabled={query.isFetchingNextPage} onClick={() => void query.fetchNextPage()}>
                Show more
              </Button>
            )}
          </>
        )}
      </Loaded>
    </Page>
  );
}

function Head({ view, wanted }: { view: Schemas["RegisterView"]; wanted: RegisterWanted }) {
  const { lines, incomplete, void: gone } = view.count;
  if (lines === 0)
    return (
      <div className="mt-6">
        <Empty title="No line fits">
          A line is entered with each dose of a chemical product, and stays. What is amended is entered after it.
        </Empty>
      </div>
    );
  const query = new URLSearchParams(
    Object.entries(wanted).flatMap(([name, value]) => (value ? [[name, String(value)]] : [])),
  ).toString();
  const file = (kind: string) => `/api/v1/register.${kind}${query ? `?${query}` : ""}`;
  return (
    <div className="mt-5 flex flex-wrap items-end justify-between gap-4">
      <p>
        <span className="figure text-4xl">{lines}</span> {lines === 1 ? "line" : "lines"}
        {incomplete > 0 && (
          <>
            , <strong>{incomplete} incomplete</strong>
          </>
        )}
        {gone > 0 && `, ${gone} void`}. Kept for {view.years} years at least.
      </p>
      <div className="flex flex-wrap gap-2">
        <a className={buttonClass("main")} href={file("pdf")} download>
          Print the register (PDF)
        </a>
        <a className={buttonClass("plain")} href={file("csv")} download>
          All entries (CSV)
        </a>
      </div>
    </div>
  );
}
