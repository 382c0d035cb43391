/** One search from anywhere: apiaries, colonies, keepers and queens by what people call them. */
import { clsx } from "clsx";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch, type NavigateOptions } from "@tanstack/react-router";
import { useDeferredValue, useEffect, useId, useRef, useState, type KeyboardEvent } from "react";
import { searchQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { QueenMark } from "@/ui/level";
import { LinkButton } from "@/ui/link";
import { Page, Title } from "@/ui/page";
import { COLONY_STATE } from "@/wording/words";

type Hit = Schemas["SearchHit"];

const KIND: Record<Hit["kind"], string> = { apiary: "apiary", colony: "colony", keeper: "keeper", queen: "queen" };

/**
 * Where a thing that was found is looked at: a keeper is the list of their apiaries, a queen the page of her colony.
 */
function pageOf(hit: Hit): NavigateOptions {
  if (hit.kind === "keeper") return { to: "/apiaries", search: { find: hit.title } };
  if (hit.kind === "apiary") return { to: "/apiaries/$id", params: { id: hit.id } };
  return { to: "/colonies/$id", params: { id: hit.id } };
}

function describe(hit: Hit): string {
  if (hit.kind === "keeper") return "";
  if (hit.kind === "apiary") return hit.keeper;
  const parts = [hit.apiary ?? "", hit.keeper];
  if (hit.former) parts.push(`was ${hit.former}`);
  if (!hit.is_living && hit.state) parts.push(COLONY_STATE[hit.state]);
  return parts.join(", ");
}

function nameOf(hit: Hit): string {
  if (hit.kind !== "queen") return hit.title;
  return `Queen of ${hit.title}, ${[hit.colour, hit.year].filter(Boolean).join(" ")}`;
}

/** The field with its list below; arrow keys choose, Return opens, and so does a tap. */
export function Find({
  typed,
  onType,
  onFound,
}: {
  typed: string;
  onType: (typed: string) => void;
  onFound?: () => void;
}) {
  const navigate = useNavigate();
  const list = useId();
  const field = useRef<HTMLInputElement>(null);
  const asked = useDeferredValue(typed.trim());
  const found = useQuery({ ...searchQuery(asked), enabled: asked !== "", placeholderData: keepPreviousData });
  const hits = asked === "" ? [] : (found.data?.hits ?? []);
  const [wanted, setChosen] = useState(0);
  const chosen = Math.min(wanted, Math.max(0, hits.length - 1));
  useEffect(() => field.current?.focus(), []);
  const open = (hit: Hit) => {
    onFound?.();
    void navigate(pageOf(hit));
  };
  // Return may come before the answer to what was typed: it opens the first hit as soon as that is there.
  const isAnswered = asked === typed.trim() && found.data !== undefined && !found.isPlaceholderData;
  const [hasty, setHasty] = useState(false);
  const first = hits[0];
  useEffect(() => {
    if (!hasty || !isAnswered) return;
    setHasty(false);
    if (first) {
      onFound?.();
      void navigate(pageOf(first));
    }
  }, [hasty, isAnswered, first, onFound, navigate]);
  const press = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const hit = hits[chosen];
    if (step !== undefined) setChosen(Math.min(Math.max(chosen + step, 0), Math.max(0, hits.length - 1)));
    else if (event.key === "Enter" && isAnswered && hit) open(hit);
    else if (event.key === "Enter" && typed.trim() !== "") setHasty(!isAnswered);
    else return;
    event.preventDefault();
  };
  return (
    <div>
      <input
        ref={field}
        type="search"
        role="combobox"
        aria-label="Find an apiary, colony, keeper or queen"
        aria-expanded={hits.length > 0}
        aria-controls={list}
        aria-activedescendant={hits.length > 0 ? `${list}-${chosen}` : undefined}
        aria-autocomplete="list"
        autoComplete="off"
        maxLength={80}
        placeholder="K3, Tarn Head, a keeper, green queen"
        className="input w-full text-lg"
        value={typed}
        onChange={(event) => {
          setChosen(0);
          setHasty(false);
          onType(event.target.value);
        }}
        onKeyDown={press}
      />
      <ul id={list} role="listbox" aria-label="Found" className="mt-2">
        {hits.map((hit, index) => (
          <li
            key={`${hit.kind}-${hit.id}`}
            id={`${list}-${index}`}
            role="option"
            aria-selected={index === chosen}
            className={clsx(
              "grid min-h-14 cursor-pointer grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 border-b",
              "border-line px-2 py-1 desk:min-h-11",
              index === chosen && "bg-paper shadow-[inset_3px_0_0_var(--ink)]",
            )}
            onMouseEnter={() => setChosen(index)}
            onClick={() => open(hit)}>
            <span className="min-w-0">
              <span className="flex items-center gap-2 font-head text-lg font-semibold leading-tight">
                {hit.colour && <QueenMark colour={hit.colour} />}
                {nameOf(hit)}
              </span>
              <span className="block text-sm text-ink-2">{describe(hit)}</span>
            </span>
            <span className="text-sm text-ink-2">{KIND[hit.kind]}</span>
          </li>
        ))}
      </ul>
      <p role="status" className="mt-2 min-h-6 text-sm text-ink-2">
        {found.isError
          ? found.error.message
          : asked !== "" && found.isSuccess && hits.length === 0
            ? `Nothing is called ${asked}. Fewer letters find more.`
            : found.data?.more && asked !== ""
              ? "There is more; another word narrows it."
              : ""}
      </p>
    </div>
  );
}

/** The search as a page of its own, for the field; what was typed is in the address. */
export function FindPage() {
  const { q = "" } = useSearch({ from: "/in/find" });
  const navigate = useNavigate({ from: "/find" });
  return (
    <Page>
      <Title>Find</Title>
      <div className="mt-4 max-w-2xl">
        <Find typed={q} onType={(next) => void navigate({ search: next ? { q: next } : {}, replace: true })} />
        {q === "" && (
          <LinkButton to="/apiaries" search={{}} className="w-full">
            All apiaries
          </LinkButton>
        )}
      </div>
    </Page>
  );
}
