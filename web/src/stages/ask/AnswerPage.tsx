import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useEffect, useState } from "react";
import styled from "styled-components";
import { useAnswer, useOpenQuestion } from "../../api/asking";
import type { Schemas } from "../../api/client";
import { newId } from "../../api/newId";
import { MainButton, TextButton } from "../../ui/Button";
import { Picks } from "../../ui/controls";
import { CodeField, TextField } from "../../ui/fields";
import { Frame } from "../../ui/Frame";
import { Column, Form, Narrow, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { useInAddress } from "../../ui/useInAddress";
import { useKept } from "../../ui/useKept";

type Question = Schemas["QuestionForDevice"];

/** Options under each other, the whole width of a phone. */
const Wide = styled.div`
  [role="radiogroup"] > div {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 0.5rem;
  }
`;

function Enter({ given, opened }: { given: string; opened: (question: Question) => void }) {
  const [code, setCode] = useState(given);
  const open = useOpenQuestion();
  const { mutate } = open;
  useEffect(() => {
    if (given) mutate(given, { onSuccess: opened });
    // Once for the code in the address; after that the button asks.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [given]);
  return (
    <Narrow>
      <h1>
        <Trans>A question to the class</Trans>
      </h1>
      <Form
        aria-label={t`The question`}
        onSubmit={(event) => {
          event.preventDefault();
          mutate(code, { onSuccess: opened });
        }}
      >
        <CodeField
          label={t`Code of the question`}
          hint={t`From your teacher. It asks for no name.`}
          value={code}
          onChange={setCode}
        />
        <ProblemNote problem={open.error} />
        <MainButton type="submit">{open.isPending ? t`One moment…` : t`To the question`}</MainButton>
      </Form>
    </Narrow>
  );
}

/** The question, and this device's answer: kept here until it is sent, and to be changed while the question runs. */
function Answer({ question }: { question: Question }) {
  const [device] = useKept(`answer:${question.code}:device`, newId);
  const [id, setId] = useKept(`answer:${question.code}:id`, newId);
  const [said, setSaid] = useKept(`answer:${question.code}:said`, "");
  const [sent, setSent] = useKept(`answer:${question.code}:sent`, false);
  const [wrong, setWrong] = useState<string | null>(null);
  const answer = useAnswer();
  const { options } = question;
  const change = (text: string) => {
    setSaid(text);
    setWrong(null);
  };
  const send = () => {
    if (!said.trim()) return setWrong(options.length > 0 ? t`Choose one first.` : t`Write a few words first.`);
    const choice = options.length > 0 ? options.indexOf(said) : null;
    answer.mutate(
      { id, code: question.code, device, choice, text: choice === null ? said : "" },
      { onSuccess: () => setSent(true) },
    );
  };
  if (sent)
    return (
      <>
        <h1>{question.text}</h1>
        <p role="status">
          <Trans>
            Sent: <strong>{said}</strong>
          </Trans>
        </p>
        <Soft>
          <Trans>Your teacher sees how many said what, not who.</Trans>
        </Soft>
        <p>
          <TextButton
            onPress={() => {
              setId(newId());
              setSent(false);
            }}
          >
            <Trans>Change the answer</Trans>
          </TextButton>
        </p>
      </>
    );
  return (
    <Form
      aria-label={t`The question`}
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      <h1>{question.text}</h1>
      {options.length > 0 ? (
        <Wide>
          <Picks
            label={t`Your answer`}
            options={options.map((option) => ({ key: option, name: option }))}
            value={said}
            onChange={change}
          />
        </Wide>
      ) : (
        <TextField label={t`Your answer`} value={said} onChange={change} rows={4} maxLength={280} />
      )}
      {wrong && (
        <Soft role="alert">
          <strong>{wrong}</strong>
        </Soft>
      )}
      <ProblemNote problem={answer.error} />
      <MainButton type="submit">{answer.isPending ? t`One moment…` : t`Send the answer`}</MainButton>
      <Soft>
        <Trans>Your teacher sees how many said what, not who.</Trans>
      </Soft>
    </Form>
  );
}

/** One question on any device: by its code, without a name. */
export function AnswerPage() {
  const [search] = useInAddress();
  const [question, setQuestion] = useState<Question | null>(null);
  return (
    <Frame title={t`A question to the class`} lab={question?.lab ?? t`A question to the class`}>
      <Column>
        {question ? (
          <Answer key={question.code} question={question} />
        ) : (
          <Enter given={search.get("code") ?? ""} opened={setQuestion} />
        )}
      </Column>
    </Frame>
  );
}
