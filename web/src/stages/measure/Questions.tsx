import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useAnswerQuestion } from "../../api/room";
import { Button, MainButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Form, Row } from "../../ui/layout";
import type { MarginNote } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";
import { useKept } from "../../ui/useKept";

type Question = Schemas["WaitingQuestion"];

/** What the teacher makes of a question: an answer, a parking place, or a cell to find out with. */
function AnswerQuestion({ question, open }: { question: Question; open: boolean }) {
  const answer = useAnswerQuestion();
  const [text, setText, forget] = useKept(`question:${question.id}`, "");
  const [wrong, setWrong] = useState<string | null>(null);
  const make = (kind: Schemas["QuestionAnswerIn"]["kind"]) => {
    if (kind === "answered" && !text.trim()) return setWrong("Write an answer first, or park it.");
    answer.mutate({ id: question.id, body: { kind, text, cell: null } }, { onSuccess: forget });
  };
  return (
    <Form
      aria-label={`Answer ${question.group}`}
      onSubmit={(event) => {
        event.preventDefault();
        make("answered");
      }}
    >
      <TextField
        label="Your answer, or a question back"
        value={text}
        onChange={(typed) => {
          setText(typed);
          setWrong(null);
        }}
        maxLength={300}
        error={wrong}
      />
      <Row>
        <MainButton type="submit">Answer</MainButton>
        <Button onPress={() => make("parked")}>Park it</Button>
        {open && <Button onPress={() => make("cell")}>Have them measure it again</Button>}
      </Row>
      <Link to={`/labs/new?question=${encodeURIComponent(question.text)}`}>Plan a lab about it</Link>
      <ProblemNote problem={answer.error} />
    </Form>
  );
}

/** Questions that nobody has looked at, a margin note each, the oldest first. */
export const questionNotes = (board: Schemas["BoardOut"]): MarginNote[] =>
  board.questions.map((question) => ({
    code: `question-${question.id}`,
    tone: "plain",
    title: `${question.group} asks about ${question.short}`,
    text: (
      <>
        “{question.text}”
        <AnswerQuestion question={question} open={board.state === "open"} />
      </>
    ),
  }));
