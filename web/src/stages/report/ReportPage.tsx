import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useNotebooks } from "../../api/notebook";
import { moment, number } from "../../format";
import { Release } from "../../lab/Release";
import { ButtonLink } from "../../ui/Button";
import { Heads } from "../../ui/Heads";
import { Column, Columns, Row, Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { Notes } from "../../ui/Notes";
import { Waiting } from "../../ui/Waiting";
import { Keeping } from "./Keeping";
import { LabFrame } from "../../lab/LabFrame";

type Line = Schemas["NotebookLine"];
const STATES: Record<Line["state"], string> = {
  empty: t`nothing written`,
  begun: t`writing`,
  handed_in: t`handed in`,
  returned: t`given back`,
};

function said(line: Line): string {
  const at = line.handed_in_at && line.state === "handed_in" ? ` ${moment(line.handed_in_at)}` : "";
  return `${STATES[line.state]}${at}${line.written_since ? t`, written on since` : ""}`;
}

function Notebooks({ id, lines }: { id: string; lines: Line[] }) {
  return (
    <Scroll role="region" aria-label={t`Notebooks of the groups`}>
      <Table>
        <Heads of={[t`group`, t`notebook`, t`parts written`, t`marks`]} />
        <tbody>
          {lines.map((line) => (
            <tr key={line.group_id}>
              <th scope="row">
                <Link to={`/labs/${id}/notebook/${line.group_id}`}>{line.group}</Link>
              </th>
              <td>{said(line)}</td>
              <td>
                <Trans>{line.parts} of 5</Trans>
              </td>
              <td>
                {Object.entries(line.marks)
                  .map(([name, points]) => `${name} ${number(points, points % 1 === 0 ? 0 : 1)}`)
                  .join(", ")}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

/** What stays of a lab: its notebooks, to read and give back, and its data, to take away. */
export function ReportPage({ id }: { id: string }) {
  const notebooks = useNotebooks(id);
  if (!notebooks.data) return <Waiting title={t`Report`} error={notebooks.error} />;
  const { data } = notebooks;
  const handed = data.notebooks.filter((line) => line.state === "handed_in").length;
  return (
    <LabFrame
      id={id}
      lab={data}
      title={t`Report`}
      margin={
        <Notes
          notes={[
            {
              code: "release",
              tone: "plain",
              title: t`Groups see on their devices`,
              text: <Release lab={id} released={data.released} />,
            },
          ]}
        />
      }
    >
      <Columns $left="minmax(0, 1.4fr)">
        <Column>
          <h1>
            <Trans>Notebooks</Trans>
          </h1>
          <p role="status">
            {handed > 0
              ? plural(handed, { one: "# notebook waits for you.", other: "# notebooks wait for you." })
              : t`No notebook waits for you.`}
          </p>
          {!data.released.includes("notebook") && (
            <Soft>
              <Trans>Tick “their notebook” in the margin; then groups find it on their bench and can write.</Trans>
            </Soft>
          )}
          <Notebooks id={id} lines={data.notebooks} />
          <Row>
            <ButtonLink to={`/labs/${id}/notebook`}>
              <Trans>The class’s notebook</Trans>
            </ButtonLink>
          </Row>
        </Column>
        <Column>
          <h2>
            <Trans>Data</Trans>
          </h2>
          <ul>
            <li>
              <Trans>
                <a href={`/api/labs/${id}/package.zip`}>The whole lab as a package</a> (zip: tables in CSV with their
                description, photographs): another Pipette takes it in whole
              </Trans>
            </li>
            <li>
              <Trans>
                <a href={`/api/labs/${id}/tables.xlsx`}>All tables as one workbook</a> (XLSX)
              </Trans>
            </li>
          </ul>
          <Keeping id={id} />
        </Column>
      </Columns>
    </LabFrame>
  );
}
