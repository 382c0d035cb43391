/** Where a colony has been: its apiaries, and what came to it and went from it. */
import { useQuery } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { useState } from "react";
import { colonyWhereQuery } from "@/client/movement-queries";
import { useMay } from "@/features/session/use-session";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { Button } from "@/ui/button";
import { Loaded } from "@/ui/loaded";
import { Page, SectionHeading, Title } from "@/ui/page";
import { ContactList } from "./contact-list";
import { MovementForm } from "./movement-form";
import { StayList } from "./stay-list";

export function ColonyWhere() {
  const { id } = useParams({ from: "/in/colonies/$id/where" });
  const query = useQuery(colonyWhereQuery(id));
  const mayRecord = useMay("record");
  const [open, setOpen] = useState(false);
  return (
    <Page>
      <Loaded query={query} what="Looking up where it has been …">
        {(where) => (
          <>
            <Breadcrumbs
              path={[{ name: where.label, to: "/colonies/$id", params: { id: where.colony_id }, search: {} }]}
            />
            <div className="flex flex-wrap items-end justify-between gap-4">
              <Title>{`Where ${where.label} has been`}</Title>
              {mayRecord && <Button onClick={() => setOpen(true)}>What came or went</Button>}
            </div>
            <section aria-labelledby="stood" className="mt-6">
              <SectionHeading id="stood">It stood at</SectionHeading>
              <StayList stays={where.stays} today={where.today} />
            </section>
            <section aria-labelledby="came" className="mt-6">
              <SectionHeading id="came" says="labels are those of the day">
                Came and went
              </SectionHeading>
              <ContactList lines={where.contacts} own={where.colony_id} today={where.today} />
            </section>
            {open && (
              <MovementForm
                colonyId={where.colony_id}
                label={where.label}
                today={where.today}
                onClose={() => setOpen(false)}
              />
            )}
          </>
        )}
      </Loaded>
    </Page>
  );
}
