/** One of a few, as large targets side by side. */
import { clsx } from "clsx";
import { RadioGroup } from "radix-ui";

export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  columns,
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
  columns?: number;
}) {
  const across = columns ?? options.length;
  const left = (across - (options.length % across)) % across;
  return (
    <RadioGroup.Root
      aria-label={label}
      value={value}
      onValueChange={(next) => onChange(next as T)}
      className="grid gap-px border border-ink bg-ink"
      style={{ gridTemplateColumns: `repeat(${across}, minmax(0, 1fr))` }}>
      {options.map(([id, text]) => (
        <RadioGroup.Item
          key={id}
          value={id}
          className={clsx(
            "min-h-14 bg-sheet px-1 font-semibold leading-tight text-ink data-[state=checked]:bg-ink",
            "data-[state=checked]:text-sheet desk:min-h-10",
          )}>
          {text}
        </RadioGroup.Item>
      ))}
      {left > 0 && <span aria-hidden="true" className="bg-paper" style={{ gridColumn: `span ${left}` }} />}
    </RadioGroup.Root>
  );
}

/** The same under its label in sight. */
export function ChoiceField<T extends string>(
  props: Parameters<typeof Choice<T>>[0] & { says?: string; error?: string | undefined },
) {
  const { says, error, ...rest } = props;
  return (
    <div>
      <p className="mb-1 font-semibold" aria-hidden="true">
        {says ?? props.label}
      </p>
      <Choice {...rest} />
      {error && (
        <p role="alert" className="mt-1 font-semibold text-act">
          {error}
        </p>
      )}
    </div>
  );
}
