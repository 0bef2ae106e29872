import { useRef } from "react";
import type { Schemas } from "../../api/client";
import { useCompare } from "../../api/findings";
import { useClassNotebook } from "../../api/notebook";
import { count, moment, number, volts } from "../../format";
import { bathName, useNames } from "../../lab/useNames";
import { Num, Scroll, Table } from "../../ui/layout";
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
    <section aria-label="The class’s values">
      <h2>The class’s values</h2>
      <Scroll tabIndex={0} role="region" aria-label="Table of the class’s values">
        <Table>
          <thead>
            <tr>
              <th scope="col">cell</th>
              <th scope="col" data-number>
                table, V
              </th>
              <th scope="col" data-number>
                class, V
              </th>
              <th scope="col" data-number>
                95 % from, to
              </th>
              <th scope="col">measured by</th>
            </tr>
          </thead>
          <tbody>
            {book.cells.map((cell) => (
              <tr key={`${cell.short}|${cell.electrolyte}|${cell.condition}`}>
                <td>
                  {cell.short} in {bathName(names, cell)}
                </td>
                <td data-number>{cell.table_v === null ? "none" : number(cell.table_v, 2)}</td>
                <td data-number>{number(cell.classes.mean_v, 3)}</td>
                <td data-number>
                  {cell.classes.low_v === null || cell.classes.high_v === null
                    ? "one group"
                    : `${number(cell.classes.low_v, 2)}, ${number(cell.classes.high_v, 2)}`}
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
    <section aria-label="How each value came about">
      <h2>How each value came about</h2>
      {book.cells.map((cell) => (
        <Together key={`${cell.short}|${cell.electrolyte}|${cell.condition}`}>
          <h3>
            {cell.short} in {bathName(names, cell)}: <Num>{volts(cell.classes.mean_v, 3)}</Num>
          </h3>
          <Working lines={cell.classes.working} label={`How the class’s value of ${cell.short} came about`} />
        </Together>
      ))}
    </section>
  );
}

/** The class's notebook: what all groups found together, how each value came about, and what they concluded. */
export function ClassNotebook({ id }: { id: string }) {
  const notebook = useClassNotebook(id);
  const compare = useCompare(id, NO_ANCHORS);
  const page = useRef<HTMLDivElement>(null);
  if (!notebook.data || !compare.data)
    return <Waiting title="The class’s notebook" error={notebook.error ?? compare.error} />;
  const book = notebook.data;
  return (
    <LabFrame
      id={id}
      lab={book}
      title="The class’s notebook"
      links={[{ to: `/labs/${id}/report`, name: "All notebooks" }]}
    >
      <div ref={page}>
        <Paper>
          <Top book={book} who={`${count(book.groups.length, "group")}: ${book.groups.join(", ")}`} />
          <StillMissing lacks={book.missing} />
          <Values book={book} />
          <ClassPictures compare={compare.data} />
          <Workings book={book} />
          <BookPacks packs={book.packs} named />
          <BookClaims claims={book.claims} named />
          {book.words.length > 0 && (
            <section aria-label="What the groups wrote">
              <h2>What the groups wrote</h2>
              {book.words.map(({ group, parts }) =>
                parts.map((part) => (
                  <Together key={`${group}:${part.key}`}>
                    <h3>
                      {group}: {part.name.toLowerCase()}
                    </h3>
                    <Words part={{ ...part, cites: [], remark: "" }} all={NOTHING} ruled={false} />
                  </Together>
                )),
              )}
            </section>
          )}
          <Together>
            <Bottom
              book={book}
              signed={
                book.signed_at
                  ? `The safety sheet was signed off ${moment(book.signed_at)} by ${book.signed_by}.`
                  : "The safety sheet was not signed off here."
              }
            />
          </Together>
        </Paper>
        <TakeAway page={page} title={`${book.title}, the class`} />
      </div>
    </LabFrame>
  );
}
