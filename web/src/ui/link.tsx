/** Links in running text, and links that look like buttons; typed by the router's addresses. */
import { clsx } from "clsx";
import { createLink } from "@tanstack/react-router";
import type { AnchorHTMLAttributes } from "react";
import { buttonClass, type Variant } from "./button";

type AnchorProps = AnchorHTMLAttributes<HTMLAnchorElement>;

function Anchor({ className = "", ...rest }: AnchorProps) {
  return <a className={clsx("inline-block py-1 underline underline-offset-4", className)} {...rest} />;
}

function ButtonAnchor({ variant = "plain", className = "", ...rest }: AnchorProps & { variant?: Variant }) {
  return <a className={clsx(buttonClass(variant), className)} {...rest} />;
}

/** A link in a sentence. */
export const TextLink = createLink(Anchor);

/** A link that leads to an act. */
export const LinkButton = createLink(ButtonAnchor);
