import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type ReactNode, useState } from "react";
import styled, { createGlobalStyle } from "styled-components";
import type { Schemas } from "../../api/client";
import { day } from "../../format";
import { TextButton } from "../../ui/Button";
import { Num, OnScreen, Soft } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { colour, font, phone, print, screen } from "../../ui/theme";

type Head = Omit<Schemas["ClassBookOut"], "signed_by" | "groups" | "cells" | "packs" | "claims" | "words">;

/** The frame around it stays on the screen. */
const OnPaper = createGlobalStyle`
  ${print} {
    body header:not(article header) { display: none !important; }
  }
`;

/** A column that prints as it stands. */
const Sheet = styled.article`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 1.1rem;
  max-width: 54rem;
  padding: 1.25rem;
  section,
  header {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 0.5rem;
  }
  section > h2 {
    padding-top: 0.6rem;
    border-top: 2px solid ${colour.ink};
  }
  h2,
  h3 {
    break-after: avoid;
  }
  blockquote {
    margin: 0;
    padding-left: 1rem;
    border-left: 3px solid ${colour.hairline};
  }
  figure,
  img {
    break-inside: avoid;
  }
  figure > div {
    max-width: 34rem;
  }
  ${phone} {
    padding: 1rem;
  }
  ${print} {
    display: block;
    max-width: none;
    padding: 0;
    font-size: 9.5pt;
    section,
    header {
      display: block;
    }
    & > * + *,
    section > * + * {
      margin-top: 0.5rem;
    }
    figure > div {
      max-width: 26rem;
    }
  }
`;

/** A page of a notebook. */
export function Paper({ children }: { children: ReactNode }) {
  return (
    <>
      <OnPaper />
      <Sheet>{children}</Sheet>
    </>
  );
}

/** One thing that is not torn apart on paper. */
export const Together = styled.section`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.5rem;
  break-inside: avoid;
  ${print} {
    margin-top: 0.8rem;
  }
`;

const Lines = styled.table`
  width: 100%;
  border-collapse: collapse;
  font-size: 0.875rem;
  td,
  th {
    padding: 0.15rem 0.8rem 0.15rem 0;
    text-align: left;
    vertical-align: baseline;
    font-weight: 400;
  }
  td {
    font-family: ${font.numbers};
  }
  td:last-child {
    white-space: nowrap;
  }
  ${print} {
    font-size: 8.5pt;
  }
`;

const Folded = styled.div<{ $open: boolean }>`
  ${screen} {
    display: ${({ $open }) => ($open ? "block" : "none")};
  }
`;

/** How a value came about, line by line: at a press on the screen, always on paper and in the saved file. */
export function Working({ lines, label }: { lines: Schemas["LineOut"][]; label: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <OnScreen>
        <TextButton onPress={() => setOpen(!open)} aria-expanded={open} aria-label={label}>
          {open ? t`Hide the working` : t`The working`}
        </TextButton>
      </OnScreen>
      <Folded $open={open} data-on-paper>
        <Lined lines={lines} label={label} />
      </Folded>
    </>
  );
}

function Lined({ lines, label }: { lines: Schemas["LineOut"][]; label: string }) {
  return (
    <Scroll role="region" aria-label={label}>
      <Lines>
        <tbody>
          {lines.map((line, place) => (
            <tr key={place}>
              <th scope="row">{line.name}</th>
              <td>{line.sum}</td>
              <td>
                {line.sum && "= "}
                {line.gives}
              </td>
            </tr>
          ))}
        </tbody>
      </Lines>
    </Scroll>
  );
}

/** What stands at the top of every notebook. */
export function Top({ book, who, children }: { book: Head; who: string; children?: ReactNode }) {
  return (
    <header>
      <h1>{book.title}</h1>
      <p>
        {who} · {day(book.date)}
        {book.simulated && t` · simulated readings`}
      </p>
      {book.question && (
        <p>
          <Trans>
            The lab’s question: <strong>{book.question}</strong>
          </Trans>
        </p>
      )}
      {book.kept && (
        <p>
          <Trans>Kept the same: {book.kept}</Trans>
        </p>
      )}
      {children}
    </header>
  );
}

/** What is not there yet, said and not filled in. */
export function StillMissing({ lacks }: { lacks: string[] }) {
  if (lacks.length === 0) return null;
  return (
    <section aria-label={t`Still missing`}>
      <h2>
        <Trans>Still missing</Trans>
      </h2>
      <ul>
        {lacks.map((lack) => (
          <li key={lack}>– {lack}</li>
        ))}
      </ul>
    </section>
  );
}

/** The safety sheet as it was signed, and the tables that numbers were compared with. */
export function Bottom({ book, signed }: { book: Head; signed: string }) {
  return (
    <>
      <Together>
        <h2>
          <Trans>Safety</Trans>
        </h2>
        <Soft>{signed}</Soft>
        <ul>
          {book.cautions.map((caution) => (
            <li key={caution}>– {caution}</li>
          ))}
        </ul>
      </Together>
      <Soft>
        <Trans>
          Table values and models: tables of <Num>{book.edition}</Num>.
        </Trans>
      </Soft>
    </>
  );
}
