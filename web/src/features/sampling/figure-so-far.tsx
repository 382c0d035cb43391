/** In the field the figure stands over the keys, where nothing hides it: mites, rate, interval, level. */
import { clsx } from "clsx";
import { LEVEL_FIGURE, LevelMark } from "@/ui/level";
import { rate } from "@/ui/units";
import { useDesk } from "@/ui/use-desk";
import { begun, inJar, mitesIn, onBoard, type Jar } from "./jars";
import { useRuler } from "./use-ruler";

export function FigureSoFar({ jar, apiaryId, now }: { jar: Jar; apiaryId: string; now: string }) {
  const { ruler, mark } = useRuler(jar, apiaryId, now);
  const desk = useDesk();
  if (desk || (!inJar(jar.method) && !onBoard(jar.method))) return null;
  const mites = mitesIn(jar);
  const falls = onBoard(jar.method);
  const shown = begun(jar) && mark && ruler;
  return (
    <p className="mb-2 flex items-baseline justify-between gap-3" aria-live="polite">
      <span>
        <strong className="figure text-xl">{mites}</strong> {mites === 1 ? "mite" : "mites"}
      </span>
      {shown ? (
        <span className="flex items-baseline gap-1.5 text-right">
          {ruler.in_force && <LevelMark level={mark.level} size={16} />}
          <strong className={clsx("figure text-xl", ruler.in_force && LEVEL_FIGURE[mark.level])}>
            {rate(mark.median)}
          </strong>
          <span className="text-sm">
            {rate(mark.low)} to {rate(mark.high)} {falls ? "a day" : "per 100"}
          </span>
        </span>
      ) : (
        <span className="text-sm text-ink-2">nothing counted yet</span>
      )}
    </p>
  );
}
