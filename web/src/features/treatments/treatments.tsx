/** Treatments: what is to be decided, done and verified, across all apiaries. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { workQuery } from "@/client/queries";
import { treatmentGroups } from "@/features/planning/lines";
import { WorkList } from "@/features/planning/work-list";
import { Button } from "@/ui/button";
import { KeyBar } from "@/ui/key-bar";
import { LIST_KEYS } from "@/ui/list-cursor";
import { Loaded } from "@/ui/loaded";
import { TreatmentDoors } from "./doors";
import { Empty, Page, Title } from "@/ui/page";

export function Treatments() {
  const [most, setMost] = useState(60);
  const query = useQuery(workQuery("treatments", most));
  return (
    <Loaded query={query} what="Looking up the courses …">
      {(work) => {
        const groups = treatmentGroups(work);
        return (
          <>
            <Page>
              <TreatmentDoors />
              <Title>Treatments</Title>
              {groups.every((group) => group.lines.length === 0) && (
                <div className="mt-6">
                  <Empty title="No colony to treat, no step due">
                    A course is planned from the page of an apiary or a colony; its steps stand here when they are due.
                  </Empty>
                </div>
              )}
              <WorkList groups={groups} />
              {work.more && (
                <Button className="mt-4" onClick={() => setMost(most + 120)}>
                  Show more
                </Button>
              )}
            </Page>
            <KeyBar keys={[...LIST_KEYS, ["?", "all keys"]]} />
          </>
        );
      }}
    </Loaded>
  );
}
