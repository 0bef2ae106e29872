import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { DELETE, GET, POST, type Problem, type Schemas, dataOf } from "./client";
import { fetchAnew, ofLab, ofTheSame, useChange } from "./queries";

export const useCompare = (id: string, anchors: string[]) =>
  useQuery({
    queryKey: ["compare", id, anchors],
    queryFn: () =>
      dataOf(GET("/api/labs/{lab_id}/compare", { params: { path: { lab_id: id }, query: { anchor: anchors } } })),
    placeholderData: ofTheSame(id),
  });

/** Volts and currents against what the lab changed on purpose. */
export const useByVariable = (id: string) =>
  useQuery({
    queryKey: ["by-variable", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/variables", { params: { path: { lab_id: id } } })),
  });

export const useBenchCompare = () =>
  useQuery({ queryKey: ["bench-compare"], queryFn: () => dataOf(GET("/api/bench/compare")) });

export const useExplain = (id: string, cell: Schemas["CellIO"] | null) =>
  useQuery({
    queryKey: ["explain", id, cell],
    enabled: cell !== null,
    queryFn: () =>
      dataOf(
        GET("/api/labs/{lab_id}/explain", {
          params: { path: { lab_id: id }, query: cell ?? { negative: "", electrolyte: "", positive: "" } },
        }),
      ),
    placeholderData: ofTheSame(id),
  });

/** What goes round in a cell, in four states. */
export const useLoop = (id: string, cell: Schemas["CellIO"]) =>
  useQuery({
    queryKey: ["loop", id, cell],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/loop", { params: { path: { lab_id: id }, query: cell } })),
    placeholderData: ofTheSame(id),
    staleTime: Infinity, // the model's, whatever is read meanwhile
  });

/** The basics with a number of the class. */
export const useBasics = (id: string) =>
  useQuery({
    queryKey: ["basics", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/basics", { params: { path: { lab_id: id } } })),
  });

/** The basics with a number of the group's own readings. */
export const useBenchBasics = () =>
  useQuery({ queryKey: ["bench-basics"], queryFn: () => dataOf(GET("/api/bench/basics")) });

export const useWhatIf = (body: Schemas["WhatIfIn"]) =>
  useQuery({
    queryKey: ["what-if", body],
    queryFn: () => dataOf(POST("/api/what-if", { body })),
    placeholderData: (previous) => previous,
    staleTime: Infinity,
    retry: false,
  });

export const useAccounts = (id: string | undefined) =>
  useQuery({
    queryKey: ["accounts", id],
    enabled: id !== undefined,
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/accounts", { params: { path: { lab_id: id ?? "" } } })),
  });

/** The accounts' shares of a hundred, value by value, and the most telling cells. */
export const useDeciding = (id: string, enabled = true) =>
  useQuery({
    queryKey: ["deciding", id],
    enabled,
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/deciding", { params: { path: { lab_id: id } } })),
  });

/** Decide what groups see; several ticks go one after the other, none is skipped. */
export function useRelease(id: string) {
  const client = useQueryClient();
  return useMutation<Schemas["Done"], Problem, Schemas["ReleaseIn"]["parts"]>({
    scope: { id: `release-${id}` },
    mutationFn: (parts) => dataOf(POST("/api/labs/{lab_id}/release", { ...ofLab(id), body: { parts } })),
    onSuccess: () => void fetchAnew(client), // the next tick does not wait for what is fetched
  });
}

export const useAddElsewhere = (id: string) =>
  useChange((body: Schemas["ElsewhereIn"]) => dataOf(POST("/api/labs/{lab_id}/elsewhere", { ...ofLab(id), body })));

export const useWithdrawElsewhere = () =>
  useChange((value: string) => dataOf(DELETE("/api/elsewhere/{value_id}", { params: { path: { value_id: value } } })));
