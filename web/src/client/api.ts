/** The one way to the server: typed by the API's own description, with the session's token on every write. */
import createClient, { type Middleware } from "openapi-fetch";
import { setClock } from "@/ui/clock";
import type { paths } from "./schema";
import { heardAnswer } from "./signal";
import { Problem, type Schemas } from "./types";

let csrfToken = "";

/** Keeps what every request needs of a session: its token, and the server's clock. */
export function keepSession(session: Schemas["SessionView"] | null): void {
  csrfToken = session?.csrf_token ?? "";
  if (session) setClock(session.now);
}

const guard: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRF-Token", csrfToken);
    return request;
  },
  onResponse({ response }) {
    heardAnswer(response);
  },
};

export const api = createClient<paths>({ baseUrl: "/" });
api.use(guard);

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** Unwraps an answer: its data, or a Problem thrown. A lost connection is a Problem with status 0. */
export async function ask<T>(answering: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await answering;
  } catch {
    throw new Problem(
      0,
      "No connection",
      "The server cannot be reached. What you entered is saved on this device.",
      [],
      null,
      false,
    );
  }
  if (answer.response.ok) return answer.data as T;
  const said = (answer.error ?? {}) as Partial<Schemas["Problem"]>;
  throw new Problem(
    answer.response.status,
    said.title ?? "Something went wrong",
    said.detail ?? "",
    said.errors ?? [],
    said.rule ?? null,
    said.can_override ?? false,
  );
}

/** The header that says which version is amended. */
export function ifMatch(version: number): { "if-match": string } {
  return { "if-match": `"${version}"` };
}
