import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import { useAsked } from "../../api/asking";
import type { Schemas } from "../../api/client";
import { JoinCode } from "../../ui/JoinCode";
import { Num } from "../../ui/layout";
import { type Slide, Slides } from "../../ui/Slides";
import { Waiting } from "../../ui/Waiting";
import { Sums, answered } from "./Sums";

const Side = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 2.5rem;
  align-items: start;
  ol {
    padding-left: 1.6rem;
    list-style: upper-alpha;
  }
  li {
    margin: 0.5rem 0;
  }
  li::marker {
    font-weight: 700;
  }
`;

/** While it runs the options and the way in; the sums when it is over, so that nobody follows the others. */
function slideOf(asked: Schemas["AskedOut"]): Slide {
  if (!asked.link) return { key: asked.id, title: asked.text, says: answered(asked), picture: <Sums asked={asked} /> };
  return {
    key: asked.id,
    title: asked.text,
    says: t`${answered(asked)}. What the class says is shown when the question is over.`,
    picture: (
      <Side>
        <div>
          <JoinCode link={asked.link} size="210px" />
          <p>
            <Trans>
              or <Num>{asked.link.shown}</Num> with <Num>{asked.code}</Num>
            </Trans>
          </p>
        </div>
        {asked.options.length > 0 && (
          <ol>
            {asked.options.map((option) => (
              <li key={option.text}>{option.text}</li>
            ))}
          </ol>
        )}
      </Side>
    ),
  };
}

/** The question on the wall. */
export function AskProjector({ id }: { id: string }) {
  const { data, error } = useAsked(id);
  if (!data) return <Waiting title={t`Ask the class`} error={error} />;
  const [latest] = data.asked;
  return <Slides name={t`A question to the class`} back={`/labs/${id}/ask`} slides={latest ? [slideOf(latest)] : []} />;
}
