import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useLookAgain } from "../../api/tables";
import { Heads } from "../../ui/Heads";
import { Num, Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";
import { MendTable, type Told } from "./MendTable";

type Seen = Schemas["TableSeen"];
const NOT_USED = "none";
const MEANS: Record<string, string> = {
  red: t`plate with the red lead`,
  black: t`plate with the black lead`,
  group: t`group`,
  electrolyte: t`liquid`,
  volts: t`volts`,
  "offset taken off, v": t`offset taken off, V`,
  "resolution, v": t`resolution, V`,
};

const Understood = styled.section`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.5rem;
`;
const Choice = styled.div`
  min-width: 11rem;
`;

type Props = { seen: Seen; told: Told; tell: (told: Told) => void };

/** How a table was understood: what each column holds, what its signs say, names that are not known, faulty lines. */
export function TablePreview({ seen, told, tell }: Props) {
  const again = useLookAgain();
  const change = (next: Told) => {
    tell(next);
    again.mutate({ id: seen.id, body: next });
  };
  const options = [
    { key: NOT_USED, name: t`not used` },
    ...seen.meanings.map((key) => ({ key, name: MEANS[key] ?? key })),
  ];
  return (
    <Understood aria-label={t`How it was understood`}>
      <h2>
        <Trans>How it was understood</Trans>
      </h2>
      {seen.readings > 0 && (
        <p>
          <Trans>
            {plural(seen.readings, { one: "# reading", other: "# readings" })} of{" "}
            {plural(seen.cells, { one: "# cell", other: "# cells" })},{" "}
            {plural(seen.groups.length, { one: "# group", other: "# groups" })}: {seen.groups.join(", ")}.
          </Trans>
          {seen.aside > 0 && t` ${seen.aside} of them do not count by the table and will be set aside.`}
          {seen.loads > 0 &&
            t` With them ${plural(seen.loads, { one: "# measurement", other: "# measurements" })} under load, from the table of loads.`}
        </p>
      )}
      <ul>
        {seen.says.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
      {seen.columns.length > 0 && (
        <Scroll role="region" aria-label={t`Columns`}>
          <Table>
            <Heads of={[t`heading`, t`it holds`, t`first values`]} />
            <tbody>
              {seen.columns.map((column) => (
                <tr key={column.heading}>
                  <th scope="row">{column.heading || t`(none)`}</th>
                  <td>
                    <Choice>
                      <Select
                        label={t`What “${column.heading}” holds`}
                        hideLabel
                        options={options}
                        value={column.means && seen.meanings.includes(column.means) ? column.means : NOT_USED}
                        onChange={(means) =>
                          change({
                            ...told,
                            columns: { ...told.columns, [column.heading]: means === NOT_USED ? "" : means },
                          })
                        }
                      />
                    </Choice>
                    {column.unit && column.means === "volts" && (
                      <Soft>
                        <Trans>in {column.unit}</Trans>
                      </Soft>
                    )}
                  </td>
                  <td>
                    <Num>{column.examples.filter(Boolean).join(", ") || "–"}</Num>
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        </Scroll>
      )}
      {seen.unknown.map((one) => (
        <Select
          key={`${one.what}:${one.name}`}
          label={
            one.what === "electrode"
              ? t`“${one.name}” (${plural(one.rows, { one: "# row", other: "# rows" })}) is no plate in the tables. It stands for`
              : t`“${one.name}” (${plural(one.rows, { one: "# row", other: "# rows" })}) is no liquid in the tables. It stands for`
          }
          options={one.nearest}
          value=""
          onChange={(key) => change({ ...told, called: { ...told.called, [one.name]: key } })}
        />
      ))}
      {seen.faults.length > 0 && (
        <>
          <h3>
            {seen.whole
              ? plural(seen.faults.length, { one: "# faulty line", other: "# faulty lines" })
              : t`At least ${seen.faults.length} faulty lines`}
          </h3>
          <Soft>
            <Trans>
              Nothing comes in while a line is faulty. Mend them below or in the file, or above where a name is not
              known.
            </Trans>
          </Soft>
          <ul>
            {seen.faults.slice(0, 20).map((fault) => (
              <li key={`${fault.line}:${fault.message}`}>
                <Num>
                  <Trans>line {fault.line}</Trans>
                </Num>
                : {fault.message}
              </li>
            ))}
          </ul>
        </>
      )}
      {seen.lines.length > 0 && <MendTable seen={seen} told={told} change={change} />}
      <ProblemNote problem={again.error} />
    </Understood>
  );
}
