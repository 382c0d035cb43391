/** The marks that the server set out for a jar, and the one that the mites counted so far stand at. */
import { useQueries, useQuery, type UseQueryResult } from "@tanstack/react-query";
import { api, ask } from "@/client/api";
import { rulerQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { asMeasure, mitesIn, type Jar } from "./jars";

const CHUNK = 31;

export type JarRuler = {
  ruler: Schemas["Ruler"] | null;
  mark: Schemas["RulerMark"] | undefined;
  /** The share of mites that another shake may still bring, where shakes tell it. */
  left: number | null;
  shakeAgain: boolean;
  answer: UseQueryResult<unknown>;
};

export function useRuler(jar: Jar, apiaryId: string, now: string): JarRuler {
  const mites = mitesIn(jar);
  const chunk = Math.floor(mites / CHUNK);
  const measure = asMeasure(jar, apiaryId, now);
  const marksOf = (part: number) => ({
    ...rulerQuery({
      ...(measure ?? { apiary_id: apiaryId, method: "wash", place_of_bees: "brood_frame" }),
      mites_from: part * CHUNK,
      mites_to: part * CHUNK + CHUNK - 1,
    }),
    enabled: measure !== null,
  });
  // The chunk ahead is asked for too, so that no signal is needed when the count comes to it.
  const [here] = useQueries({ queries: [marksOf(chunk), marksOf(chunk + 1)] });
  const removal = useQuery({
    queryKey: ["removal", jar.shakes],
    enabled: jar.method === "wash" && jar.shakes.length > 1 && !jar.recorded,
    staleTime: Infinity,
    queryFn: () => ask(api.POST("/api/v1/calculators/removal", { body: { shakes: jar.shakes } })),
  });
  const ruler = (measure && here.data?.ruler) ?? null;
  const left = (removal.data?.["share_left"] as number | null | undefined) ?? null;
  const careful = jar.shakes.length < 2 || (left !== null && ruler !== null && left > ruler.incomplete_share);
  const marks = careful || !ruler?.more_shakes.length ? ruler?.one_shake : ruler.more_shakes;
  return {
    ruler,
    mark: marks?.find((one) => one.mites === mites),
    left,
    shakeAgain: removal.data?.["shake_again"] === true,
    answer: here,
  };
}
