/** What honey supers and feed on the hive say against a course; what nobody has recorded of them is asked for here. */
import type { Schemas } from "@/client/types";
import { useSentence } from "@/features/session/use-sentence";
import { Notice } from "@/ui/page";
import { MissingFact, factsAsked } from "./missing-fact";

type Props = { course: Schemas["CourseView"]; mayRecord: boolean };

export function HiveAgainst({ course, mayRecord }: Props) {
  const say = useSentence();
  if (course.warnings.length === 0) return null;
  const asked = factsAsked(course.warnings);
  return (
    <div className="mt-4 max-w-2xl space-y-3">
      <Notice tone={course.warnings.some((one) => one.level === "not_now") ? "act" : "watch"}>
        {course.warnings.map((one) => (
          <p key={one.code}>{say(one)}.</p>
        ))}
      </Notice>
      {mayRecord &&
        asked.map((fact) => <MissingFact key={fact} colonyId={course.colony_id} label={course.label} fact={fact} />)}
    </div>
  );
}
