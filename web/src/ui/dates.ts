/** Days as practitioners write them. Days are ISO text throughout; no time zone can move them. */
const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
export const MONTH_NAMES = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
];
const WEEKDAYS = ["Sunday", "Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday"];
const DAY_MS = 86_400_000;

function parts(iso: string): [number, number, number] {
  const [year = 1970, month = 1, day = 1] = iso.slice(0, 10).split("-").map(Number);
  return [year, month, day];
}

/** Days since 1970, for arithmetic. */
export function dayNumber(iso: string): number {
  const [year, month, day] = parts(iso);
  return Date.UTC(year, month - 1, day) / DAY_MS;
}

export function addDays(iso: string, days: number): string {
  return new Date((dayNumber(iso) + days) * DAY_MS).toISOString().slice(0, 10);
}

export function daysBetween(from: string, to: string): number {
  return dayNumber(to) - dayNumber(from);
}

/** "2 Aug", with the year when it is not that of `today`. */
export function shortDay(iso: string, today?: string): string {
  const [year, month, day] = parts(iso);
  const text = `${day} ${MONTHS[month - 1]}`;
  return today !== undefined && year !== parts(today)[0] ? `${text} ${year}` : text;
}

/** "2 August 2031" */
export function longDay(iso: string): string {
  const [year, month, day] = parts(iso);
  return `${day} ${MONTH_NAMES[month - 1]} ${year}`;
}

/** "Saturday 2 August" */
export function weekday(iso: string): string {
  const [, month, day] = parts(iso);
  return `${WEEKDAYS[new Date(dayNumber(iso) * DAY_MS).getUTCDay()]} ${day} ${MONTH_NAMES[month - 1]}`;
}

export function monthName(iso: string): string {
  return MONTH_NAMES[parts(iso)[1] - 1] ?? "";
}

/** "today", "tomorrow", "in 5 days", "3 days ago" */
export function relativeDay(iso: string, today: string): string {
  const days = daysBetween(today, iso);
  if (days === 0) return "today";
  if (days === 1) return "tomorrow";
  if (days === -1) return "yesterday";
  return days > 0 ? `in ${days} days` : `${-days} days ago`;
}

export function plural(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}

/** A sentence of the core with its ISO days as practitioners write them. */
export function sayDays(sentence: string, today?: string): string {
  return sentence.replace(/\d{4}-\d{2}-\d{2}/g, (iso) => shortDay(iso, today));
}
