/** The terms of the trade that carry a rule: what each means in short, and where its method is written down. */
import terms from "./terms.json";

export type TermId = keyof typeof terms;
/** `note` and `section`: the method note that says how it is worked out, and the part of it ("": its beginning). */
export type Term = { name: string; meaning: string; note: string; section: string };

export const TERMS: Record<TermId, Term> = terms;
