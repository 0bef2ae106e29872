import { useMutation, useQuery } from "@tanstack/react-query";
import { GET, POST, type Problem, type Schemas, dataOf } from "./client";
import { useChange } from "./queries";

const SOON_MS = 400;
const asForm = (file: File) => {
  const form = new FormData();
  form.append("file", file);
  return { body: form as never, bodySerializer: (body: unknown) => body as FormData };
};
const ofTable = (id: string) => ({ params: { path: { table_id: id } } });
const busy = (state: string | undefined) => state === "reading" || state === "keeping";

/** A table on its way in, looked at again while it is being read or kept. */
export const useTableIn = (id: string | null) =>
  useQuery({
    queryKey: ["table-in", id],
    enabled: id !== null,
    queryFn: () => dataOf(GET("/api/tables/{table_id}", ofTable(id ?? ""))),
    refetchInterval: (query) => (query.state.error || !busy(query.state.data?.state) ? false : SOON_MS),
    retry: false,
  });

export const useHandOver = () =>
  useMutation<Schemas["TableStarted"], Problem, File>({
    mutationFn: (file) => dataOf(POST("/api/tables", asForm(file))),
  });

export const useLookAgain = () =>
  useChange(({ id, body }: { id: string; body: Schemas["LookIn"] }) =>
    dataOf(POST("/api/tables/{table_id}/look", { ...ofTable(id), body })),
  );

export const useKeepTable = () =>
  useChange(({ id, body }: { id: string; body: Schemas["KeepIn"] }) =>
    dataOf(POST("/api/tables/{table_id}/keep", { ...ofTable(id), body })),
  );

export const useImportPackage = () => useChange((file: File) => dataOf(POST("/api/labs/import-package", asForm(file))));
