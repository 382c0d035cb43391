/** Which colony: first its apiary, then one of those that stand there. */
import { useQuery } from "@tanstack/react-query";
import { apiaryQuery, placesQuery } from "@/client/queries";
import { SelectField } from "@/ui/fields";

/** What a bound field gives to its input. */
type Bound = { name: string; value: string; error?: string | undefined; onChange: (value: string) => void };
type Props = {
  /** Not given: the apiary is known. */
  apiary?: Bound;
  colony: Bound;
  at: string;
  living: boolean;
  except?: string;
};

export function ColonyFields({ apiary, colony, at, living, except }: Props) {
  const places = useQuery({ ...placesQuery(), enabled: apiary !== undefined });
  const here = useQuery({ ...apiaryQuery(at), enabled: at !== "" });
  const colonies = here.data?.colonies.filter((one) => (one.is_living || !living) && one.id !== except) ?? [];
  return (
    <>
      {apiary && (
        <SelectField
          label="Apiary"
          options={[["", "choose"], ...(places.data?.places ?? []).map((one) => [one.id, one.name] as const)]}
          {...apiary}
        />
      )}
      <SelectField
        label="Colony"
        options={[["", "choose"], ...colonies.map((one) => [one.id, one.label] as const)]}
        {...colony}
      />
    </>
  );
}
