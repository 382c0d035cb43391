/** Small parts that every screen is made of. */
import type { ButtonHTMLAttributes, ReactNode } from "react";
import type { Level } from "@/client/api";
import { Problem } from "@/client/api";
import { LEVEL } from "@/wording/words";

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & { look?: "main" | "plain" | "quiet"; big?: boolean };

const BUTTON = {
  main: "bg-ink text-sheet border-ink hover:bg-ink-2 disabled:bg-ink-3",
  plain: "bg-sheet text-ink border-ink hover:bg-paper disabled:text-ink-3 disabled:border-line-2",
  quiet: "bg-transparent text-ink border-transparent underline underline-offset-4 hover:bg-paper disabled:text-ink-3",
};

export function buttonClass(look: "main" | "plain" | "quiet" = "plain", big = false): string {
  const size = big ? "min-h-16 px-5 text-lg" : "min-h-14 px-4 desk:min-h-10";
  return `inline-flex items-center justify-center gap-2 rounded-[2px] border font-semibold text-center ${size} ${BUTTON[look]}`;
}

export function Button({ look = "plain", big = false, className = "", type = "button", ...rest }: ButtonProps) {
  return <button type={type} className={`${buttonClass(look, big)} ${className}`} {...rest} />;
}

/** The mark of a standing: its shape, drawn; the word stands beside it wherever there is room. */
export function LevelMark({ level, size = 18 }: { level: Level; size?: number }) {
  const colour = {
    clear: "text-clear",
    watch: "text-watch",
    act: "text-act",
    urgent: "text-act",
    unknown: "text-ink-3",
  };
  return (
    <svg width={size} height={size} viewBox="0 0 18 18" aria-hidden="true" className={`shrink-0 ${colour[level]}`}>
      {level === "clear" && <circle cx="9" cy="9" r="6.6" fill="none" stroke="currentColor" strokeWidth="2" />}
      {level === "watch" && (
        <>
          <circle cx="9" cy="9" r="6.6" fill="none" stroke="currentColor" strokeWidth="2" />
          <path d="M9 2.4a6.6 6.6 0 0 1 0 13.2z" fill="currentColor" />
        </>
      )}
      {level === "act" && <rect x="2.5" y="2.5" width="13" height="13" fill="currentColor" />}
      {level === "urgent" && (
        <>
          <rect x="1" y="1" width="16" height="16" fill="none" stroke="currentColor" strokeWidth="2" />
          <rect x="5" y="5" width="8" height="8" fill="currentColor" />
        </>
      )}
      {level === "unknown" && (
        <>
          <rect x="2" y="2" width="14" height="14" fill="none" stroke="currentColor" strokeWidth="1.4" />
          <path d="M2 9 9 2M2 16 16 2M9 16l7-7" stroke="currentColor" strokeWidth="1.2" />
        </>
      )}
    </svg>
  );
}

export const LEVEL_TEXT: Record<Level, string> = {
  clear: "text-clear",
  watch: "text-watch",
  act: "text-act",
  urgent: "text-act",
  unknown: "text-ink-3",
};

export function LevelWord({ level }: { level: Level }) {
  return (
    <span className={`inline-flex items-center gap-1.5 font-bold ${LEVEL_TEXT[level]}`}>
      <LevelMark level={level} />
      {LEVEL[level]}
    </span>
  );
}

/** A queen's mark: the colour with its name, so that it is never colour alone. */
export function QueenMark({ colour }: { colour: string }) {
  const fill: Record<string, string> = {
    white: "#ffffff",
    yellow: "#f2c230",
    red: "#c8322b",
    green: "#2f7d4f",
    blue: "#2d62b0",
  };
  return (
    <svg width="13" height="13" viewBox="0 0 13 13" aria-hidden="true" className="shrink-0">
      <circle cx="6.5" cy="6.5" r="5.5" fill={fill[colour] ?? "none"} stroke="var(--ink-2)" />
    </svg>
  );
}

export function Key({ children }: { children: ReactNode }) {
  return (
    <kbd className="inline-block min-w-6 rounded-[2px] border border-line-2 bg-sheet px-1 text-center font-sans text-sm leading-6">
      {children}
    </kbd>
  );
}

/** Keys of the screen, along its foot at the desk. */
export function KeyBar({ keys, children }: { keys: [string, string][]; children?: ReactNode }) {
  return (
    <footer className="hidden desk:flex sticky bottom-0 z-10 min-h-9 items-center justify-between gap-6 border-t border-line bg-paper px-7 py-1 text-sm text-ink-2">
      <div className="flex flex-wrap gap-x-4">
        {keys.map(([key, says]) => (
          <span key={key} className="whitespace-nowrap">
            <Key>{key}</Key> {says}
          </span>
        ))}
      </div>
      <div className="text-right">{children}</div>
    </footer>
  );
}

export function Page({ children, className = "" }: { children: ReactNode; className?: string }) {
  return (
    <main id="main" className={`mx-auto w-full max-w-[1400px] flex-1 px-4 py-5 desk:px-7 ${className}`}>
      {children}
    </main>
  );
}

/** The name on top of a page; a long one is set smaller, so that the work below keeps its place. */
export function Title({ children }: { children: string }) {
  const size =
    children.length > 60 ? "text-xl" : children.length > 26 ? "text-2xl desk:text-3xl" : "text-3xl desk:text-4xl";
  return <h1 className={`min-w-0 ${size}`}>{children}</h1>;
}

export function Slow({ what }: { what: string }) {
  return (
    <Page>
      <p role="status" className="py-16 text-center text-ink-2">
        {what}
      </p>
    </Page>
  );
}

/** An error that took the whole view: what it is, and the way on. */
export function Trouble({ error, retry }: { error: unknown; retry?: () => void }) {
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
            <Button look="main" onClick={retry}>
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
  return <div className={`border-l-4 ${edge} py-1 pl-3`}>{children}</div>;
}

export function Field({
  label,
  hint,
  error,
  children,
  name,
}: {
  label: string;
  name: string;
  hint?: string;
  error?: string | undefined;
  children: ReactNode;
}) {
  return (
    <div>
      <label htmlFor={name} className="mb-1 block font-semibold">
        {label}
      </label>
      {children}
      {hint && (
        <p id={`${name}-hint`} className="mt-1 text-sm text-ink-2">
          {hint}
        </p>
      )}
      {error && (
        <p id={`${name}-error`} role="alert" className="mt-1 font-semibold text-act">
          {error}
        </p>
      )}
    </div>
  );
}

/** Attributes that tie an input to its hint and its error. */
export function described(name: string, error?: string, hint = false) {
  const ids = [error ? `${name}-error` : "", hint ? `${name}-hint` : ""].filter(Boolean).join(" ");
  return { id: name, name, "aria-invalid": error ? true : undefined, "aria-describedby": ids || undefined };
}

/** The message under a form that no single field caused. */
export function FormTrouble({ error, fields }: { error: unknown; fields: string[] }) {
  if (!(error instanceof Error)) return null;
  if (error instanceof Problem && error.faults.some((fault) => fields.includes(fault.field.split("[")[0] ?? "")))
    return null;
  return (
    <p role="alert" className="font-semibold text-act">
      {error.message}
    </p>
  );
}
