import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useRef } from "react";
import type { Schemas } from "../../api/client";
import { useCompare } from "../../api/findings";
import { useClassNotebook, useHistory } from "../../api/notebook";
import { moment, number, volts, lower } from "../../format";
import { bathName, useNames } from "../../lab/useNames";
import { Heads } from "../../ui/Heads";
import { Num, Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { Waiting } from "../../ui/Waiting";
import { BookClaims } from "./BookClaims";
import { BookPacks } from "./BookPacks";
import { ClassPictures } from "./ClassPictures";
import { Bottom, Paper, StillMissing, Together, Top, Working } from "./Paper";
import { LabFrame } from "../../lab/LabFrame";
import { TakeAway } from "./TakeAway";
import { Words } from "./Words";
import type { Citable } from "./citable";

type Book = Schemas["ClassBookOut"];
const NO_ANCHORS: string[] = [];
const NOTHING: Citable[] = [];

function Values({ book }: { book: Book }) {
  const names = useNames();
  return (
    <section aria-label={t`The class’s values`}>
      <h2>
        <Trans>The class’s values</Trans>
      </h2>
      <Scroll role="region" aria-label={t`Table of the class’s values`}>
        <Table>
          <Heads
            of={[
              t`cell`,
              { numbers: t`table, V` },
              { numbers: t`class, V` },
              { numbers: t`95 % from, to` },
              t`measured by`,
            ]}
          />
          <tbody>
            {book.cells.map((cell) => (
              <tr key={`${cell.short}|${cell.electrolyte}|${cell.condition}`}>
                <td>
                  <Trans>
                    {cell.short} in {bathName(names, cell)}
                  </Trans>
                </td>
                <td data-number>{cell.table_v === null ? t`none` : number(cell.table_v, 3)}</td>
                <td data-number>{number(cell.classes.mean_v, 3)}</td>
                <td data-number>
                  {cell.classes.low_v === null || cell.classes.high_v === null
                    ? t`one group`
                    : `${number(cell.classes.low_v, 3)}, ${number(cell.classes.high_v, 3)}`}
                </td>
                <td>{cell.by.join(", ")}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      </Scroll>
    </section>
  );
}

function Workings({ book }: { book: Book }) {
  const names = useNames();
  return (
    <section aria-label={t`How each value came about`}>
      <h2>
        <Trans>How each value came about</Trans>
      </h2>
      {book.cells.map((cell) => (
        <Together key={`${cell.short}|${cell.electrolyte}|${cell.condition}`}>
          <h3>
            <Trans>
              {cell.short} in {bathName(names, cell)}: <Num>{volts(cell.classes.mean_v, 3)}</Num>
            </Trans>
          </h3>
          <Working lines={cell.classes.working} label={t`How the class’s value of ${cell.short} came about`} />
        </Together>
      ))}
    </section>
  );
}

/** The class's notebook: what all groups found together, how each value came about, and what they concluded. */
export function ClassNotebook({ id }: { id: string }) {
  const notebook = useClassNotebook(id);
  const compare = useCompare(id, NO_ANCHORS);
  const history = useHistory(id).data;
  const page = useRef<HTMLDivElement>(null);
  if (!notebook.data || !compare.data)
    return <Waiting title={t`The class’s notebook`} error={notebook.error ?? compare.error} />;
  const book = notebook.data;
  return (
    <LabFrame
      id={id}
      lab={book}
      title={t`The class’s notebook`}
      links={[{ to: `/labs/${id}/report`, name: t`All notebooks` }]}
    >
      <div ref={page}>
        <Paper>
          <Top
            book={book}
            who={`${plural(book.groups.length, { one: "# group", other: "# groups" })}: ${book.groups.join(", ")}`}
          />
          <StillMissing lacks={book.missing} />
          <Values book={book} />
          <ClassPictures compare={compare.data} />
          <Workings book={book} />
          <BookPacks packs={book.packs} named />
          <BookClaims claims={book.claims} named />
          {book.words.length > 0 && (
            <section aria-label={t`What the groups wrote`}>
              <h2>
                <Trans>What the groups wrote</Trans>
              </h2>
              {book.words.map(({ group, parts }) =>
                parts.map((part) => (
                  <Together key={`${group}:${part.key}`}>
                    <h3>
                      {group}: {lower(part.name)}
                    </h3>
                    <Words part={{ ...part, cites: [], remark: "" }} all={NOTHING} ruled={false} />
                  </Together>
                )),
              )}
            </section>
          )}
          {history && (
            <Soft as="p">
              <Trans>
                History: <Num>{history.entries}</Num> (entries), <Num>{history.deeds}</Num> (what was done). Kept on
                paper, these show later whether anything was changed: ./pipette verify --head.
              </Trans>
            </Soft>
          )}
          <Together>
            <Bottom
              book={book}
              signed={
                book.signed_at
                  ? t`The safety sheet was signed off ${moment(book.signed_at)} by ${book.signed_by}.`
                  : t`The safety sheet was not signed off here.`
              }
            />
          </Together>
        </Paper>
        <TakeAway page={page} title={t`${book.title}, the class`} />
      </div>
    </LabFrame>
  );
}
