/** Heat over doses that are in hives: before everything else of the day. */
import type { Schemas } from "@/client/types";
import { useSentence } from "@/features/session/use-sentence";
import { shortDay } from "@/ui/dates";
import { Details } from "@/ui/details";
import { TextLink } from "@/ui/link";
import { Notice } from "@/ui/page";

const SHOWN = 4;

type Alarm = Schemas["HeatAlarm"];

export function Alarms({ alarms, today }: { alarms: Alarm[]; today: string }) {
  if (alarms.length === 0) return null;
  const rest = alarms.slice(SHOWN);
  return (
    <div className="mt-4 space-y-2" role="alert">
      {alarms.slice(0, SHOWN).map((one) => (
        <OneAlarm key={`${one.course_id}-${one.placed_on}`} alarm={one} today={today} />
      ))}
      {rest.length > 0 && (
        <Details title={`Too hot for ${rest.length} more`} open={false}>
          {rest.map((one) => (
            <OneAlarm key={`${one.course_id}-${one.placed_on}`} alarm={one} today={today} />
          ))}
        </Details>
      )}
    </div>
  );
}

function OneAlarm({ alarm, today }: { alarm: Alarm; today: string }) {
  const say = useSentence();
  return (
    <Notice tone="act">
      <TextLink to="/courses/$id" params={{ id: alarm.course_id }} className="font-semibold">
        {alarm.apiary}: {alarm.option_name}
      </TextLink>{" "}
      in {alarm.labels.join(", ")} since {shortDay(alarm.placed_on, today)}. {say(alarm.reason)}.
    </Notice>
  );
}
