/**
 * Mites fallen a day after a first dose: the band that should fall if it kills, the most that falls by itself, and each
 * board as a bar over the days that it was in, with its interval. Square root upwards, days from the first dose across.
 */
import type { Schemas } from "@/client/types";
import { daysBetween } from "@/ui/dates";
import { rate } from "@/ui/units";

const HEIGHT = 260;
const LEFT = 44;
const FOOT = 40;
const TOP = 14;

export function FallPicture({ curve, width }: { curve: Schemas["FallCurve"]; width: number }) {
  const start = curve.start ?? curve.today;
  const last = Math.max(curve.span_days + 14, ...curve.boards.map((board) => daysBetween(start, board.last)));
  const most = Math.max(
    10,
    ...curve.days.map((day) => day.high80),
    ...curve.boards.map((board) => Math.min(board.high, 2 * board.per_day + 5)),
  );
  const x = (day: number) => LEFT + (Math.min(day, last) / last) * (width - LEFT - 8);
  const floor = HEIGHT - FOOT;
  const y = (fall: number) => floor - Math.sqrt(Math.min(Math.max(fall, 0), most) / most) * (floor - TOP);
  const at = (day: Schemas["FallDay"]) => daysBetween(start, day.date);
  const line = (value: (day: Schemas["FallDay"]) => number, days = curve.days) =>
    days.map((day) => `${x(at(day))} ${y(value(day))}`).join("L");
  const today = daysBetween(start, curve.today);
  const weeks = Array.from({ length: Math.floor(last / 7) + 1 }, (_, week) => week * 7);
  return (
    <svg width={width} height={HEIGHT} className="block bg-sheet" role="img" aria-label={label(curve, start)}>
      {ticks(most).map((tick) => (
        <g key={tick}>
          <path d={`M${LEFT} ${y(tick)}H${width}`} stroke="var(--line)" />
          <text x={LEFT - 6} y={y(tick) + 5} textAnchor="end" fontSize="13" fill="var(--ink-2)">
            {tick}
          </text>
        </g>
      ))}
      {curve.days.length > 1 && (
        <>
          <path
            d={`M${line((day) => day.high80)}L${line((day) => day.low80, [...curve.days].reverse())}Z`}
            fill="var(--course)"
            opacity="0.16"
          />
          <path
            d={`M${line((day) => day.median)}`}
            fill="none"
            stroke="var(--course)"
            strokeWidth="1.8"
            strokeDasharray="6 3"
          />
          <path
            d={`M${line((day) => day.natural90)}`}
            fill="none"
            stroke="var(--ink-2)"
            strokeWidth="1.5"
            strokeDasharray="2 3"
          />
        </>
      )}
      {curve.boards.map((board) => {
        const [from, to] = [x(daysBetween(start, board.first)), x(daysBetween(start, board.last))];
        return (
          <g key={board.id}>
            <path d={`M${(from + to) / 2} ${y(board.high)}V${y(board.low)}`} stroke="var(--ink)" strokeWidth="1.5" />
            <rect
              x={from}
              y={y(board.per_day) - 4}
              width={Math.max(6, to - from - 1)}
              height="8"
              fill={board.judged ? "var(--ink)" : "var(--sheet)"}
              stroke="var(--ink)"
              strokeWidth="1.5"
              strokeDasharray={board.judged ? undefined : "3 2"}
            />
          </g>
        );
      })}
      <path d={`M${LEFT} ${floor}H${width}`} stroke="var(--ink)" />
      {weeks.map((day) => (
        <text key={day} x={x(day)} y={floor + 17} textAnchor="middle" fontSize="13" fill="var(--ink-2)">
          {day}
        </text>
      ))}
      <text x={width - 2} y={HEIGHT - 4} textAnchor="end" fontSize="13" fill="var(--ink-2)">
        days since the first dose
      </text>
      {today >= 0 && today <= last && (
        <g>
          <path d={`M${x(today)} ${TOP - 10}V${floor}`} stroke="var(--ink)" strokeWidth="1.5" />
          <text x={x(today) + 4} y={TOP} fontSize="13" fontWeight="700" fill="var(--ink)">
            today
          </text>
        </g>
      )}
    </svg>
  );
}

function ticks(most: number): number[] {
  const rough = [2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000].filter((tick) => tick <= most);
  return [0, ...rough.slice(-4)];
}

function label(curve: Schemas["FallCurve"], start: string): string {
  const boards = curve.boards.map(
    (board) =>
      `${rate(board.per_day)} a day from day ${daysBetween(start, board.first)} to ${daysBetween(start, board.last)}`,
  );
  return `Mites fallen a day since the first dose. ${boards.length ? `Boards: ${boards.join("; ")}` : "No board yet"}.`;
}
