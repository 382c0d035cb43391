/** On Today: colonies that died and that nobody has opened yet; nothing where there is none. */
import { useQuery } from "@tanstack/react-query";
import { deadOutsQuery } from "@/client/deadout-queries";
import { TextLink } from "@/ui/link";
import { Notice } from "@/ui/page";

const NAMED = 4;

export function UnreadDead() {
  const query = useQuery(deadOutsQuery());
  const unread = (query.data?.lines ?? []).filter((one) => !one.deadout_id);
  if (unread.length === 0) return null;
  const named = unread.slice(0, NAMED).map((one) => `${one.label}, ${one.apiary}`);
  const more = unread.length - named.length;
  return (
    <div className="mt-3">
      <Notice>
        <p>
          <TextLink to="/deadouts" className="font-semibold">
            {unread.length === 1 ? "One dead colony" : `${unread.length} dead colonies`} not opened yet
          </TextLink>
          {`: ${named.join("; ")}${more > 0 ? ` and ${more} more` : ""}. What they left is held.`}
        </p>
      </Notice>
    </div>
  );
}
