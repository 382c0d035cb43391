/** How firm is what is likeliest: the estimates moved a little, fifty times, on request. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { firmnessQuery } from "@/client/handling-queries";
import { Button } from "@/ui/button";
import { capital } from "@/wording/words";

export function HowFirm({ visitId }: { visitId: string }) {
  const [asked, setAsked] = useState(false);
  const { data, isFetching, error } = useQuery({ ...firmnessQuery(visitId), enabled: asked });
  if (!asked) return <Button onClick={() => setAsked(true)}>How firm is this?</Button>;
  if (error) return <p className="font-semibold text-act">{error.message}</p>;
  if (isFetching || !data) return <p className="text-ink-2">Moving every estimate a little, fifty times …</p>;
  return (
    <p role="status">
      {capital(data.leader)}: still the likeliest in{" "}
      <strong>
        {data.kept} of {data.runs}
      </strong>{" "}
      readings with every estimate moved a little at random
      {data.instead.length > 0 && `; else ${data.instead.map((one) => `${one.name} ${one.times}`).join(", ")}`}.
    </p>
  );
}
