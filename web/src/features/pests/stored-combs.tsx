/** Combs in store at an apiary: what was found of moth, and when they are looked at again. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { useState } from "react";
import { storedCombsQuery } from "@/client/pest-queries";
import { useMay } from "@/features/session/use-session";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { Loaded } from "@/ui/loaded";
import { Empty, Page, Title } from "@/ui/page";
import { Check } from "./colony-pests";
import { PestForm } from "./pest-form";

export function StoredCombs() {
  const { id } = useParams({ from: "/in/stored-combs/$id" });
  const query = useQuery(storedCombsQuery(id));
  const client = useQueryClient();
  const mayRecord = useMay("record");
  const [open, setOpen] = useState(false);
  return (
    <Page>
      <Breadcrumbs path={[{ name: "Apiary", to: "/apiaries/$id", params: { id } }]} />
      <Title>Combs in store</Title>
      <p className="mt-1 max-w-prose text-ink-2">
        Cold, light and airy below 10 °C, or frozen. Looked at every four weeks; with moth in a fortnight.
      </p>
      <Loaded query={query} what="Looking up combs in store …">
        {({ checks, today }) => (
          <>
            {checks.length === 0 ? (
              <div className="mt-5">
                <Empty title="Never looked at">Moth in stored combs is found by looking.</Empty>
              </div>
            ) : (
              <ul className="mt-4 max-w-prose">
                {checks.map((one, at) => (
                  <Check
                    key={one.check.id}
                    shown={one}
                    before={at === 0 ? checks.slice(1) : []}
                    today={today}
                    onWrong={null}
                  />
                ))}
              </ul>
            )}
            {mayRecord && (
              <Button variant="main" className="mt-4" onClick={() => setOpen(true)}>
                Look at them
              </Button>
            )}
            <Dialog open={open} onClose={() => setOpen(false)} title="Combs in store">
              <PestForm
                at={{ colony_id: null, apiary_id: id }}
                today={today}
                stored
                onDone={async () => {
                  await client.invalidateQueries({
                    predicate: ({ queryKey }) => queryKey[1] === id || queryKey[0] === "pests-ahead",
                  });
                  setOpen(false);
                }}
              />
            </Dialog>
          </>
        )}
      </Loaded>
    </Page>
  );
}
