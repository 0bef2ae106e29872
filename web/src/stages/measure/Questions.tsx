import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { useAnswerQuestion } from "../../api/room";
import { Button, MainButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Form, Row } from "../../ui/layout";
import type { MarginNote } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";
import { useKept } from "../../ui/useKept";

type Question = Schemas["WaitingQuestion"];

/** Where a lab is planned about a question, with the plates and the liquid that it was asked at. */
const newLab = ({ text, made_of: { negative, electrolyte, positive } }: Question) =>
  `/labs/new?${new URLSearchParams({ question: text, plates: `${negative},${positive}`, liquids: electrolyte })}`;

/** What the teacher makes of a question: an answer, a parking place, a cell to find out with, or a lab. */
function AnswerQuestion({ question, open }: { question: Question; open: boolean }) {
  const answer = useAnswerQuestion();
  const [text, setText, forget] = useKept(`question:${question.id}`, "");
  const [wrong, setWrong] = useState<string | null>(null);
  const navigate = useNavigate();
  const make = (kind: Schemas["QuestionAnswerIn"]["kind"], then?: () => void) => {
    if (kind === "answered" && !text.trim()) return setWrong(t`Write an answer first, or park it.`);
    answer.mutate(
      { id: question.id, body: { kind, text, cell: null } },
      {
        onSuccess: () => {
          forget();
          then?.();
        },
      },
    );
  };
  return (
    <Form
      aria-label={t`Answer ${question.group}`}
      onSubmit={(event) => {
        event.preventDefault();
        make("answered");
      }}
    >
      <TextField
        label={t`Your answer, or a question back`}
        value={text}
        onChange={(typed) => {
          setText(typed);
          setWrong(null);
        }}
        maxLength={300}
        error={wrong}
      />
      <Row>
        <MainButton type="submit">
          <Trans>Answer</Trans>
        </MainButton>
        <Button onPress={() => make("parked")}>
          <Trans>Park it</Trans>
        </Button>
        {open && (
          <Button onPress={() => make("cell")}>
            <Trans>Have them measure it again</Trans>
          </Button>
        )}
        <Button onPress={() => make("planned", () => navigate(newLab(question)))}>
          <Trans>Plan a lab about it</Trans>
        </Button>
      </Row>
      <ProblemNote problem={answer.error} />
    </Form>
  );
}

/** Questions that nobody has looked at, a margin note each, the oldest first. */
export const questionNotes = (board: Schemas["BoardOut"]): MarginNote[] =>
  board.questions.map((question) => ({
    code: `question-${question.id}`,
    tone: "plain",
    title: t`${question.group} asks about ${question.short}`,
    text: (
      <>
        “{question.text}”
        <AnswerQuestion question={question} open={board.state === "open"} />
      </>
    ),
  }));
