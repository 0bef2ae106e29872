import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../api/client";

/** A question of a group, and what its teacher has made of it. */
export function Asked({ question }: { question: Schemas["QuestionOut"] }) {
  const { answer } = question;
  return (
    <>
      <Trans>Asked: “{question.text}”</Trans> {!answer && t`Not looked at yet.`}
      {answer?.kind === "parked" && t`The teacher has parked it.`}
      {answer?.kind === "cell" && t`The teacher has put a cell on the list to find out.`}
      {answer?.kind === "planned" && t`The teacher plans a lab about it.`}
      {answer?.text && <strong> {answer.text}</strong>}
    </>
  );
}
