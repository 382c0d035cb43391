/** Lines of work in groups, walked by keys; only the groups that have any are shown. */
import { clsx } from "clsx";
import { useNavigate } from "@tanstack/react-router";
import { LinkButton } from "@/ui/link";
import { useListCursor } from "@/ui/list-cursor";
import { SectionHeading } from "@/ui/page";
import type { Group, Line } from "./lines";

/** `oneApiary`: all lines are of one apiary, which the page names already. */
export function WorkList({ groups, oneApiary = false }: { groups: Group[]; oneApiary?: boolean }) {
  const navigate = useNavigate();
  const lines = groups.flatMap((group) => group.lines);
  const cursor = useListCursor(lines.length, "line", (index) => {
    const line = lines[index];
    if (line) void navigate(line.link);
  });
  return groups
    .filter((group) => group.lines.length > 0)
    .map((group) => (
      <section key={group.id} className="mt-7" aria-labelledby={`group-${group.id}`}>
        <SectionHeading id={`group-${group.id}`} says={group.says}>
          {group.title}
        </SectionHeading>
        <ul>
          {group.lines.map((line) => (
            <WorkLine key={line.key} line={line} oneApiary={oneApiary} {...cursor.item(lines.indexOf(line))} />
          ))}
        </ul>
      </section>
    ));
}

type WorkLineProps = { line: Line; oneApiary: boolean; id: string; chosen: boolean; onChoose: () => void };

function WorkLine({ line, oneApiary, id, chosen, onChoose }: WorkLineProps) {
  const columns = oneApiary
    ? "desk:grid-cols-[1.5rem_minmax(0,1fr)_auto]"
    : "desk:grid-cols-[1.5rem_15rem_minmax(0,1fr)_auto]";
  return (
    <li
      id={id}
      className={clsx(
        "grid grid-cols-[1.5rem_minmax(0,1fr)] items-center gap-x-3 gap-y-1 border-b border-line py-3 desk:py-2",
        columns,
        chosen && "desk:bg-sheet desk:shadow-[inset_3px_0_0_var(--ink)]",
      )}
      onFocus={onChoose}>
      <span className="flex justify-center">{line.mark}</span>
      {!oneApiary && (
        <span className="min-w-0">
          <span className="block font-head text-lg font-semibold leading-tight">{line.where}</span>
          <span className="block text-sm text-ink-2">{line.keeper}</span>
        </span>
      )}
      <span className="col-start-2 min-w-0 desk:col-start-auto">
        <span className="block font-semibold">{line.what}</span>
        <span className="block text-sm text-ink-2">{line.why}</span>
      </span>
      <LinkButton
        {...line.link}
        className={clsx(
          "col-start-2 w-full justify-self-stretch desk:col-start-auto desk:min-h-9 desk:w-48",
          "desk:justify-self-end desk:whitespace-nowrap",
        )}>
        {line.act}
      </LinkButton>
    </li>
  );
}
