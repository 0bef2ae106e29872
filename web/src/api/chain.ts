import { useQuery } from "@tanstack/react-query";
import { GET, POST, type Schemas, dataOf } from "./client";
import { useLive } from "./live";
import { LIVE_MS, LOOK_AGAIN_MS, ofLab, useChange } from "./queries";

/** The class's chain; fetched anew as soon as anything in the lab changes. */
export function useChain(id: string) {
  const live = useLive(`/api/labs/${id}/events`, ["chain", id]);
  return useQuery({
    queryKey: ["chain", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/chain", ofLab(id))),
    refetchInterval: live ? LIVE_MS : LOOK_AGAIN_MS,
  });
}

export const useBeginChain = (id: string) =>
  useChange((body: Schemas["ChainIn"]) => dataOf(POST("/api/labs/{lab_id}/chain", { ...ofLab(id), body })));
