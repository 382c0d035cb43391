/** How a term of the trade looks in a sentence. */
export const TERM =
  "inline cursor-help text-left underline decoration-dotted underline-offset-4 hover:decoration-solid";
