import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Disclosure } from "../../ui/controls";
import { Num } from "../../ui/layout";

type Lesson = Schemas["LessonOut"];

const Told = styled.div`
  display: grid;
  gap: 0.35rem;
  h3 {
    margin-top: 0.6rem;
  }
  ul li {
    padding-left: 0.9rem;
    text-indent: -0.9rem;
  }
  ul li::before {
    content: "– ";
  }
`;

const Steps = styled.ol`
  display: grid;
  gap: 0.3rem;
  padding: 0;
  list-style: none;
  li {
    display: grid;
    grid-template-columns: 4.6rem minmax(0, 1fr);
    gap: 0.6rem;
    align-items: baseline;
  }
`;

/** From which minute to which each step goes. */
const times = (steps: Lesson["steps"]) =>
  steps.map((step, place) => {
    const begins = steps.slice(0, place).reduce((sum, one) => sum + one.minutes, 0);
    return `${begins}–${begins + step.minutes}`;
  });

/** A lesson in words, folded: minutes, what to ask, what comes out, what goes wrong, what for who is early. */
export function HowItGoes({ lesson }: { lesson: Lesson }) {
  const minutes = lesson.steps.reduce((sum, step) => sum + step.minutes, 0);
  const at = times(lesson.steps);
  return (
    <Disclosure
      title={t`How this lesson goes`}
      detail={t`${plural(minutes, { one: "# minute", other: "# minutes" })}, what to ask, what goes wrong`}
    >
      <Told>
        <Steps aria-label={t`Minutes`}>
          {lesson.steps.map((step, place) => (
            <li key={step.what}>
              <Num>{at[place]}</Num> <span>{step.what}</span>
            </li>
          ))}
        </Steps>
        <h3>
          <Trans>What to ask</Trans>
        </h3>
        <ul>
          {lesson.asks.map((ask) => (
            <li key={ask}>{ask}</li>
          ))}
        </ul>
        <h3>
          <Trans>What comes out</Trans>
        </h3>
        <p>{lesson.expect}</p>
        <h3>
          <Trans>What goes wrong</Trans>
        </h3>
        <ul>
          {lesson.wrong.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
        <p>{lesson.early}</p>
      </Told>
    </Disclosure>
  );
}
