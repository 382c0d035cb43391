/**
 * Planning one option for the colonies chosen: which of them, which rules are overridden by whom, and the plan itself.
 */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import { planCourses } from "@/client/commands/plans";
import { isStartable, type OptionRow, type Options } from "./option-rows";

export function usePlan(row: OptionRow, view: Options) {
  const client = useQueryClient();
  const navigate = useNavigate();
  // Kept for repeating a plan that found no answer: it is accepted once.
  const { plan: begun } = useSearch({ from: "/in/treat" });
  const [fresh] = useState(() => crypto.randomUUID());
  const planId = begun ?? fresh;
  const [courseIds] = useState(() => new Map(row.per.map((one) => [one.colony.colony_id, crypto.randomUUID()])));
  // What the person said of a colony; of the others those that may have it, also once a missing fact is known.
  const [said, setSaid] = useState<Readonly<Record<string, boolean>>>({});
  const [overridden, setOverridden] = useState<ReadonlySet<string>>(new Set());
  const [interval, setInterval] = useState("");
  const [order, setOrder] = useState("");
  const [who, setWho] = useState("");
  const [why, setWhy] = useState("");
  const isTaken = (id: string) => {
    const judged = row.per.find((one) => one.colony.colony_id === id)?.judged;
    return said[id] ?? (judged !== undefined && isStartable(judged));
  };
  const taken = row.per.filter((one) => isTaken(one.colony.colony_id));
  const overriding = taken.filter((one) => overridden.has(one.colony.colony_id));
  const plan = useMutation({
    mutationFn: () =>
      planCourses({
        id: planId,
        apiary_id: view.apiary.id,
        option_id: row.option.id,
        start_on: view.start_on,
        order,
        interval_override: interval ? Number(interval) : null,
        courses: taken.map((one) => ({
          id: courseIds.get(one.colony.colony_id) ?? "",
          colony_id: one.colony.colony_id,
          overrides: overridden.has(one.colony.colony_id)
            ? one.judged.holding.map((rule) => ({ rule, authorised_by: who, reason: why }))
            : [],
        })),
      }),
    onSuccess: async (planned) => {
      await client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "options" });
      const first = planned.find((one) => one.course_id !== null);
      if (first?.course_id) await navigate({ to: "/courses/$id", params: { id: first.course_id } });
    },
  });
  return {
    plan,
    taken,
    overriding,
    interval,
    setInterval,
    order,
    setOrder,
    who,
    setWho,
    why,
    setWhy,
    isTaken,
    isOverridden: (id: string) => overridden.has(id),
    toggle: (id: string) => setSaid((old) => ({ ...old, [id]: !isTaken(id) })),
    override: (id: string) => {
      setOverridden((old) => new Set(old).add(id));
      setSaid((old) => ({ ...old, [id]: true }));
    },
    /** An override asks for a name and a reason. */
    isUnsigned: overriding.length > 0 && (who.trim() === "" || why.trim() === ""),
    held: (plan.data ?? []).filter((one) => one.course_id === null),
  };
}

export type Planning = ReturnType<typeof usePlan>;
