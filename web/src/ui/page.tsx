/** What a page is made of: its ground, its title, its headings, and what stands there while nothing can. */
import { clsx } from "clsx";
import type { ReactNode } from "react";
import { Problem } from "@/client/types";
import { Button, buttonClass } from "./button";

export function Page({ children, className = "" }: { children: ReactNode; className?: string }) {
  return (
    <main id="main" className={clsx("mx-auto w-full max-w-[1400px] flex-1 px-4 py-5 desk:px-7", className)}>
      {children}
    </main>
  );
}

/** The name on top of a page; a long one is set smaller, so that the work below keeps its place. */
export function Title({ children }: { children: string }) {
  const size =
    children.length > 60 ? "text-xl" : children.length > 26 ? "text-2xl desk:text-3xl" : "text-3xl desk:text-4xl";
  return <h1 className={clsx("min-w-0", size)}>{children}</h1>;
}

/** The heading of a section, under the page's title; what stands beside it says what the section holds. */
export function SectionHeading({ id, children, says }: { id: string; children: ReactNode; says?: ReactNode }) {
  return (
    <h2 id={id} className="flex flex-wrap items-baseline gap-x-3 border-b-2 border-ink pb-1 text-xl">
      {children}
      {says !== undefined && <span className="font-sans text-base font-normal text-ink-2">{says}</span>}
    </h2>
  );
}

export function Loading({ what }: { what: string }) {
  return (
    <Page>
      <p role="status" className="py-16 text-center text-ink-2">
        {what}
      </p>
    </Page>
  );
}

/** An error that took the whole view: what it is, and the way on. */
export function ErrorPage({ error, retry }: { error: unknown; retry?: () => void }) {
  const problem = error instanceof Problem ? error : null;
  const lost = problem?.status === 0 || problem?.status === 503;
  const title = problem?.status === 404 ? "Not found" : lost ? "No answer" : (problem?.title ?? "Something went wrong");
  const text =
    problem?.status === 404
      ? "There is no such record, or it is not yours to see."
      : (problem?.detail ?? "The page could not be shown. Nothing you recorded is lost.");
  return (
    <Page>
      <div className="max-w-prose py-10" role="alert">
        <h1 className="text-3xl">{title}</h1>
        <p className="mt-3 text-ink-2">{text}</p>
        <div className="mt-5 flex gap-3">
          {retry && (
            <Button variant="main" onClick={retry}>
              Try again
            </Button>
          )}
          <a className={buttonClass("plain")} href="/">
            Go to Today
          </a>
        </div>
      </div>
    </Page>
  );
}

export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="border border-dashed border-line-2 px-6 py-10">
      <h2 className="text-xl">{title}</h2>
      <div className="mt-2 max-w-prose text-ink-2">{children}</div>
    </div>
  );
}

/** A warning: what is wrong, what it was compared with, what to do. */
export function Notice({ tone = "watch", children }: { tone?: "watch" | "act" | "course"; children: ReactNode }) {
  const edge = { watch: "border-watch", act: "border-act", course: "border-course" }[tone];
  return <div className={clsx("border-l-4", edge, "py-1 pl-3")}>{children}</div>;
}
