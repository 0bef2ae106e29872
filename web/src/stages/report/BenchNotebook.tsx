import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useRef, useState } from "react";
import { Link, Navigate } from "react-router";
import styled from "styled-components";
import { useBench } from "../../api/bench";
import { Problem } from "../../api/client";
import { useBenchCompare } from "../../api/findings";
import { useBenchNotebook } from "../../api/notebook";
import { only } from "../../api/outbox";
import { moment } from "../../format";
import { BenchLine } from "../../lab/BenchLine";
import { newId } from "../../api/newId";
import { useOutbox } from "../../lab/useOutbox";
import { WhatCounts } from "../../lab/Marks";
import { Frame } from "../../ui/Frame";
import { MainButton } from "../../ui/Button";
import { OnScreen, Row, Soft } from "../../ui/layout";
import { type MarginNote, Notes } from "../../ui/Notes";
import { Waiting } from "../../ui/Waiting";
import { print } from "../../ui/theme";
import { ClassPictures } from "./ClassPictures";
import { Notebook } from "./Notebook";
import { PartEditor } from "./PartEditor";
import { TakeAway } from "./TakeAway";
import { Words } from "./Words";
import { citables } from "./citable";

const OnPaper = styled.div`
  display: none;
  ${print} {
    display: block;
  }
`;

const NONE: string[] = [];

/** A group's notebook on its own device: its words beside its record, kept as they are typed, handed in when ready. */
export function BenchNotebook() {
  const bench = useBench();
  const notebook = useBenchNotebook();
  const compare = useBenchCompare();
  const page = useRef<HTMLDivElement>(null);
  const [ruled, setRuled] = useState(false);
  const outbox = useOutbox(bench.data, notebook.data?.parts.flatMap((part) => part.recent) ?? NONE);
  const book = notebook.data;
  if (!bench.data || !book) {
    const error = bench.error ?? notebook.error;
    if (error instanceof Problem && error.status === 401) return <Navigate to="/join" replace />;
    return <Waiting title={t`Notebook`} error={error} />;
  }
  const title = `${book.title}, ${book.group}`;
  const handing = only(outbox.waiting, "handIn");
  const refused = handing.find((one) => one.refusal !== null);
  const handIn = async () => {
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur(); // what is being typed goes first
    if (refused) await outbox.remove(refused.id);
    const id = newId();
    await outbox.add({ kind: "handIn", id, cell_id: "", body: { id, device_at: new Date().toISOString() } });
  };
  const handedIn = book.handed_in_at ? t`Handed in ${moment(book.handed_in_at)}` : t`Not handed in yet`;
  const press = book.may_write ? (
    <MainButton onPress={() => void handIn()} isDisabled={handing.length > 0 && !refused}>
      <Trans>Hand in</Trans>
    </MainButton>
  ) : undefined;
  const notes: MarginNote[] = [
    {
      code: "hand-in",
      tone: book.handed_in_at && !book.written_since ? "good" : "plain",
      title: handedIn,
      text: book.may_write
        ? book.written_since
          ? t`You have written on since. Hand in again when it is ready.`
          : t`You can write on, also afterwards; your teacher sees what changed.`
        : t`Your teacher has not opened notebooks for writing. You can read and print what you recorded.`,
      action: press,
    },
    ...handing.map((one) => ({
      code: "handing",
      tone: one.refusal === null ? ("caution" as const) : ("wrong" as const),
      title: one.refusal === null ? t`Waits to be sent` : t`Not handed in`,
      text: one.refusal ?? one.held?.message ?? t`It is handed in as soon as there is a network.`,
    })),
    ...(book.rubric.some((row) => row.levels.length > 0)
      ? [
          {
            code: "counts",
            tone: "plain" as const,
            title: t`How it is marked`,
            text: <WhatCounts rubric={book.rubric} />,
          },
        ]
      : []),
    {
      code: "take-away",
      tone: "plain",
      title: t`Take it with you`,
      text: (
        <a href="/api/bench/package.zip" download>
          <Trans>All your group recorded, as a package (zip)</Trans>
        </a>
      ),
    },
    {
      code: "own-words",
      tone: "plain",
      title: t`In your own words`,
      text: t`Nothing is written for you. What you type is kept on this device at once, sent when there is a network, and every version stays.`,
    },
  ];
  const all = citables(book);
  return (
    <Frame
      title={t`Notebook, ${book.group}`}
      lab={t`${book.group} · notebook`}
      about={book.title}
      who={
        <Link to="/bench">
          <Trans>To the bench</Trans>
        </Link>
      }
      notice={<BenchLine bench={bench.data} outbox={outbox} />}
      margin={<Notes notes={notes} />}
    >
      <div ref={page}>
        <Notebook
          book={book}
          ruled={ruled}
          handIn={
            <OnScreen data-not-in-file>
              <Row>
                {press}
                <Soft role="status">{handedIn}</Soft>
              </Row>
            </OnScreen>
          }
          pictures={compare.data?.released.includes("compare") && <ClassPictures compare={compare.data} />}
          editor={
            book.may_write
              ? (part) => (
                  <>
                    <OnScreen data-not-in-file>
                      <PartEditor part={part} all={all} outbox={outbox} />
                    </OnScreen>
                    <OnPaper data-on-paper>
                      <Words part={part} all={all} ruled={ruled} />
                    </OnPaper>
                  </>
                )
              : undefined
          }
        />
        <TakeAway page={page} title={title} ruled={ruled} setRuled={setRuled} />
      </div>
    </Frame>
  );
}
