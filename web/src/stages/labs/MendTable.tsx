import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { TextButton } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { Heads } from "../../ui/Heads";
import { Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { Select } from "../../ui/Select";
import { colour, font } from "../../ui/theme";

export type Told = Required<Schemas["LookIn"]>;
type Line = Schemas["LineSeen"];
type Props = { seen: Schemas["TableSeen"]; told: Told; change: (told: Told) => void };

const [LEAST_WIDE, MOST_WIDE] = [6, 16]; // letters

const Cell = styled.input`
  min-height: 36px;
  padding: 0.2rem 0.4rem;
  border: 1px solid ${colour.hairline};
  border-radius: 4px;
  background: ${colour.white};
  color: ${colour.ink};
  font: 0.9rem ${font.numbers};
  &:disabled {
    color: ${colour.soft};
    text-decoration: line-through;
  }
`;
const Whole = styled.tr<{ $heading: boolean }>`
  font-weight: ${({ $heading }) => ($heading ? 700 : 400)};
  input:not([size]) {
    width: 24px;
    height: 24px;
  }
`;

/** A cell of the file, as it is read; what is typed counts when the field is left, or on Enter. */
function Field({ line, place, text, wide, off, mend }: FieldProps) {
  const [typed, setTyped] = useState(text);
  const done = () => typed !== text && mend(typed);
  return (
    <Cell
      aria-label={t`line ${line}, column ${place + 1}`}
      size={wide}
      value={typed}
      disabled={off}
      maxLength={200}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={done}
      onKeyDown={(event) => event.key === "Enter" && done()}
    />
  );
}
type FieldProps = {
  line: number;
  place: number;
  text: string;
  wide: number;
  off: boolean;
  mend: (text: string) => void;
};

/** Sheet, heading and single lines of a table, mended here; the file stays as it is. */
export function MendTable({ seen, told, change }: Props) {
  const [sheet] = seen.sheets;
  const widths: number[] = [];
  for (const { fields } of seen.lines)
    fields.forEach((text, place) => {
      widths[place] = Math.min(MOST_WIDE, Math.max(widths[place] ?? LEAST_WIDE, text.length + 1));
    });
  const mend = (line: number, place: number, text: string) => {
    const others = told.cells.filter((one) => one.line !== line || one.place !== place);
    change({ ...told, cells: [...others, { line, place, text }] });
  };
  const leave = (line: number, out: boolean) =>
    change({ ...told, without: out ? [...told.without, line] : told.without.filter((one) => one !== line) });
  const row = (one: Line) => (
    <Whole key={one.line} $heading={told.heading === one.line}>
      <th scope="row">{one.line}</th>
      <td>
        <input
          type="checkbox"
          checked={told.without.includes(one.line)}
          onChange={(event) => leave(one.line, event.target.checked)}
          aria-label={t`leave line ${one.line} out`}
        />
      </td>
      <td>
        <input
          type="radio"
          name="heading"
          checked={told.heading === one.line}
          onChange={() => change({ ...told, heading: one.line })}
          aria-label={t`line ${one.line} is the heading`}
        />
      </td>
      {one.fields.map((text, place) => (
        <td key={`${place}:${text}`}>
          <Field
            line={one.line}
            place={place}
            text={text}
            wide={widths[place] ?? LEAST_WIDE}
            off={told.without.includes(one.line)}
            mend={(typed) => mend(one.line, place, typed)}
          />
        </td>
      ))}
    </Whole>
  );
  return (
    <Disclosure
      title={t`Mend it here`}
      detail={t`sheet, heading, single cells`}
      open={seen.faults.length > 0 || seen.state === "refused"}
    >
      {seen.sheets.length > 1 && sheet && (
        <Select
          label={t`The sheet that is read`}
          options={seen.sheets.map(({ name, rows }) => ({
            key: name,
            name: `${name} (${plural(rows, { one: "# row", other: "# rows" })})`,
          }))}
          value={sheet.name}
          onChange={(name) => change({ ...told, sheet: name, heading: 0, cells: [], without: [] })}
        />
      )}
      <Soft>
        <Trans>
          The first lines, and those with something amiss. A cell that you change counts when you leave it; your file
          stays as it is.
        </Trans>
      </Soft>
      <Scroll role="region" aria-label={t`Lines of the file`}>
        <Table>
          <Heads of={[t`line`, t`leave out`, t`heading`]} />
          <tbody>{seen.lines.map(row)}</tbody>
        </Table>
      </Scroll>
      {told.heading > 0 && (
        <TextButton onPress={() => change({ ...told, heading: 0 })}>
          <Trans>look for the heading again</Trans>
        </TextButton>
      )}
    </Disclosure>
  );
}
