/** When something of a case was: a day and a time, as both stand on the slip. */
import { DateField } from "@/ui/date-field";
import { TimeField } from "@/ui/time-field";

type Props = {
  day: string;
  time: string;
  today: string;
  error?: string | undefined;
  set: (part: { day?: string; time?: string }) => void;
};

export function MomentFields({ day, time, today, error, set }: Props) {
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_6rem] gap-3">
      <DateField label="Day" name="at" max={today} error={error} value={day} onChange={(next) => set({ day: next })} />
      <TimeField label="Time" name="time" value={time} onChange={(next) => set({ time: next })} />
    </div>
  );
}
