import { useQuery } from "@tanstack/react-query";
import { GET, POST, type Schemas, dataOf } from "./client";
import { useLive } from "./live";
import { LIVE_MS, LOOK_AGAIN_MS, ofLab, useChange } from "./queries";

/** A board is shown as its stream brings it; nothing of it is kept on the device. */
const shownAsTold = () => undefined;

export const useBoard = (id: string) => {
  const live = useLive(`/api/labs/${id}/events`, ["board", id], shownAsTold);
  return useQuery({
    queryKey: ["board", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/board", { params: { path: { lab_id: id } } })),
    refetchInterval: live ? LIVE_MS : LOOK_AGAIN_MS,
  });
};

export const useAskAgain = () =>
  useChange((cell: string) => dataOf(POST("/api/cells/{cell_id}/ask-again", { params: { path: { cell_id: cell } } })));

export const useGiveCell = () =>
  useChange(({ cell, group }: { cell: string; group: string }) =>
    dataOf(POST("/api/cells/{cell_id}/give", { params: { path: { cell_id: cell } }, body: { group } })),
  );

/** Put one more cell on a group's list while the lab runs. */
export const useAddCell = () =>
  useChange(({ group, cell }: { group: string; cell: Schemas["CellIO"] }) =>
    dataOf(POST("/api/groups/{group_id}/cells", { params: { path: { group_id: group } }, body: cell })),
  );

export const useSetAside = () =>
  useChange(({ kind, id, reason }: { kind: "readings" | "groups"; id: string; reason: string }) =>
    kind === "readings"
      ? dataOf(POST("/api/readings/{reading_id}/aside", { params: { path: { reading_id: id } }, body: { reason } }))
      : dataOf(POST("/api/groups/{group_id}/aside", { params: { path: { group_id: id } }, body: { reason } })),
  );

export const useSetMeter = () =>
  useChange(({ group, address }: { group: string; address: string }) =>
    dataOf(POST("/api/groups/{group_id}/meter", { params: { path: { group_id: group } }, body: { address } })),
  );

export const usePause = () =>
  useChange(({ id, on }: { id: string; on: boolean }) =>
    dataOf(POST("/api/labs/{lab_id}/pause", { ...ofLab(id), body: { on } })),
  );

export const useShowValues = () =>
  useChange(({ id, on }: { id: string; on: boolean }) =>
    dataOf(POST("/api/labs/{lab_id}/show-values", { ...ofLab(id), body: { on } })),
  );

export const useAddMinutes = () =>
  useChange(({ id, minutes }: { id: string; minutes: number }) =>
    dataOf(POST("/api/labs/{lab_id}/minutes", { ...ofLab(id), body: { minutes } })),
  );

export const useAnswerQuestion = () =>
  useChange(({ id, body }: { id: string; body: Schemas["QuestionAnswerIn"] }) =>
    dataOf(POST("/api/questions/{question_id}/answer", { params: { path: { question_id: id } }, body })),
  );

export const useNewCode = () =>
  useChange((lab: string) => dataOf(POST("/api/labs/{lab_id}/new-code", { params: { path: { lab_id: lab } } })));
