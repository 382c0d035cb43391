/** Lines of work in groups, walked by keys; only the groups that have any are shown. */
import { useNavigate } from "@tanstack/react-router";
import { LinkButton } from "@/ui/link";
import { useListCursor } from "@/ui/list-cursor";
import { SectionHeading } from "@/ui/page";
import type { Group, Line } from "./lines";

export function WorkList({ groups }: { groups: Group[] }) {
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
            <WorkLine key={line.key} line={line} {...cursor.item(lines.indexOf(line))} />
          ))}
        </ul>
      </section>
    ));
}

function WorkLine({ line, id, chosen, onChoose }: { line: Line; id: string; chosen: boolean; onChoose: () => void }) {
  return (
    <li
      id={id}
      className={`grid grid-cols-[1.5rem_minmax(0,1fr)] items-center gap-x-3 gap-y-1 border-b border-line py-3 desk:grid-cols-[1.5rem_15rem_minmax(0,1fr)_auto] desk:py-2 ${chosen ? "desk:bg-sheet desk:shadow-[inset_3px_0_0_var(--ink)]" : ""}`}
      onMouseEnter={onChoose}>
      <span className="flex justify-center">{line.mark}</span>
      <span className="min-w-0">
        <span className="block font-head text-lg font-semibold leading-tight">{line.where}</span>
        <span className="block text-sm text-ink-2">{line.keeper}</span>
      </span>
      <span className="col-start-2 min-w-0 desk:col-start-auto">
        <span className="block font-semibold">{line.what}</span>
        <span className="block text-sm text-ink-2">{line.why}</span>
      </span>
      <LinkButton
        {...line.link}
        className="col-start-2 w-full justify-self-stretch desk:col-start-auto desk:min-h-9 desk:w-48 desk:justify-self-end desk:whitespace-nowrap">
        {line.act}
      </LinkButton>
    </li>
  );
}
