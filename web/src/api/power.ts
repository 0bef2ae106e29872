import { useQuery } from "@tanstack/react-query";
import { GET, type Problem, type Schemas, dataOf } from "./client";
import { ofLab, ofTheSame } from "./queries";

/** A pack as it is thought of; the server holds its cells to what the class has measured. */
export type PackAsk = {
  load: string;
  cell: string[];
  rows: number;
  area_cm2: number;
  gap_cm: number;
  pairs: number;
  volume_ml: number;
};

export const usePower = (id: string) =>
  useQuery({
    queryKey: ["power", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/power", ofLab(id))),
  });

const asked = (id: string, ask: PackAsk) => ({ params: { path: { lab_id: id }, query: ask } });

export const usePack = (id: string, ask: PackAsk | null) =>
  useQuery<Schemas["PackOut"], Problem>({
    queryKey: ["pack", id, ask],
    enabled: ask !== null,
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/power/pack", asked(id, ask as PackAsk))),
    placeholderData: ofTheSame(id),
    retry: false,
  });

/** How many cells, what one change would do, how long it lasts: comes a moment after the pack itself. */
export const usePackAdvice = (id: string, ask: PackAsk | null) =>
  useQuery<Schemas["PackAdviceOut"], Problem>({
    queryKey: ["pack-advice", id, ask],
    enabled: ask !== null,
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/power/advice", asked(id, ask as PackAsk))),
    placeholderData: ofTheSame(id),
    retry: false,
  });

/** What the class's own values of a cell say of it; takes a second or two the first time, so only when asked. */
export const useOwnFit = (id: string, cell: Schemas["CellIO"], asked: boolean) =>
  useQuery<Schemas["OwnFitOut"], Problem>({
    queryKey: ["own-fit", id, cell],
    enabled: asked,
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/own-fit", { params: { path: { lab_id: id }, query: cell } })),
    retry: false,
  });
