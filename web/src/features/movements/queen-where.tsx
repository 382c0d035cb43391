/** Where a queen has been: her colony, where it stood in her time, what came and went in it. */
import { useQuery } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { queenWhereQuery } from "@/client/movement-queries";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { shortDay } from "@/ui/dates";
import { Loaded } from "@/ui/loaded";
import { Page, SectionHeading, Title } from "@/ui/page";
import { QUEEN_STATUS } from "@/wording/words";
import { ContactList } from "./contact-list";
import { StayList } from "./stay-list";

export function QueenWhere() {
  const { id } = useParams({ from: "/in/queens/$id" });
  const query = useQuery(queenWhereQuery(id));
  return (
    <Page>
      <Loaded query={query} what="Looking up where she has been …">
        {({ queen, today, stays, contacts }) => (
          <>
            <Breadcrumbs
              path={[{ name: queen.label, to: "/colonies/$id", params: { id: queen.colony_id }, search: {} }]}
            />
            <Title>{`Queen of ${queen.label}`}</Title>
            <p className="mt-2">
              <b>{queen.year ?? "year not known"}</b>
              {queen.mark_seen ? `, marked ${queen.mark_seen}` : ", no mark seen"}, {QUEEN_STATUS[queen.status]}; in
              this colony from {shortDay(queen.since, today)} to{" "}
              {queen.until === null ? "today" : shortDay(queen.until, today)}.
            </p>
            <section aria-labelledby="stood" className="mt-6">
              <SectionHeading id="stood">Her colony stood at</SectionHeading>
              <StayList stays={stays} today={today} />
            </section>
            <section aria-labelledby="came" className="mt-6">
              <SectionHeading id="came">Came and went in her time</SectionHeading>
              <ContactList lines={contacts} own={queen.colony_id} today={today} />
            </section>
          </>
        )}
      </Loaded>
    </Page>
  );
}
