/** On Today: pests that are to be looked at again now; nothing where there is none. */
import { useQuery } from "@tanstack/react-query";
import { pestsAheadQuery } from "@/client/pest-queries";
import { TextLink } from "@/ui/link";
import { Notice } from "@/ui/page";

const NAMED = 3;

export function PestsDue({ today }: { today: string }) {
  const query = useQuery(pestsAheadQuery);
  const due = (query.data?.lines ?? []).filter((one) => one.look_from <= today);
  if (!query.data || due.length === 0) return null;
  const named = due
    .slice(0, NAMED)
    .map((one) => `${query.data.names[one.pest] ?? one.pest} at ${one.label || "combs in store"}, ${one.apiary}`);
  const more = due.length - named.length;
  return (
    <div className="mt-3">
      <Notice>
        <p>
          <TextLink to="/pests" className="font-semibold">
            Pests to look at again
          </TextLink>
          {`: ${named.join("; ")}${more > 0 ? ` and ${more} more` : ""}.`}
        </p>
      </Notice>
    </div>
  );
}
