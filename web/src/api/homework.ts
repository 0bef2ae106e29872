import { useMutation, useQuery } from "@tanstack/react-query";
import { GET, POST, type Problem, type Schemas, dataOf } from "./client";
import { LIVE_MS, ofLab, useChange } from "./queries";

/** A lab's homework and what its class found. */
export const useHomework = (id: string) =>
  useQuery({
    queryKey: ["homework", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/homework", ofLab(id))),
    refetchInterval: LIVE_MS,
  });

export const useSetHomework = (id: string) =>
  useChange((body: Schemas["HomeworkIn"]) => dataOf(POST("/api/labs/{lab_id}/homework", { ...ofLab(id), body })));

export const useEndHomework = () =>
  useChange((id: string) => dataOf(POST("/api/homework/{homework_id}/end", { params: { path: { homework_id: id } } })));

/** A device opens homework by its code; it asks for nothing else. */
export const useOpenHomework = () =>
  useMutation<Schemas["HomeworkForDevice"], Problem, string>({
    mutationFn: (code) => dataOf(POST("/api/practise/homework", { body: { code } })),
  });
