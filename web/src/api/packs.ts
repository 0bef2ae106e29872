import { useQuery } from "@tanstack/react-query";
import { GET, dataOf } from "./client";
import { LIVE_MS, LOOK_AGAIN_MS, ofLab } from "./queries";

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

export const useLabPacks = (id: string) =>
  useQuery({
    queryKey: ["packs", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/packs", ofLab(id))),
    refetchInterval: LIVE_MS,
  });
