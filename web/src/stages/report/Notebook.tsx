import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { moment, number } from "../../format";
import { useNames } from "../../lab/useNames";
import { Heads } from "../../ui/Heads";
import { Num, Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { PlusMinus } from "../../lab/PlusMinus";
import { BookCell } from "./BookCells";
import { BookPacks } from "./BookPacks";
import { citables } from "./citable";
import { BookClaims } from "./BookClaims";
import { OwnGraph } from "./OwnGraph";
import { Bottom, Paper, StillMissing, Together, Top } from "./Paper";
import { Words } from "./Words";

type Book = Schemas["NotebookOut"];
type Part = Schemas["PartOut"];

/** Parts that stand before the record, and after it. */
const BEFORE = ["question", "expectation"];

function MeterChecks({ checks }: { checks: Schemas["MeterLine"][] }) {
  if (checks.length === 0)
    return (
      <Soft>
        <Trans>The meter was not checked.</Trans>
      </Soft>
    );
  return (
    <Scroll role="region" aria-label={t`Checks of the meter`}>
      <Table>
        <Heads of={[t`meter checked at`, t`leads together, V`, t`dry cell, V`, t`so`]} />
        <tbody>
          {checks.map((one, place) => (
            <tr key={place}>
              <td>{moment(one.at)}</td>
              <td>
                <Num>{one.leads}</Num>
              </td>
              <td>
                <Num>{one.dry}</Num>
              </td>
              <td>{one.says}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

type Props = {
  book: Book;
  /** How a part is written (on the group's own device); where it is not given, parts are read. */
  editor?: (part: Part) => ReactNode;
  /** What the teacher sees and does at a part. */
  beside?: (part: Part) => ReactNode;
  pictures?: ReactNode;
  /** Where the group hands it in, from its first screen. */
  handIn?: ReactNode;
  ruled?: boolean;
};

/** A group's notebook from its question to its conclusion, with everything it recorded in between. */
export function Notebook({ book, editor, beside, pictures, handIn, ruled = false }: Props) {
  const names = useNames();
  const all = citables(book);
  const measured = book.cells.filter((cell) => cell.readings.length > 0);
  const section = (part: Part) => (
    <section key={part.key} aria-label={part.name}>
      <h2>{part.name}</h2>
      {editor ? editor(part) : <Words part={part} all={all} ruled={ruled} />}
      {beside?.(part)}
    </section>
  );
  return (
    <Paper>
      <Top book={book} who={book.group}>
        {book.handed_in_at && (
          <p>
            <Trans>Handed in {moment(book.handed_in_at)}</Trans>
            {book.written_since && t`, written on since`}.
          </p>
        )}
        {book.returned && (
          <p>
            <strong>
              <Trans>Your teacher, {moment(book.returned.at)}:</Trans>
            </strong>{" "}
            {book.returned.text}{" "}
            {Object.entries(book.returned.marks)
              .map(([name, points]) => `${name} ${number(points, points % 1 === 0 ? 0 : 1)}`)
              .join(", ")}
          </p>
        )}
      </Top>
      <StillMissing lacks={book.missing} />
      {handIn}
      {book.parts.filter((part) => BEFORE.includes(part.key)).map(section)}
      <section aria-label={t`What we recorded`}>
        <h2>
          <Trans>What we recorded</Trans>
        </h2>
        <MeterChecks checks={book.meter} />
        <Soft>
          <Trans>
            {plural(measured.length, { one: "# cell", other: "# cells" })} of {book.cells.length} measured. Numbers
            stand as they were typed; what was corrected or set aside stays, struck through.
          </Trans>
        </Soft>
      </section>
      {measured.some((cell) => typeof cell.own?.u_v === "number") && <PlusMinus />}
      {measured.map((cell) => (
        <BookCell key={cell.id} cell={cell} names={names} nth={book.cells.indexOf(cell) + 1} />
      ))}
      <OwnGraph cells={book.cells} names={names} />
      <BookPacks packs={book.packs} />
      {pictures}
      <BookClaims claims={book.claims.filter((claim) => claim.latest)} named={false} />
      {book.parts.filter((part) => !BEFORE.includes(part.key)).map(section)}
      <Together>
        <Bottom
          book={book}
          signed={
            book.signed_at
              ? t`The safety sheet was signed off ${moment(book.signed_at)}.`
              : t`The safety sheet was not signed off here.`
          }
        />
      </Together>
    </Paper>
  );
}
