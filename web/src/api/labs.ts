import { useQuery } from "@tanstack/react-query";
import { GET, POST, PUT, type Schemas, dataOf } from "./client";
import { ofLab, useChange } from "./queries";

const LABS = { queryKey: ["labs"], queryFn: () => dataOf(GET("/api/labs/list")) };

/** The labs as far as they have been fetched; nothing is fetched for it. */
export const useLabsKnown = () => useQuery({ ...LABS, enabled: false }).data;

export const useLabs = () => useQuery(LABS);

export const useLab = (id: string) =>
  useQuery({
    queryKey: ["lab", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}", { params: { path: { lab_id: id } } })),
  });

/** What a plan foresees of its answer; it moves with the lab. */
export const useForeseen = (id: string) =>
  useQuery({
    queryKey: ["foreseen", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/foreseen", { params: { path: { lab_id: id } } })),
  });

/** What a new lab begins with. */
export const useLabStart = () =>
  useQuery({ queryKey: ["lab-start"], queryFn: () => dataOf(GET("/api/labs/start")), staleTime: Infinity });

/** How a plan would be shared out: of a new lab, or in place of a draft's. */
export const usePreview = (plan: Schemas["NewLab"] | null, lab: string | undefined) =>
  useQuery({
    queryKey: ["preview", lab, plan],
    enabled: plan !== null,
    queryFn: () => dataOf(POST("/api/labs/preview", { params: { query: { lab } }, body: plan as Schemas["NewLab"] })),
    placeholderData: (previous) => previous,
    retry: false,
  });

export const useCreateLab = () => useChange((body: Schemas["NewLab"]) => dataOf(POST("/api/labs", { body })));

export const useReviseLab = () =>
  useChange(({ id, body }: { id: string; body: Schemas["NewLab"] }) =>
    dataOf(PUT("/api/labs/{lab_id}", { params: { path: { lab_id: id } }, body })),
  );

export const useSetTimes = () =>
  useChange(({ id, body }: { id: string; body: Schemas["TimesIn"] }) =>
    dataOf(PUT("/api/labs/{lab_id}/times", { params: { path: { lab_id: id } }, body })),
  );

export const useCopyLab = () =>
  useChange(({ id, body }: { id: string; body: Schemas["CopyIn"] }) =>
    dataOf(POST("/api/labs/{lab_id}/copy", { params: { path: { lab_id: id } }, body })),
  );

export const useRenameLab = () =>
  useChange(({ id, ...body }: { id: string } & Schemas["RenameIn"]) =>
    dataOf(PUT("/api/labs/{lab_id}/title", { ...ofLab(id), body })),
  );

export const useOpenLab = () =>
  useChange((id: string) => dataOf(POST("/api/labs/{lab_id}/open", { params: { path: { lab_id: id } } })));

export const useCloseLab = () =>
  useChange((id: string) => dataOf(POST("/api/labs/{lab_id}/close", { params: { path: { lab_id: id } } })));

export const useDeletedLabs = () =>
  useQuery({ queryKey: ["deleted-labs"], queryFn: () => dataOf(GET("/api/labs/deleted")) });

export const useDeleteLab = () =>
  useChange(({ id, title }: { id: string; title: string }) =>
    dataOf(POST("/api/labs/{lab_id}/delete", { ...ofLab(id), body: { title } })),
  );

export const useUndeleteLab = () => useChange((id: string) => dataOf(POST("/api/labs/{lab_id}/undelete", ofLab(id))));
