import { useQuery } from "@tanstack/react-query";
import { GET, POST, PUT, type Schemas, dataOf } from "./client";
import { LIVE_MS, ofLab, useChange } from "./queries";

export const useClaims = (id: string) =>
  useQuery({
    queryKey: ["claims", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/claims", { params: { path: { lab_id: id } } })),
    refetchInterval: LIVE_MS,
  });

export const useBenchClaims = () =>
  useQuery({
    queryKey: ["bench-claims"],
    queryFn: () => dataOf(GET("/api/bench/claims")),
    refetchInterval: LIVE_MS,
  });

export const useRecordClaim = () =>
  useChange((body: Schemas["ClaimIn"]) => dataOf(POST("/api/bench/claims", { body })));

export const useRecordOwnTest = (claim: string) =>
  useChange((body: Schemas["OwnTestIn"]) =>
    dataOf(POST("/api/bench/claims/{claim_id}/tests", { params: { path: { claim_id: claim } }, body })),
  );

/** Whether the group means what was heard in its claim. */
export const useRecordMeant = (claim: string) =>
  useChange((body: Schemas["MeantIn"]) =>
    dataOf(POST("/api/bench/claims/{claim_id}/meant", { params: { path: { claim_id: claim } }, body })),
  );

export const useAnswerClaim = () =>
  useChange(({ id, body }: { id: string; body: Schemas["AnswerIn"] }) =>
    dataOf(POST("/api/claims/{claim_id}/answer", { params: { path: { claim_id: id } }, body })),
  );

export const useSetRubric = () =>
  useChange(({ id, rows }: { id: string; rows: Schemas["RubricRow"][] }) =>
    dataOf(PUT("/api/labs/{lab_id}/rubric", { ...ofLab(id), body: { rows } })),
  );
