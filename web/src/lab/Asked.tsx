import type { Schemas } from "../api/client";

/** A question of a group, and what its teacher has made of it. */
export function Asked({ question }: { question: Schemas["QuestionOut"] }) {
  const { answer } = question;
  return (
    <>
      Asked: “{question.text}” {!answer && "Not looked at yet."}
      {answer?.kind === "parked" && "The teacher has parked it."}
      {answer?.kind === "cell" && "The teacher has put a cell on the list to find out."}
      {answer?.kind === "planned" && "The teacher plans a lab about it."}
      {answer?.text && <strong> {answer.text}</strong>}
    </>
  );
}
