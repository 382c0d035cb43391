/** What an error means for an item of the queue: no answer, somebody else's change, or a refusal with its reason. */
import { Problem } from "@/client/types";
import type { Failure } from "./queue";

export function failureOf(error: unknown): Failure {
  const problem = error instanceof Problem ? error : null;
  const fault = problem?.faults[0];
  const why = fault?.message ?? problem?.message ?? "It could not be sent.";
  const field = fault?.field ?? "";
  if (problem === null || problem.status === 0 || problem.status >= 500) return { kind: "lost", why, field };
  // A reason that is missing is asked for at its field; it is no conflict of two people.
  const conflict =
    problem.status === 409 && problem.faults.some((one) => one.code === "conflict" && one.field !== "reason");
  return { kind: conflict ? "conflict" : "refused", why, field };
}
