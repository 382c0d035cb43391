/** A table that is brought: first what would be taken and what not and why, then, on a word, taken. */
import { clsx } from "clsx";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { Button, buttonClass } from "./button";
import { Dialog } from "./dialog";
import { ErrorText } from "./field";

type Line = { line: number; taken: boolean; field: string; why: string };
type Report<Row> = { took: boolean; taken: number; refused: number; rows: Row[] };
type Columns<Row> = [head: string, of: (row: Row) => ReactNode][];

type Props<Row extends Line> = {
  title: string;
  /** Which columns the table has. */
  children: ReactNode;
  send: (table: File, take: boolean) => Promise<Report<Row>>;
  /** What a line is about, for those that are not taken. */
  about: Columns<Row>[number];
  /** What is shown of a line that is taken. */
  columns: Columns<Row>;
  /** "Take these 12 counts" */
  takes: (taken: number) => string;
  onClose: () => void;
};

const MOST_SHOWN = 200;

export function ImportTable<Row extends Line>(props: Props<Row>) {
  const { title, children, send, onClose } = props;
  const client = useQueryClient();
  const [file, setFile] = useState<File | null>(null);
  const bring = useMutation({
    mutationFn: ({ from, take }: { from: File; take: boolean }) => send(from, take),
    onSuccess: (report) => {
      if (report.took) void client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "session" });
    },
  });
  const choose = (chosen: File | undefined) => {
    if (!chosen) return;
    setFile(chosen);
    bring.mutate({ from: chosen, take: false });
  };
  return (
    <Dialog open onClose={onClose} title={title}>
      <div className="space-y-4">
        <p className="text-ink-2">{children}</p>
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
              choose(chosen);
            }}
          />
        </label>
        {bring.isPending && <p role="status">Reading …</p>}
        <ErrorText error={bring.error} />
        {bring.data && (
          <Found
            {...props}
            report={bring.data}
            isPending={bring.isPending}
            onTake={() => file && bring.mutate({ from: file, take: true })}
          />
        )}
      </div>
    </Dialog>
  );
}

type FoundProps<Row extends Line> = Props<Row> & { report: Report<Row>; isPending: boolean; onTake: () => void };

function Found<Row extends Line>({ report, about, columns, takes, isPending, onTake, onClose }: FoundProps<Row>) {
  const refused = report.rows.filter((row) => !row.taken);
  const taken = report.rows.filter((row) => row.taken);
  const whyNot: Columns<Row>[number] = ["why not", (row) => `${row.field} ${row.why}`.trim()];
  return (
    <>
      <p role="status">
        <span className="figure text-3xl">{report.taken}</span> {report.took ? "taken" : "can be taken"},{" "}
        <span className="figure text-3xl">{report.refused}</span> not.
      </p>
      {refused.length > 0 && <Lines name="Lines that are not taken" rows={refused} columns={[about, whyNot]} />}
      {taken.length > 0 && (
        <details open={refused.length === 0}>
          <summary
            className={clsx(
              "min-h-14 cursor-pointer py-4 font-semibold underline underline-offset-4",
              "desk:min-h-8 desk:py-1",
            )}>
            What {report.took ? "was" : "is"} taken
          </summary>
          <Lines name="Lines that are taken" rows={taken} columns={columns} />
        </details>
      )}
      {report.took ? (
        <Button variant="main" className="w-full" onClick={onClose}>
          Done
        </Button>
      ) : (
        report.taken > 0 && (
          <Button variant="main" className="w-full" disabled={isPending} onClick={onTake}>
            {takes(report.taken)}
          </Button>
        )
      )}
    </>
  );
}

function Lines<Row extends Line>({ name, rows, columns }: { name: string; rows: Row[]; columns: Columns<Row> }) {
  return (
    <>
      <table className="w-full text-left text-sm">
        <caption className="sr-only">{name}</caption>
        <thead>
          <tr className="border-b border-ink">
            {["line", ...columns.map(([head]) => head)].map((head) => (
              <th key={head} scope="col" className="py-1 pr-3">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, MOST_SHOWN).map((row) => (
            <tr key={row.line} className="border-b border-line align-top">
              <td className="py-1 pr-3">{row.line}</td>
              {columns.map(([head, of]) => (
                <td key={head} className="pr-3">
                  {of(row)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length > MOST_SHOWN && <p className="mt-1 text-sm text-ink-2">and {rows.length - MOST_SHOWN} more.</p>}
    </>
  );
}
