/** A sign as it looks, what it is taken for, and what tells the two apart. */
import { useQuery } from "@tanstack/react-query";
import { CardPicture } from "@/cards/picture";
import { signCardsQuery } from "@/client/queries";

export function LookAlikes({ sign }: { sign: string }) {
  const cards = useQuery(signCardsQuery).data;
  const own = cards?.cards[sign];
  if (!cards || !own) return null;
  const alike = cards.look_alikes[sign] ?? [];
  return (
    <section aria-label="As it looks" className="grid grid-cols-2 gap-3 desk:grid-cols-3">
      <figure className="border-2 border-ink bg-sheet">
        <CardPicture card={sign} shows={own.shows} className="h-auto w-full" />
        <figcaption className="p-2 leading-tight">{own.shows}</figcaption>
      </figure>
      {alike.map((one) => {
        const card = cards.cards[one.card];
        return card ? (
          <figure key={one.card} className="border border-line-2">
            <CardPicture card={one.card} shows={card.shows} className="h-auto w-full" />
            <figcaption className="p-2 leading-tight">
              <b>Not {card.name}:</b> {one.tells}.
            </figcaption>
          </figure>
        ) : null;
      })}
    </section>
  );
}

/** The face of a sign in the list of all: what it looks like before its name. */
export function SignFace({ sign, name }: { sign: string; name: string }) {
  const own = useQuery(signCardsQuery).data?.cards[sign];
  return (
    <span className="flex items-center gap-2">
      {own && <CardPicture card={sign} shows="" className="h-9 w-14 shrink-0 object-cover" />}
      <span>{name}</span>
    </span>
  );
}
