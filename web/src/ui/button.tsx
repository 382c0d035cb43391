/** Buttons, and what looks like one. */
import { clsx } from "clsx";
import type { ButtonHTMLAttributes } from "react";

export type Variant = "main" | "plain" | "quiet";

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & { variant?: Variant; big?: boolean };

const BUTTON: Record<Variant, string> = {
  main: "bg-ink text-sheet border-ink hover:bg-ink-2 disabled:bg-ink-3",
  plain: "bg-sheet text-ink border-ink hover:bg-paper disabled:text-ink-3 disabled:border-line-2",
  quiet: "bg-transparent text-ink border-transparent underline underline-offset-4 hover:bg-paper disabled:text-ink-3",
};

export function buttonClass(variant: Variant = "plain", big = false): string {
  const size = big ? "min-h-16 px-5 text-lg" : "min-h-14 px-4 desk:min-h-10";
  const base =
    "inline-flex items-center justify-center gap-2 rounded-[2px] border font-semibold text-center print:hidden";
  return clsx(base, size, BUTTON[variant]);
}

export function Button({ variant = "plain", big = false, className = "", type = "button", ...rest }: ButtonProps) {
  return <button type={type} className={clsx(buttonClass(variant, big), className)} {...rest} />;
}
