/** Mites of one shake as strokes in fives, with the figure; many are summed into the figure alone. */

export function Tally({ count }: { count: number }) {
  const shown = Math.min(count, 60);
  const groups = Array.from({ length: Math.ceil(shown / 5) }, (_, group) => Math.min(5, shown - group * 5));
  return (
    <span className="inline-flex flex-wrap items-center justify-end gap-x-2.5 gap-y-1" aria-hidden="true">
      {groups.map((strokes, index) => (
        <svg
          key={index}
          width={strokes === 5 ? 26 : strokes * 6 - 2}
          height="18"
          viewBox={`0 0 ${strokes === 5 ? 26 : strokes * 6 - 2} 18`}>
          {Array.from({ length: Math.min(strokes, 4) }, (_, stroke) => (
            <path
              key={stroke}
              d={`M${stroke * 6 + (strokes === 5 ? 4 : 1)} 1v16`}
              stroke="currentColor"
              strokeWidth="2"
            />
          ))}
          {strokes === 5 && <path d="M0 14 26 4" stroke="currentColor" strokeWidth="2" />}
        </svg>
      ))}
      {count > shown && <span className="text-sm">and {count - shown} more</span>}
    </span>
  );
}
