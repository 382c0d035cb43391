/** When a dose can be placed: each day of the forecast, what speaks against it, and from which hour it is cool. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { useSentence } from "@/features/session/use-sentence";
import { useSession } from "@/features/session/use-session";
import { shortDay, weekday } from "@/ui/dates";
import { Details } from "@/ui/details";
import { temperature } from "@/ui/units";

type Days = Schemas["PlacingDays"];
type Day = Days["days"][number];

const RESULT: Record<Day["result"], string> = {
  ok: "can be placed",
  caution: "can be placed, with care",
  no: "not on this day",
  unknown: "not known yet",
};

/** "Sun 3 Aug" */
const dayOfWeek = (day: string) => `${weekday(day).slice(0, 3)} ${shortDay(day, day)}`;

type Props = { found: Days | undefined; today: string };

export function PlacingDays({ found, today }: Props) {
  if (!found) return null;
  const { days, first_clear: clear, first_usable: usable } = found;
  return (
    <Details title="When to place, day by day">
      <p>
        {usable === null
          ? "No day of the forecast can be used."
          : clear === usable
            ? `First: ${dayOfWeek(usable)}.`
            : `First with care: ${dayOfWeek(usable)}. ${clearText(clear)}`}
      </p>
      <ol>
        {days.map((day) => (
          <DayRow key={day.day} day={day} today={today} />
        ))}
      </ol>
    </Details>
  );
}

const clearText = (day: string | null) => (day ? `First clear: ${dayOfWeek(day)}.` : "None is clear.");

function DayRow({ day, today }: { day: Day; today: string }) {
  const say = useSentence();
  const { person } = useSession();
  const usable = day.result === "ok" || day.result === "caution";
  return (
    <li className="grid grid-cols-[6.5rem_1fr] gap-x-3 border-b border-line py-1.5">
      <span className={clsx(usable && "font-semibold text-ink")}>
        {day.day === today ? "today" : dayOfWeek(day.day)}
        <span className="block text-sm font-normal text-ink-2">
          {temperature(day.tmin_c, person).replace(/ °[CF]/, "")} to {temperature(day.tmax_c, person)}
        </span>
      </span>
      <span>
        <span className={clsx(usable && "font-semibold text-ink")}>{RESULT[day.result]}</span>
        {day.reasons.length > 0 && `: ${day.reasons.map(say).join("; ")}`}.
        {day.hours !== null && day.hours.hours_near > 0 && <Hours day={day} />}
        {day.look_again && " Look at the forecast again at 18:00 the evening before, and on the morning."}
      </span>
    </li>
  );
}

/** Hours of the day near the limit, and from when on it is cool. */
function Hours({ day }: { day: Day }) {
  const { hours, cool_from: cool } = day;
  if (hours === null) return null;
  const over = hours.hours_over > 0 ? `${String(hours.hours_over)} h above the limit, ` : "";
  return (
    <span className="block text-sm">
      {over}
      {hours.hours_near} h near it or above{cool === null ? "." : `; cool from ${String(cool)}:00.`}
    </span>
  );
}
