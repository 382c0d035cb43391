/** The course drawn on the season of its colony: what led to it, its placings, what is still to come. */
import { useQuery } from "@tanstack/react-query";
import { colonyQuery } from "@/client/queries";
import { ColonyStrip } from "@/features/colonies/colony-strip";

export function CourseStrip({ colonyId, courseId }: { colonyId: string; courseId: string }) {
  const colony = useQuery(colonyQuery(colonyId));
  if (!colony.data) return <div className="min-h-72" aria-busy="true" />;
  return <ColonyStrip view={colony.data} only={courseId} low />;
}
