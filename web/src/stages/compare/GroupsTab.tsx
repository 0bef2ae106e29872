import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useAskAgain, useBoard } from "../../api/room";
import { OffsetsChart, SharedChart } from "../../charts/GroupsChart";
import { asTyped, number } from "../../format";
import { TextButton } from "../../ui/Button";
import { Heads } from "../../ui/Heads";
import { Column, Columns, Num, Row, Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";
import { SetAside } from "../../lab/SetAside";
import { CountIt, DoesItCount, standingOf, struck } from "../../lab/standing";
import { useNames } from "../../lab/useNames";
import { Behind } from "../../ui/Behind";

type Compare = Schemas["CompareOut"];

/** Readings of one group, to set aside with a reason; nothing disappears. */
function ReadingsOf({ id, before }: { id: string; before: () => void }) {
  const board = useBoard(id);
  const names = useNames();
  const [group, setGroup] = useState("");
  if (!board.data) return <ProblemNote problem={board.error} />;
  const found = board.data.groups.find((one) => one.id === group) ?? board.data.groups[0];
  if (!found) return null;
  return (
    <>
      <Row>
        <Select
          label={t`Group`}
          options={board.data.groups.map((one) => ({ key: one.id, name: one.name }))}
          value={found.id}
          onChange={setGroup}
        />
        {found.aside ? (
          <span>
            <Trans>
              All of {found.name} is set aside: {found.aside}.
            </Trans>
          </span>
        ) : null}
        <SetAside key={found.id} kind="groups" id={found.id} aside={found.aside} before={before} />
      </Row>
      <Scroll role="region" aria-label={t`Readings of ${found.name}`}>
        <Table>
          <Heads of={[t`cell`, t`reading`, t`why not`, t`does it count?`]} />
          <tbody>
            {found.cells.flatMap((cell) =>
              cell.readings
                .filter((reading) => reading.corrected_by === null)
                .map((reading) => (
                  <tr key={reading.id}>
                    <td>
                      {cell.short}, {names.liquid(cell.electrolyte)}
                    </td>
                    <td>
                      <Num as={struck(reading) ? "s" : "span"}>{asTyped(reading.text, reading.unit)}</Num>
                    </td>
                    <td>{reading.aside || standingOf(reading)}</td>
                    <td>
                      <DoesItCount reading={reading} before={before} />
                    </td>
                  </tr>
                )),
            )}
          </tbody>
        </Table>
      </Scroll>
    </>
  );
}

/** Readings that do not count by their verdict until the teacher says so, and what can be done about each. */
export function LeftOut({ data, before }: { data: Compare; before: () => void }) {
  const names = useNames();
  return (
    <Scroll role="region" aria-label={t`Readings that do not count yet`}>
      <Table>
        <Heads of={[t`group`, t`cell`, t`reading`, t`why not`, t`does it count?`]} />
        <tbody>
          {data.left_out.map((one, index) => (
            <tr key={one.reading}>
              <td>{one.group}</td>
              <td>
                {one.short}, {names.liquid(one.electrolyte)}
              </td>
              <td>
                <Num as="s">{asTyped(one.text, one.unit)}</Num>
              </td>
              <td>{one.why}</td>
              <td>
                <CountIt id={one.reading} before={before} />{" "}
                {data.state === "open" && one.cell_id !== data.left_out[index - 1]?.cell_id && (
                  <AskForAnother cell={one.cell_id} />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

function AskForAnother({ cell }: { cell: string }) {
  const ask = useAskAgain();
  if (ask.isSuccess) return <Trans>A new reading is asked for.</Trans>;
  return (
    <>
      <TextButton onPress={() => ask.mutate(cell)}>
        <Trans>Ask the group for a new reading</Trans>
      </TextButton>
      <ProblemNote problem={ask.error} />
    </>
  );
}

/** Who predicted what: the sign, and how far off in volts. */
function Predicted({ data }: { data: Compare }) {
  const names = useNames();
  const rows = data.electrolytes.flatMap((result) =>
    result.cells.flatMap((cell) =>
      cell.predicted.map((one) => ({ ...one, cell, liquid: names.liquid(result.electrolyte) })),
    ),
  );
  if (rows.length === 0)
    return (
      <Soft>
        <Trans>No group predicted a cell that it has measured.</Trans>
      </Soft>
    );
  return (
    <>
      <p>{data.foretold}</p>
      <Behind label={t`All predictions`}>
        <Table>
          <Heads of={[t`group`, t`cell`, { numbers: t`predicted, V` }, t`right plate?`, { numbers: t`off by, V` }]} />
          <tbody>
            {rows.map((row) => (
              <tr key={`${row.group}-${row.cell.short}-${row.liquid}`}>
                <td>{row.group}</td>
                <td>
                  {row.cell.short}, {row.liquid}
                </td>
                <td data-number>◇ {row.signed_v === null ? t`the plate alone` : number(row.signed_v, 2)}</td>
                <td>{row.right_sign ? t`yes` : t`no`}</td>
                <td data-number>{row.off_v === null ? "" : number(row.off_v, 2, true)}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      </Behind>
    </>
  );
}

/** Readings that were typed in time and came in when the lab had closed: they count until they are set aside. */
function AfterClosing({ data, before }: { data: Compare; before: () => void }) {
  return (
    <>
      <h3>
        <Trans>Came in after closing</Trans>
      </h3>
      <Soft>
        <Trans>
          Typed while the lab was open, on devices that had no network. They count unless you set them aside.
        </Trans>
      </Soft>
      <ul>
        {data.after_closing.map((one) => (
          <li key={one.reading}>
            {one.group}, {one.short}: <Num as={one.aside ? "s" : "span"}>{asTyped(one.text, one.unit)}</Num>{" "}
            <SetAside kind="readings" id={one.reading} aside={one.aside} before={before} />
          </li>
        ))}
      </ul>
    </>
  );
}

/** Groups against each other: offsets, the shared cell, predictions; and readings to set aside. */
export function GroupsTab({ data, before }: { data: Compare; before: (() => void) | null }) {
  return (
    <>
      <Columns $left="minmax(0, 1fr)">
        <Column>
          <h1>
            <Trans>Each group against the class</Trans>
          </h1>
          <Soft>
            <Trans>What a group reads above or below the class in all its cells: its meter, and its plates.</Trans>
          </Soft>
          {data.offsets.length > 0 ? (
            <OffsetsChart offsets={data.offsets} />
          ) : (
            <Soft>
              <Trans>With these cells a group’s offset cannot be told from its plates.</Trans>
            </Soft>
          )}
        </Column>
        <Column>
          <h2>
            <Trans>The shared cell over time</Trans>
          </h2>
          {data.shared.length > 1 ? (
            <SharedChart shared={data.shared} />
          ) : (
            <Soft>
              <Trans>The shared cell was not read by two groups yet.</Trans>
            </Soft>
          )}
        </Column>
      </Columns>
      <Column>
        {before && (
          <>
            {data.left_out.length > 0 && (
              <>
                <h2>
                  <Trans>Readings that do not count yet</Trans>
                </h2>
                <LeftOut data={data} before={before} />
              </>
            )}
            <h2>
              <Trans>Set aside</Trans>
            </h2>
            <Soft>
              <Trans>
                A reading or a group that is set aside stays here with the reason; the numbers change at once.
              </Trans>
            </Soft>
            {data.aside.length > 0 && (
              <ul>
                {data.aside.map((one) => (
                  <li key={one.reading}>
                    {one.group}, {one.short}: <Num as="s">{asTyped(one.text, one.unit)}</Num> {one.reason}
                  </li>
                ))}
              </ul>
            )}
            {data.after_closing.length > 0 && <AfterClosing data={data} before={before} />}
            <Behind label={t`Readings of a group`}>
              <ReadingsOf id={data.id} before={before} />
            </Behind>
          </>
        )}
        <h2>
          <Trans>Predictions</Trans>
        </h2>
        <Predicted data={data} />
      </Column>
    </>
  );
}
