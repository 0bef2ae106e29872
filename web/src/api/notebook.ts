import { useQuery } from "@tanstack/react-query";
import { GET, POST, type Schemas, dataOf } from "./client";
import { LIVE_MS, ofLab, useChange } from "./queries";

type Part = Schemas["WordsIn"]["part"];
const ofGroup = (id: string) => ({ params: { path: { group_id: id } } });

export const useBenchNotebook = () =>
  useQuery({
    queryKey: ["bench", "notebook"],
    queryFn: () => dataOf(GET("/api/bench/notebook")),
    refetchInterval: LIVE_MS,
  });

export const useNotebooks = (id: string) =>
  useQuery({
    queryKey: ["notebooks", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/notebooks", ofLab(id))),
    refetchInterval: LIVE_MS,
  });

export const useClassNotebook = (id: string) =>
  useQuery({
    queryKey: ["class-notebook", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/notebook", ofLab(id))),
  });

/** The heads of a lab's history, to be written down. */
export const useHistory = (id: string) =>
  useQuery({
    queryKey: ["history", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/history", { params: { path: { lab_id: id } } })),
  });

export const useGroupNotebook = (group: string) =>
  useQuery({
    queryKey: ["group-notebook", group],
    queryFn: () => dataOf(GET("/api/groups/{group_id}/notebook", ofGroup(group))),
  });

/** The versions of a part, of the group's own notebook or (`group`) of one of a teacher's. */
export const useVersions = (part: Part, group: string | null, open: boolean) =>
  useQuery({
    queryKey: ["versions", part, group],
    enabled: open,
    queryFn: () =>
      dataOf(
        group === null
          ? GET("/api/bench/words/{part}", { params: { path: { part } } })
          : GET("/api/groups/{group_id}/words/{part}", { params: { path: { group_id: group, part } } }),
      ),
  });

export const useGiveBack = (group: string) =>
  useChange((body: Schemas["ReturnIn"]) =>
    dataOf(POST("/api/groups/{group_id}/notebook", { ...ofGroup(group), body })),
  );

/** What groups kept of a cell beside its readings. */
export const useEvidence = (lab: string, cell: Schemas["CellIO"]) =>
  useQuery({
    queryKey: ["evidence", lab, cell],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/evidence", { params: { path: { lab_id: lab }, query: cell } })),
  });
