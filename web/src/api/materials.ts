import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { GET, POST, PUT, type Problem, type Schemas, dataOf } from "./client";
import { fetchAnew, useChange } from "./queries";

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

export const useAbout = (key: string) =>
  useQuery<Schemas["AboutOut"], Problem>({
    queryKey: ["about", key],
    queryFn: () => dataOf(GET("/api/materials/{key}/about", { params: { path: { key } } })),
    retry: false,
  });

/** What labs to come need more of than there is. */
export const useShort = () => useQuery({ queryKey: ["short"], queryFn: () => dataOf(GET("/api/labs/short")) });

/** What a recipe would come to; nothing is kept. */
export const useMadePreview = (body: Schemas["MadeIn"] | null) =>
  useQuery<Schemas["MadePreview"], Problem>({
    queryKey: ["made", body],
    enabled: body !== null,
    queryFn: () => dataOf(POST("/api/materials/made/preview", { body: body as Schemas["MadeIn"] })),
    placeholderData: (previous) => previous,
    retry: false,
  });

export const useAddMade = () => useChange((body: Schemas["MadeIn"]) => dataOf(POST("/api/materials/made", { body })));

/** What two solutions would give; nothing is kept. */
export const useTwoPreview = (body: Schemas["TwoIn"] | null) =>
  useQuery<Schemas["TwoPreview"], Problem>({
    queryKey: ["two", body],
    enabled: body !== null,
    queryFn: () => dataOf(POST("/api/materials/two/preview", { body: body as Schemas["TwoIn"] })),
    placeholderData: (previous) => previous,
    retry: false,
  });

export const useAddTwo = () => useChange((body: Schemas["TwoIn"]) => dataOf(POST("/api/materials/two", { body })));

/** Keep what is on the shelf; several changes of one material go one after the other, none is skipped. */
export function useSetShelf(key: string) {
  const client = useQueryClient();
  return useMutation<Schemas["Done"], Problem, Schemas["ShelfIn"]>({
    scope: { id: `shelf-${key}` },
    mutationFn: (body) => dataOf(PUT("/api/shelf/{key}", { params: { path: { key } }, body })),
    onSuccess: () =>
      Promise.all([fetchAnew(client, { queryKey: ["materials"] }), fetchAnew(client, { queryKey: ["short"] })]),
  });
}
