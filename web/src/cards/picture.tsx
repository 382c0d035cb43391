/** A card of a sign: a piece of comb as it looks, drawn; shipped with the application, there without signal. */
const PICTURES = import.meta.glob<string>("./*.svg", { query: "?url", import: "default", eager: true });

export function CardPicture({ card, shows, className = "" }: { card: string; shows: string; className?: string }) {
  const address = PICTURES[`./${card}.svg`];
  return address ? <img src={address} alt={shows} width={380} height={234} className={className} /> : null;
}
