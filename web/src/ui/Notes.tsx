import { t } from "@lingui/core/macro";
import { type ReactNode, useState } from "react";
import styled from "styled-components";
import { TextButton } from "./Button";
import { colour, print, screen } from "./theme";

const List = styled.ul`
  display: grid;
  li {
    padding: 0.75rem 0;
    border-top: 1px solid ${colour.marginLine};
  }
  li:first-child {
    border-top: 0;
  }
  ${screen} {
    li[data-later] {
      display: none;
    }
  }
  ${print} {
    li {
      break-inside: avoid;
    }
  }
`;

const tones = { plain: colour.ink, good: colour.good, caution: colour.caution, wrong: colour.wrong } as const;
export type Tone = keyof typeof tones;

const Title = styled.h3<{ $tone: Tone }>`
  display: flex;
  gap: 0.4em;
  align-items: baseline;
  color: ${({ $tone }) => tones[$tone]};
  svg {
    flex: none;
  }
`;

/** The shape that a tone has, so that nothing hangs on colour. */
export const ToneMark = ({ tone }: { tone: Tone }) =>
  tone === "plain" ? null : (
    <svg width="13" height="13" viewBox="0 0 14 14" aria-hidden>
      {tone === "good" && <path d="M1 7.500l4 4.500 8-11" fill="none" stroke={colour.good} strokeWidth="2.6" />}
      {tone === "caution" && <path d="M7 0.500l7 13H0z" fill={colour.cautionMark} />}
      {tone === "wrong" && <rect x="0" y="5" width="14" height="4.500" fill={colour.wrong} />}
    </svg>
  );

export type MarginNote = {
  code: string;
  tone: Tone;
  title: string;
  text: ReactNode;
  action?: ReactNode;
  evidence?: string[];
};

const Dashes = styled.ul`
  && li {
    padding: 0.1rem 0 0.1rem 1rem;
    border: 0;
    text-indent: -1rem;
  }
  li::before {
    content: "– ";
    display: inline-block;
    width: 1rem;
    text-indent: 0;
  }
`;

/** Several short things inside one note. */
export const Bullets = ({ items }: { items: string[] }) => (
  <Dashes>
    {items.map((item) => (
      <li key={item}>{item}</li>
    ))}
  </Dashes>
);

/** The numbers a note rests on, shown on a press. */
function Evidence({ of, rows }: { of: string; rows: string[] }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <TextButton
        onPress={() => setOpen(!open)}
        aria-expanded={open}
        aria-label={open ? t`Less: ${of}` : t`The numbers: ${of}`}
      >
        {open ? t`Less` : t`The numbers`}
      </TextButton>
      {open && <Bullets items={rows} />}
    </>
  );
}

/** Short notes, most useful first, each with at most one action; beyond `most` they wait behind one press. */
export function Notes({ notes, most = notes.length }: { notes: MarginNote[]; most?: number }) {
  const [all, setAll] = useState(false);
  const more = notes.length - most;
  return (
    <List>
      {notes.map((note, place) => (
        <li key={`${note.code}-${note.title}`} data-later={!all && place >= most ? true : undefined}>
          <Title $tone={note.tone}>
            <ToneMark tone={note.tone} />
            {note.title}
          </Title>
          <div>{note.text}</div>
          {note.evidence && note.evidence.length > 0 && <Evidence of={note.title} rows={note.evidence} />}
          {note.action}
        </li>
      ))}
      {more > 0 && (
        <li>
          <TextButton onPress={() => setAll(!all)} aria-expanded={all}>
            {all ? t`Only the first` : t`${more} more`}
          </TextButton>
        </li>
      )}
    </List>
  );
}
