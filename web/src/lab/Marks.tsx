import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { TextButton } from "../ui/Button";
import { Behind } from "../ui/Behind";
import { Soft } from "../ui/layout";

type Row = Schemas["RubricRow"];

const Levels = styled.ul`
  display: grid;
  gap: 0.25rem;
  padding: 0;
  list-style: none;
  font-size: 0.94rem;
`;

/** What is described for how many points, row by row; a press gives them. */
export function WorthHowMany({ rubric, give }: { rubric: Row[]; give: (row: string, points: string) => void }) {
  const told = rubric.filter((row) => row.levels.length > 0);
  if (told.length === 0) return null;
  return (
    <Behind label={t`What is worth how many`}>
      {told.map((row) => (
        <section key={row.name}>
          <h3>{t`${row.name}, of ${row.most}`}</h3>
          <Levels>
            {row.levels.map((level) => (
              <li key={`${level.points}${level.text}`}>
                <TextButton onPress={() => give(row.name, String(level.points))}>
                  {t`${level.points}: ${level.text}`}
                </TextButton>
              </li>
            ))}
          </Levels>
        </section>
      ))}
    </Behind>
  );
}

/** What a group is marked by, before it writes: each row with its levels and an example of each. */
export function WhatCounts({ rubric }: { rubric: Row[] }) {
  if (rubric.every((row) => row.levels.length === 0)) return null;
  return (
    <Behind label={t`What counts`}>
      {rubric.map((row) => (
        <section key={row.name}>
          <h3>{t`${row.name}, of ${row.most}`}</h3>
          <Levels>
            {row.levels.map((level) => (
              <li key={`${level.points}${level.text}`}>
                <Trans>
                  {level.points}: {level.text}
                </Trans>
                {level.example && <Soft as="span">{t`, for example “${level.example}”`}</Soft>}
              </li>
            ))}
          </Levels>
        </section>
      ))}
    </Behind>
  );
}
