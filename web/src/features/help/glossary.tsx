/** The glossary: every term that carries a rule, in short, with the note that says how it is worked out. */
import { useState } from "react";
import { TextLink } from "@/ui/link";
import { Page, Title } from "@/ui/page";
import { TERMS } from "@/wording/terms";

const SORTED = Object.entries(TERMS).sort(([, a], [, b]) => a.name.localeCompare(b.name));

export function Glossary() {
  const [typed, setTyped] = useState("");
  const words = typed.trim().toLowerCase();
  const shown = SORTED.filter(([, one]) => `${one.name} ${one.meaning}`.toLowerCase().includes(words));
  return (
    <Page>
      <div className="flex flex-wrap items-end justify-between gap-4">
        <Title>Glossary</Title>
        <label className="w-full desk:w-72">
          <span className="sr-only">Find a term</span>
          <input
            type="search"
            className="input"
            placeholder="Find a term"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          />
        </label>
      </div>
      <dl className="mt-5 border-t-2 border-ink">
        {shown.map(([id, one]) => (
          <div
            key={id}
            id={id}
            className="grid gap-x-8 border-b border-line py-2.5 desk:grid-cols-[15rem_minmax(0,1fr)]">
            <dt className="font-head text-lg font-semibold leading-tight">{one.name}</dt>
            <dd className="max-w-prose">
              {one.meaning}{" "}
              <TextLink
                to="/methods/$name"
                params={{ name: one.note }}
                hash={one.section}
                className="flex min-h-14 items-center desk:inline">
                How it is worked out
              </TextLink>
            </dd>
          </div>
        ))}
      </dl>
      {shown.length === 0 && <p className="py-6 text-ink-2">No term has these words.</p>}
    </Page>
  );
}
