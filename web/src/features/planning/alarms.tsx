/** Heat over doses that are in hives: before everything else of the day. */
import type { Schemas } from "@/client/types";
import { useSentence } from "@/features/session/use-sentence";
import { shortDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { Notice } from "@/ui/page";

export function Alarms({ alarms, today }: { alarms: Schemas["HeatAlarm"][]; today: string }) {
  const say = useSentence();
  if (alarms.length === 0) return null;
  return (
    <div className="mt-4 space-y-2" role="alert">
      {alarms.map((one) => (
        <Notice key={`${one.course_id}-${one.placed_on}`} tone="act">
          <TextLink to="/courses/$id" params={{ id: one.course_id }} className="font-semibold">
            {one.apiary}: {one.option_name}
          </TextLink>{" "}
          in {one.labels.join(", ")} since {shortDay(one.placed_on, today)}. {say(one.reason)}.
        </Notice>
      ))}
    </div>
  );
}
