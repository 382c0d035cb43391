/** What a question to the server shows while it waits, when it fails, and when the answer is there. */
import type { ReactNode } from "react";
import { ErrorPage, Loading } from "./page";

/** What is asked of a question, whether it comes whole or a page at a time. */
type Question<Data> =
  | { isPending: true; isError: false; data: undefined }
  | { isPending: false; isError: true; error: Error; refetch: () => unknown; data: Data | undefined }
  | { isPending: false; isError: false; data: Data };

export function Loaded<Data>({
  query,
  what,
  children,
}: {
  query: Question<Data>;
  what: string;
  children: (data: Data) => ReactNode;
}) {
  if (query.isPending) return <Loading what={what} />;
  if (query.isError) return <ErrorPage error={query.error} retry={() => void query.refetch()} />;
  return children(query.data);
}
