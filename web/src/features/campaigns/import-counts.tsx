/** Counts from a table: first what would be taken and what not and why, then, on a word, taken. */
import { clsx } from "clsx";
import { importCounts } from "@/client/commands/campaigns";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";
import { Dialog } from "@/ui/dialog";
import { Button, buttonClass } from "@/ui/button";
import { rate } from "@/ui/units";

type Report = Schemas["ImportReport"];

export function BringCounts({ weekId, onClose }: { weekId: string; onClose: () => void }) {
  const client = useQueryClient();
  const [file, setFile] = useState<File | null>(null);
  const bring = useMutation({
    mutationFn: ({ from, take }: { from: File; take: boolean }): Promise<Report> => importCounts(weekId, from, take),
    onSuccess: (report) => {
      if (report.took) void client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "session" });
    },
  });
  const report = bring.data;
  const refused = report?.rows.filter((row) => !row.taken) ?? [];
  const taken = report?.rows.filter((row) => row.taken) ?? [];
  return (
    <Dialog open onClose={onClose} title="Import counts from a table">
      <div className="space-y-4">
        <p className="text-ink-2">
          A CSV with the columns <strong className="text-ink">apiary, colony, date, mites</strong> (shakes as 5+1) and
          one of <strong className="text-ink">bees, ml</strong> or <strong className="text-ink">g</strong>;{" "}
          <strong className="text-ink">method</strong> where it is no wash. The same file can be brought again: each
          count is taken once.
        </p>
        <label
          className={clsx(buttonClass("plain"), "cursor-pointer focus-within:outline-3 focus-within:outline-course")}>
          {file ? file.name : "Choose the table"}
          <input
            type="file"
            accept=".csv,text/csv"
            className="sr-only"
            onChange={(event) => {
              const chosen = event.target.files?.[0];
              event.target.value = "";
              if (chosen) {
                setFile(chosen);
                bring.mutate({ from: chosen, take: false });
              }
            }}
          />
        </label>
        {bring.isPending && <p role="status">Reading …</p>}
        {bring.error && (
          <p role="alert" className="font-semibold text-act">
            {bring.error.message}
          </p>
        )}
        {report && (
          <>
            <p role="status">
              <span className="figure text-3xl">{report.taken}</span> {report.took ? "taken" : "can be taken"},{" "}
              <span className="figure text-3xl">{report.refused}</span> not.
            </p>
            {refused.length > 0 && (
              <table className="w-full text-left text-sm">
                <caption className="sr-only">Lines that are not taken</caption>
                <thead>
                  <tr className="border-b border-ink">
                    <th scope="col" className="py-1 pr-3">
                      line
                    </th>
                    <th scope="col" className="pr-3">
                      colony
                    </th>
                    <th scope="col">why not</th>
                  </tr>
                </thead>
                <tbody>
                  {refused.slice(0, 200).map((row) => (
                    <tr key={row.line} className="border-b border-line align-top">
                      <td className="py-1 pr-3">{row.line}</td>
                      <td className="pr-3">
                        {row.apiary} {row.colony}
                      </td>
                      <td>
                        <strong>{row.field}</strong> {row.why}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
            {taken.length > 0 && (
              <details open={refused.length === 0}>
                <summary
                  className={clsx(
                    "min-h-14 cursor-pointer py-4 font-semibold underline underline-offset-4 desk:min-h-8",
                    "desk:py-1",
                  )}>
                  What {report.took ? "was" : "is"} taken
                </summary>
                <table className="w-full text-left text-sm">
                  <caption className="sr-only">Lines that are taken</caption>
                  <thead>
                    <tr className="border-b border-ink">
                      <th scope="col" className="py-1 pr-3">
                        line
                      </th>
                      <th scope="col" className="pr-3">
                        colony
                      </th>
                      <th scope="col" className="pr-3">
                        day
                      </th>
                      <th scope="col" className="pr-3">
                        mites
                      </th>
                      <th scope="col">per 100 bees</th>
                    </tr>
                  </thead>
                  <tbody>
                    {taken.slice(0, 200).map((row) => (
                      <tr key={row.line} className="border-b border-line align-top">
                        <td className="py-1 pr-3">{row.line}</td>
                        <td className="pr-3">
                          {row.apiary} {row.colony}
                        </td>
                        <td className="pr-3">{row.taken_on && shortDay(row.taken_on)}</td>
                        <td className="pr-3">{row.mites}</td>
                        <td>{row.rate === null ? "no rate: bees not recorded" : rate(row.rate)}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
                {taken.length > 200 && <p className="mt-1 text-sm text-ink-2">and {taken.length - 200} more.</p>}
              </details>
            )}
            {report.took ? (
              <Button variant="main" className="w-full" onClick={onClose}>
                Done
              </Button>
            ) : (
              file &&
              report.taken > 0 && (
                <Button
                  variant="main"
                  className="w-full"
                  disabled={bring.isPending}
                  onClick={() => bring.mutate({ from: file, take: true })}>
                  Take {report.taken === 1 ? "this count" : `these ${report.taken} counts`}
                </Button>
              )
            )}
          </>
        )}
      </div>
    </Dialog>
  );
}
