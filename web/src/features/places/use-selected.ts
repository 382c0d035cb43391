/**
 * The colonies selected on an apiary's page, the one that the keys stand on, and their order; all in the address. What
 * a key does starts from the address as it stands, not as it was drawn last: three keys can come before one drawing.
 */
import { useNavigate, useRouter, useSearch } from "@tanstack/react-router";
import { useMemo } from "react";
import type { Schemas } from "@/client/types";
import type { ColonyOrder } from "./apiary-order";

export function useSelected(living: Schemas["ColonyOverview"][]) {
  const navigate = useNavigate({ from: "/apiaries/$id" });
  const search = useSearch({ from: "/in/apiaries/$id" });
  const router = useRouter();
  const now = () => router.latestLocation.search as typeof search;
  const selected = useMemo(() => new Set(search.select ?? []), [search.select]);
  const set = (next: Partial<typeof search>) =>
    void navigate({ search: (old) => ({ ...old, ...next }), replace: true, resetScroll: false });
  const select = (ids: string[]) => set({ select: ids.length > 0 ? ids : undefined });
  const toggle = (id: string) => {
    const before = now().select ?? [];
    select(before.includes(id) ? before.filter((one) => one !== id) : [...before, id]);
  };
  const indexOf = (at: string | undefined) => living.findIndex((one) => one.id === at);
  const index = indexOf(search.at);
  const go = (by: number) => {
    const next = living[Math.min(Math.max(indexOf(now().at) + by, 0), living.length - 1)];
    if (next) set({ at: next.id });
  };
  const order = search.order ?? "danger";
  const isTable = search.view === "table";
  return {
    selected,
    select,
    toggle,
    go,
    current: () => living[indexOf(now().at)],
    index,
    /** Those that an act is about: the selected ones, or all. */
    wanted: (selected.size > 0 ? living.filter((one) => selected.has(one.id)) : living).map((one) => one.id),
    order,
    orderBy: (next: ColonyOrder) => set({ order: next === "danger" ? undefined : next }),
    isTable,
    showTable: (table: boolean) => set({ view: table ? "table" : undefined }),
    otherView: () => set({ view: now().view === "table" ? undefined : "table" }),
  };
}
