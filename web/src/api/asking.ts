import { useMutation, useQuery } from "@tanstack/react-query";
import { GET, POST, type Problem, type Schemas, dataOf } from "./client";
import { LOOK_AGAIN_MS, ofLab, useChange } from "./queries";

/** A lab's questions to its class; while one runs, looked at as often as the board. */
export const useAsked = (id: string) =>
  useQuery({
    queryKey: ["asked", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/asked", ofLab(id))),
    refetchInterval: ({ state }) => (state.data?.asked[0]?.ended_at === null ? LOOK_AGAIN_MS : false),
  });

export const useAskClass = (id: string) =>
  useChange((body: Schemas["ClassQuestionIn"]) => dataOf(POST("/api/labs/{lab_id}/asked", { ...ofLab(id), body })));

export const useEndQuestion = () =>
  useChange((id: string) => dataOf(POST("/api/asked/{question_id}/end", { params: { path: { question_id: id } } })));

/** A device opens a question by its code; it asks for nothing else. */
export const useOpenQuestion = () =>
  useMutation<Schemas["QuestionForDevice"], Problem, string>({
    mutationFn: (code) => dataOf(POST("/api/answer/question", { body: { code } })),
  });

export const useAnswer = () =>
  useMutation<Schemas["Done"], Problem, Schemas["ClassAnswerIn"]>({
    mutationFn: (body) => dataOf(POST("/api/answer", { body })),
  });
