/** The way down to a page: each step leads back to where it stands. */
import type { LinkProps } from "@tanstack/react-router";
import { TextLink } from "./link";

type Step = { name: string } & Pick<LinkProps, "to" | "params" | "search">;

export function Breadcrumbs({ path }: { path: Step[] }) {
  return (
    <nav aria-label="Path" className="text-sm text-ink-2">
      {path.map(({ name, ...link }, index) => (
        <span key={name}>
          {index > 0 && <span aria-hidden="true"> / </span>}
          {/* Exact: a step on the way is not the page that is open. */}
          <TextLink {...link} activeOptions={{ exact: true }}>
            {name}
          </TextLink>
        </span>
      ))}
    </nav>
  );
}
