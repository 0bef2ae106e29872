import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Num, Soft } from "../../ui/layout";
import { colour } from "../../ui/theme";

type Asked = Schemas["AskedOut"];

const List = styled.ol`
  display: grid;
  gap: 0.7rem;
  padding: 0;
  list-style: none;
`;

const Track = styled.div`
  position: relative;
  height: 18px;
  margin-top: 0.2rem;
  background: ${colour.bench};
`;

const Bar = styled.div<{ $fits: boolean }>`
  position: absolute;
  inset: 0 auto 0 0;
  background: ${({ $fits }) => ($fits ? colour.good : colour.soft)};
`;

/** Where the same answer stood before: an outline, so that it can be told without colour. */
const Before = styled.div`
  position: absolute;
  inset: -3px auto -3px 0;
  border-right: 3px solid ${colour.prediction};
`;

const Texts = styled.ul`
  display: grid;
  gap: 0.4rem;
  padding-left: 1.1rem;
`;

const total = (counts: number[]) => counts.reduce((sum, count) => sum + count, 0);

/** What the class chose, option by option, with the sums of the first time beside it; or what it wrote. */
export function Sums({ asked }: { asked: Asked }) {
  const before = total(asked.before);
  if (asked.devices === 0)
    return (
      <Soft>
        <Trans>No answer has come in yet.</Trans>
      </Soft>
    );
  if (asked.options.length === 0)
    return (
      <Texts>
        {asked.texts.map((text, place) => (
          <li key={`${place}${text}`}>{text}</li>
        ))}
      </Texts>
    );
  return (
    <List>
      {asked.options.map((option, place) => {
        const first = asked.before[place] ?? 0;
        const fits = asked.fits === place;
        return (
          <li key={option.text}>
            {fits && <span aria-label={t`fits:`}>✓ </span>}
            {option.text} <Num>{t`${option.chosen} of ${asked.devices}`}</Num>
            {before > 0 && <Soft as="span">{t`, before: ${first} of ${before}`}</Soft>}
            <Track aria-hidden>
              <Bar $fits={fits} style={{ width: `${(100 * option.chosen) / asked.devices}%` }} />
              {before > 0 && <Before style={{ width: `${(100 * first) / before}%` }} />}
            </Track>
          </li>
        );
      })}
    </List>
  );
}

/** How many have answered, in words. */
export const answered = (asked: Asked) =>
  t`${plural(asked.devices, { one: "# answer", other: "# answers" })}, one a device`;
