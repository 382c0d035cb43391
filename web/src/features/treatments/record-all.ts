/**
 * Acts recorded of several courses: each is saved on its own, and one that is refused does not stop the others. What is
 * tried again goes under the same id, so that it is accepted once.
 */
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { recordAct } from "@/client/commands/courses";
import { Problem, type Schemas } from "@/client/types";

type Course = Schemas["CourseView"];
type Act = Omit<Schemas["ActInput"], "id">;
export type Refusal = { id: string; label: string; problem: Problem };

export function useRecordAll() {
  const client = useQueryClient();
  // One id a colony and try: one that was answered, with whatever, is done with.
  const [ids] = useState(() => new Map<string, string>());
  const record = useCallback(
    async (courses: Course[], actOf: (course: Course) => Act): Promise<Refusal[]> => {
      const refused: Refusal[] = [];
      for (const one of courses) {
        const id = ids.get(one.id) ?? crypto.randomUUID();
        ids.set(one.id, id);
        try {
          await recordAct(one.id, { id, ...actOf(one) });
        } catch (error) {
          if (!(error instanceof Problem)) throw error;
          refused.push({ id: one.id, label: one.label, problem: error });
          if (error.status !== 0) ids.delete(one.id);
        }
      }
      return refused;
    },
    [ids],
  );
  const refresh = useCallback(
    () =>
      client.invalidateQueries({
        predicate: (query) => !["session", "ruler", "options"].includes(String(query.queryKey[0])),
      }),
    [client],
  );
  return { record, refresh };
}
