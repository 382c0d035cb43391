/** What a policy means: how every colony stands under it before and after a change, and which would change. */
import type { Level, Schemas } from "@/client/types";
import { LevelWord } from "@/ui/level";
import { TextLink } from "@/ui/link";
import { SectionHeading } from "@/ui/page";
import { colonies } from "@/wording/words";
import type { PolicyDraft } from "./use-policy-draft";

type Move = Schemas["LevelMove"];
const LEVELS: Level[] = ["urgent", "act", "watch", "clear", "unknown"];

export function EffectOnColonies({ editing: { preview, isChanged: changed } }: { editing: PolicyDraft }) {
  const { data } = preview;
  if (!data) return null;
  const judging = preview.isPlaceholderData;
  const heading = !changed
    ? "How the counted colonies stand"
    : judging
      ? "What it would change: judging every colony …"
      : `What it would change: ${colonies(data.changed)}`;
  return (
    <section aria-labelledby="effect">
      <SectionHeading id="effect">{heading}</SectionHeading>
      <table className="mt-2 w-full text-left">
        <thead>
          <tr className="border-b border-ink text-sm">
            <th scope="col" className="py-1 font-semibold">
              level today
            </th>
            <th scope="col" className="py-1 text-right font-semibold">
              {changed ? "in force" : "colonies"}
            </th>
            {changed && (
              <th scope="col" className="py-1 text-right font-semibold">
                with the change
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {LEVELS.map((level) => (
            <tr key={level} className="border-b border-line">
              <th scope="row" className="py-1.5 font-normal">
                <LevelWord level={level} />
              </th>
              <td className="figure text-right text-xl">{data.before[level] ?? 0}</td>
              {changed && <td className="figure text-right text-xl">{judging ? "…" : (data.after[level] ?? 0)}</td>}
            </tr>
          ))}
        </tbody>
      </table>
      {changed && !judging && <Moves moves={data.moves} changed={data.changed} />}
    </section>
  );
}

/** The colonies whose level would change, by what they come from and to. */
function Moves({ moves, changed }: { moves: Move[]; changed: number }) {
  const groups = new Map<string, Move[]>();
  for (const one of moves) {
    const key = `${one.before} ${one.after}`;
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  return (
    <div className="mt-3">
      {[...groups].map(([key, group]) => (
        <div key={key} className="border-b border-line py-1.5">
          <p className="flex flex-wrap items-center gap-2">
            {group[0] && <LevelWord level={group[0].before} />} to {group[0] && <LevelWord level={group[0].after} />}
            <span className="text-ink-2">{colonies(group.length)}</span>
          </p>
          <ul className="text-sm text-ink-2">
            {[...new Set(group.map((one) => one.apiary))].map((apiary) => (
              <li key={apiary}>
                {apiary}:{" "}
                {group
                  .filter((one) => one.apiary === apiary)
                  .map((one, index) => (
                    <span key={one.colony_id}>
                      {index > 0 && ", "}
                      <TextLink to="/colonies/$id" params={{ id: one.colony_id }}>
                        {one.label}
                      </TextLink>
                    </span>
                  ))}
              </li>
            ))}
          </ul>
        </div>
      ))}
      {changed > moves.length && <p className="mt-1 text-sm text-ink-2">and {changed - moves.length} more</p>}
    </div>
  );
}
