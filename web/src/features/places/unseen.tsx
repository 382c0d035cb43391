/** What the examinations at an apiary say of notifiable diseases being there unseen, with what that rests on. */
import { useQuery } from "@tanstack/react-query";
import { unseenQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";
import { Details } from "@/ui/details";
import { TextLink } from "@/ui/link";
import { SectionHeading } from "@/ui/page";
import { oneIn } from "@/ui/figures";
import { capital, colonies } from "@/wording/words";

export function UnseenDisease({ apiaryId }: { apiaryId: string }) {
  const query = useQuery(unseenQuery(apiaryId));
  if (!query.data) return null;
  const { diseases, today } = query.data;
  const suspects = diseases[0]?.suspicious ?? [];
  return (
    <section aria-labelledby="unseen" className="mt-8 max-w-3xl">
      <SectionHeading id="unseen" says="by what examinations did not see">
        Disease that may be here unseen
      </SectionHeading>
      {suspects.length > 0 && (
        <p className="mt-2 text-act">Signs stand unexplained at {suspects.join(", ")}: not in these figures.</p>
      )}
      <table aria-labelledby="unseen" className="mt-1 w-full">
        <thead>
          <tr className="text-left text-sm text-ink-2">
            <th className="font-normal">Disease</th>
            <th className="font-normal">Looked for</th>
            <th className="text-right font-normal">Before</th>
            <th className="text-right font-normal">Chance now</th>
          </tr>
        </thead>
        <tbody>
          {diseases.map((one) => (
            <Row key={one.id} one={one} today={today} />
          ))}
        </tbody>
      </table>
      <Details title="What this rests on">
        <p>
          Before anybody looks a colony is as likely to have it as others of the region ({shares(diseases)}, by the
          policy). A full examination that sees nothing leaves a twentieth of the odds, an ordinary one a seventh; one
          with the bees on, or of few combs, takes less. Time gives it back, and a colony that came later starts at the
          region's share. Colonies are taken one by one: where one has it, its neighbours are likelier to.
        </p>
        <p>
          No figure is proof.{" "}
          <TextLink to="/methods/$name" params={{ name: "brood-diagnosis" }}>
            How it is reckoned
          </TextLink>
        </p>
      </Details>
    </section>
  );
}

const shares = (diseases: Schemas["Unseen"][]) => diseases.map((one) => `${one.name} ${oneIn(one.share)}`).join(", ");

const lookedFor = (one: Schemas["Unseen"], today: string) =>
  [`${one.examined} of ${colonies(one.colonies.length)}`, one.last_on && `last ${shortDay(one.last_on, today)}`]
    .filter(Boolean)
    .join(", ");

function Row({ one, today }: { one: Schemas["Unseen"]; today: string }) {
  return (
    <tr className="border-b border-line align-baseline">
      <th scope="row" className="py-1.5 text-left font-normal">
        {capital(one.name)}
      </th>
      <td>{one.examined === 0 ? <span className="text-ink-2">never</span> : lookedFor(one, today)}</td>
      <td className="whitespace-nowrap text-right text-ink-2">{oneIn(one.before)}</td>
      <td className="whitespace-nowrap pl-3 text-right font-semibold">{oneIn(one.chance)}</td>
    </tr>
  );
}
