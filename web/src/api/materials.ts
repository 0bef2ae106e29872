import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { GET, POST, PUT, type Problem, type Schemas, dataOf } from "./client";
import { useChange } from "./queries";

export const useMaterials = () =>
  useQuery({ queryKey: ["materials"], queryFn: () => dataOf(GET("/api/materials")), staleTime: Infinity });

export const useAddElectrode = () =>
  useChange((body: Schemas["OwnElectrodeIn"]) => dataOf(POST("/api/materials/electrodes", { body })));

export const useAddElectrolyte = () =>
  useChange((body: Schemas["OwnElectrolyteIn"]) => dataOf(POST("/api/materials/electrolytes", { body })));

export const useOwnMaterials = () =>
  useQuery({ queryKey: ["own-materials"], queryFn: () => dataOf(GET("/api/materials/own")) });

export const useRetire = () =>
  useChange((key: string) => dataOf(POST("/api/materials/{key}/retire", { params: { path: { key } } })));

/** Keep what is on the shelf; several changes of one material go one after the other, none is skipped. */
export function useSetShelf(key: string) {
  const client = useQueryClient();
  return useMutation<Schemas["Done"], Problem, Schemas["ShelfIn"]>({
    scope: { id: `shelf-${key}` },
    mutationFn: (body) => dataOf(PUT("/api/shelf/{key}", { params: { path: { key } }, body })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["materials"] }),
  });
}
