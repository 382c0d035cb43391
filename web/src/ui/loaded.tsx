/** What a question to the server shows while it waits, when it fails, and when the answer is there. */
import type { UseQueryResult } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { ErrorPage, Loading } from "./page";

export function Loaded<Data>({
  query,
  what,
  children,
}: {
  query: UseQueryResult<Data>;
  what: string;
  children: (data: Data) => ReactNode;
}) {
  if (query.isPending) return <Loading what={what} />;
  if (query.isError) return <ErrorPage error={query.error} retry={() => void query.refetch()} />;
  return children(query.data);
}
