/** The apiaries around a case, the nearest first: within the inner and the outer distance of the law. */
import { useQuery } from "@tanstack/react-query";
import { aroundQuery } from "@/client/case-queries";
import { shortDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { SectionHeading } from "@/ui/page";

export function Around({ id }: { id: string }) {
  const query = useQuery(aroundQuery(id));
  return (
    <section aria-labelledby="around">
      <SectionHeading id="around" says="by straight line; the inspector's eyes only">
        Apiaries around
      </SectionHeading>
      <Loaded query={query} what="Measuring …">
        {({ apiaries, inner_km, outer_km }) =>
          apiaries.length === 0 ? (
            <p className="mt-2 text-ink-2">None within {outer_km} km.</p>
          ) : (
            <table aria-labelledby="around" className="mt-1 w-full">
              <thead>
                <tr className="text-left text-sm text-ink-2">
                  <th className="font-normal">Apiary</th>
                  <th className="text-right font-normal">Distance</th>
                  <th className="text-right font-normal">Colonies</th>
                  <th className="pl-4 font-normal">Last examined</th>
                </tr>
              </thead>
              <tbody>
                {apiaries.map((one) => (
                  <tr key={one.id} className="border-t border-line align-baseline">
                    <td>
                      <TextLink
                        to="/apiaries/$id"
                        params={{ id: one.id }}
                        search={{}}
                        className="inline-flex min-h-14 min-w-14 items-center desk:min-h-0">
                        {one.name}
                      </TextLink>
                      <span className="block text-sm text-ink-2">{one.keeper}</span>
                    </td>
                    <td className="text-right">
                      {(one.distance_m / 1000).toFixed(1)} km
                      {one.distance_m <= 1000 * inner_km && <span className="block text-sm">within {inner_km} km</span>}
                    </td>
                    <td className="text-right">{one.colonies}</td>
                    <td className="pl-4">{one.last_examined ? shortDay(one.last_examined) : "not examined"}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )
        }
      </Loaded>
    </section>
  );
}
