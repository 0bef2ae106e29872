import { t } from "@lingui/core/macro";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { POST, type Problem, type Schemas, dataOf } from "../../api/client";
import { fetchAnew } from "../../api/queries";

const ROUNDS = 5;

/** Edits of a lab's plan: each answers with the whole lab, which takes the place of the one shown. */
export function usePlanEdits(id: string, saidBefore: string[]) {
  const client = useQueryClient();
  const [said, setSaid] = useState<string[]>(saidBefore);
  const [round, setRound] = useState(0);
  const edit = useMutation<Schemas["EditedOut"], Problem, Schemas["EditIn"]>({
    // One after the other, in the order of pressing.
    scope: { id: `plan-${id}` },
    mutationFn: (body) => dataOf(POST("/api/labs/{lab_id}/plan", { params: { path: { lab_id: id } }, body })),
    onSuccess: (answer) => {
      client.setQueryData(["lab", id], answer.lab);
      for (const key of ["kit", "cards", "foreseen"]) void fetchAnew(client, { queryKey: [key, id] });
      setSaid(answer.said);
    },
  });
  const change = (body: Partial<Schemas["EditIn"]> & Pick<Schemas["EditIn"], "kind">) =>
    edit.mutateAsync({ times: 1, round: 0, ...body });

  /** Look for a better plan, round by round; what is better is kept at once. */
  const improve = async () => {
    const found: string[] = [];
    for (let number = 1; number <= ROUNDS; number++) {
      setRound(number);
      try {
        found.push(...(await change({ kind: "improve", round: number })).said);
      } catch {
        break;
      }
    }
    setRound(0);
    setSaid(found.length > 0 ? found : [t`No better plan was found: this one stays.`]);
  };

  return {
    change: (body: Parameters<typeof change>[0]) => void change(body).catch(() => undefined),
    improve: () => void improve(),
    said,
    round,
    rounds: ROUNDS,
    problem: edit.error,
    pending: edit.isPending,
  };
}
