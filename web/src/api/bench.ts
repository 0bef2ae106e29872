import { useQuery } from "@tanstack/react-query";
import { DELETE, GET, dataOf } from "./client";
import { useLive } from "./live";
import { keepTold } from "./offline";
import { LIVE_MS, LOOK_AGAIN_MS, ofLab, useChange } from "./queries";

export const usePredictions = (id: string) =>
  useQuery({
    queryKey: ["predictions", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/predictions", ofLab(id))),
    refetchInterval: 5 * LOOK_AGAIN_MS,
  });

export const useBench = () => {
  const live = useLive("/api/bench/events", ["bench"], keepTold);
  return useQuery({
    queryKey: ["bench"],
    queryFn: () => dataOf(GET("/api/bench")),
    refetchInterval: live ? LIVE_MS : 3 * LOOK_AGAIN_MS,
  });
};

export const useBeside = (cell: string) =>
  useQuery({
    queryKey: ["beside", cell],
    queryFn: () => dataOf(GET("/api/cells/{cell_id}/beside", { params: { path: { cell_id: cell } } })),
    refetchInterval: LIVE_MS,
  });

export const useRemovePhoto = () =>
  useChange((id: string) => dataOf(DELETE("/api/photos/{photo_id}", { params: { path: { photo_id: id } } })));
