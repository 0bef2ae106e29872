import { useQuery } from "@tanstack/react-query";
import { GET, POST, dataOf } from "./client";
import { LIVE_MS, LOOK_AGAIN_MS, ofLab, useChange } from "./queries";

/** A group's packs; fetched anew whenever the bench is. */
export const useBenchPacks = () =>
  useQuery({
    queryKey: ["bench", "packs"],
    queryFn: () => dataOf(GET("/api/bench/packs")),
    refetchInterval: 3 * LOOK_AGAIN_MS,
  });

/** A pack over time, as it is told. */
export const usePackRun = (pack: string, wanted: boolean) =>
  useQuery({
    queryKey: ["bench", "run", pack],
    enabled: wanted,
    queryFn: () => dataOf(GET("/api/packs/{pack_id}/run", { params: { path: { pack_id: pack } } })),
    retry: false,
  });

/** Why packs of the class fell short, weighed on their own numbers. */
export const usePackCauses = (id: string) =>
  useQuery({
    queryKey: ["pack-causes", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/packs/causes", ofLab(id))),
    refetchInterval: LIVE_MS,
  });

/** Bring a table of packs into a lab; a refused one changes nothing. */
export const useImportPacks = (id: string) =>
  useChange((file: File) => {
    const form = new FormData();
    form.append("file", file);
    return dataOf(
      POST("/api/labs/{lab_id}/packs/import", { ...ofLab(id), body: form as never, bodySerializer: () => form }),
    );
  });

export const useLabPacks = (id: string) =>
  useQuery({
    queryKey: ["packs", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/packs", ofLab(id))),
    refetchInterval: LIVE_MS,
  });
