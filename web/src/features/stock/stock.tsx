/** Stock: what is lacking for what is planned, the lots with what is left of them, and where each of them went. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import { catalogueQuery, lotsQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { useMay } from "@/features/session/use-session";
import { TreatmentDoors } from "@/features/treatments/doors";
import { Button } from "@/ui/button";
import { LinkButton } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { Empty, Page, SectionHeading, Title } from "@/ui/page";
import { Lacking } from "./lacking";
import { LotForm } from "./lot-form";
import { LotSheet } from "./lot-sheet";
import { Lots } from "./lots";

export function Stock() {
  const stock = useQuery(lotsQuery);
  const catalogue = useQuery(catalogueQuery);
  return (
    <Loaded query={stock} what="Looking up the stock …">
      {(view) => (
        <Loaded query={catalogue} what="Fetching the catalogue …">
          {(options) => <Store view={view} options={options.filter((one) => one.kind === "chemical")} />}
        </Loaded>
      )}
    </Loaded>
  );
}

type Props = { view: Schemas["StockView"]; options: Schemas["OptionView"][] };

function Store({ view, options }: Props) {
  const mayRecord = useMay("record");
  const { lot: wanted } = useSearch({ from: "/in/stock" });
  const navigate = useNavigate({ from: "/stock" });
  const [adding, setAdding] = useState(false);
  const open = view.lots.find((one) => one.lot.id === wanted);
  const show = (lot: string | undefined) => void navigate({ search: { lot }, replace: true });
  return (
    <Page>
      <TreatmentDoors />
      <div className="flex flex-wrap items-end justify-between gap-4">
        <Title>Stock</Title>
        <div className="flex flex-wrap gap-2">
          <LinkButton to="/mixing">Mixing bench</LinkButton>
          {mayRecord && (
            <Button variant="main" onClick={() => setAdding(true)}>
              Add a lot
            </Button>
          )}
        </div>
      </div>
      <Lacking view={view} options={options} />
      {view.lots.length === 0 ? (
        <div className="mt-6">
          <Empty title="Nothing in stock yet">
            A lot is entered once from its pack and receipt; each dose is then taken from it, and the register has what
            an authority asks for.
          </Empty>
        </div>
      ) : (
        <div className="mt-8 grid items-start gap-x-10 gap-y-8 desk:grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)]">
          <section aria-labelledby="lots">
            <SectionHeading id="lots">Lots</SectionHeading>
            <Lots lots={view.lots} today={view.today} open={wanted} onOpen={show} />
          </section>
          {open ? (
            <LotSheet key={open.lot.id} view={open} options={options} today={view.today} onLot={show} />
          ) : (
            <p className="text-ink-2">Choose a lot: what was done with it, where it went, and what is left.</p>
          )}
        </div>
      )}
      {adding && (
        <LotForm
          options={options}
          today={view.today}
          onClose={() => setAdding(false)}
          onSaved={(id) => {
            setAdding(false);
            show(id);
          }}
        />
      )}
    </Page>
  );
}
