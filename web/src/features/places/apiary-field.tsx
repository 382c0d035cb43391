/** Which apiary: all that the person sees, with their keepers. */
import { useQuery } from "@tanstack/react-query";
import { placesQuery } from "@/client/queries";
import { SelectField } from "@/ui/fields";

type Props = {
  label: string;
  value?: string | undefined;
  /** What stands there while none is chosen. */
  none?: string;
  onChange: (apiary: string | undefined) => void;
};

export function ApiaryField({ label, value, none = "choose", onChange }: Props) {
  const places = useQuery(placesQuery()).data?.places ?? [];
  return (
    <div className="mt-4 max-w-sm">
      <SelectField
        label={label}
        name="apiary"
        value={value ?? ""}
        options={[["", none] as const, ...places.map((one) => [one.id, `${one.name}, ${one.keeper}`] as const)]}
        onChange={(next) => onChange(next || undefined)}
      />
    </div>
  );
}
