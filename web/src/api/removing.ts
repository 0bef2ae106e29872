import { useQuery } from "@tanstack/react-query";
import { GET, POST, PUT, type Schemas, dataOf } from "./client";
import { ofLab, useChange } from "./queries";

export const useKeptFor = (id: string) =>
  useQuery({ queryKey: ["kept", id], queryFn: () => dataOf(GET("/api/labs/{lab_id}/kept", ofLab(id))) });

export const useKeepFor = (id: string) =>
  useChange((days: number | null) => dataOf(PUT("/api/labs/{lab_id}/kept", { ...ofLab(id), body: { days } })));

export const useFindWords = (id: string, words: string) =>
  useQuery({
    queryKey: ["words", id, words],
    enabled: words.trim().length > 1,
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/words", { params: { path: { lab_id: id }, query: { words } } })),
    retry: false,
  });

export const useRemoveWords = (id: string) =>
  useChange((things: Schemas["Thing"][]) =>
    dataOf(POST("/api/labs/{lab_id}/words/remove", { ...ofLab(id), body: { things } })),
  );
