import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import { usePredictions } from "../../api/bench";
import type { Schemas } from "../../api/client";
import { useLab } from "../../api/labs";
import { Frame } from "../../ui/Frame";
import { StageLine, reached } from "../../lab/StageLine";
import { TeacherWho } from "../../lab/TeacherWho";
import { Heads } from "../../ui/Heads";
import { Waiting } from "../../ui/Waiting";
import { asTyped, day, volts } from "../../format";
import { Column, Num, Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { type MarginNote, Notes } from "../../ui/Notes";
import { colour } from "../../ui/theme";
import { bathKey, bathName, useNames } from "../../lab/useNames";

const Said = styled.ul`
  display: flex;
  flex-wrap: wrap;
  gap: 0.1rem 1.2rem;
  li {
    white-space: nowrap;
  }
  svg {
    margin-right: 0.3em;
  }
`;

const Name = styled.th`
  min-width: 9rem;
  small {
    display: block;
    color: ${colour.soft};
    font-weight: 400;
  }
`;

/** Whether the meter was to show more or less than the table (or than at the first level), as an arrow that says so. */
const WAYS: Record<string, string> = { more: "↑", less: "↓", same: "=" };

/** How many said each way, in a line. */
function ways(cell: Schemas["PredictedCell"]): string {
  const count = (way: string) => cell.predictions.filter((one) => one.way === way).length;
  const [more, less, same] = [count("more"), count("less"), count("same")];
  if (more + less + same === 0) return "";
  return t`${more} expect more on the meter (↑), ${less} less (↓), ${same} about the same (=)`;
}

/** Whether a prediction says which plate is negative, with or without volts; one of another level of a variable does not. */
const ofPlates = ({ text, way }: Schemas["GroupPrediction"]) => text !== "" || way === "";

/** What every group expects, cell by cell, before it is measured. */
export function PredictionsPage({ id }: { id: string }) {
  const lab = useLab(id);
  const predictions = usePredictions(id);
  const names = useNames();
  if (!lab.data || !predictions.data) return <Waiting title={t`Predict`} error={lab.error ?? predictions.error} />;
  const { title, date, stage, state, settings } = lab.data;
  const { cells, made, expected } = predictions.data;
  const said = cells.filter((cell) => cell.predictions.length > 0);
  const otherWay = said.reduce(
    (sum, cell) =>
      sum +
      cell.predictions.filter((prediction) => ofPlates(prediction) && prediction.negative !== cell.negative).length,
    0,
  );
  const notes: MarginNote[] = [
    {
      code: "made",
      tone: "plain",
      title: t`${made} of ${expected} predictions are in`,
      text: settings.predict
        ? t`Groups predict on their bench before they measure a cell. Skipping is allowed.`
        : t`This lab does not ask groups to predict. Change that in its plan.`,
    },
  ];
  if (otherWay > 0)
    notes.push({
      code: "other-way",
      tone: "plain",
      title: t`${plural(otherWay, { one: "# prediction", other: "# predictions" })} the other way round`,
      text: t`There the group expects the plate to be negative that the table puts higher. The meter will tell.`,
    });
  return (
    <Frame
      title={t`Predict, ${title}`}
      lab={title}
      labTo={`/labs/${id}/report`}
      about={day(date)}
      line={<StageLine lab={id} stage={reached(stage)} here="Predict" />}
      who={<TeacherWho about={state} />}
      margin={<Notes notes={notes} />}
      marginOnPaper
    >
      <Column>
        <h1>
          <Trans>What groups expect</Trans>
        </h1>
        {said.length === 0 ? (
          <Soft>
            <Trans>No predictions yet. They stand here as groups make them, beside the table’s difference.</Trans>
          </Soft>
        ) : (
          <Scroll role="region" aria-label={t`Predictions, cell by cell`}>
            <Table>
              <Heads of={[t`cell`, { numbers: t`table` }, t`which plate is negative, and how many volts`]} />
              <tbody>
                {said.map((cell) => (
                  <tr key={`${cell.short} ${bathKey(cell)}`}>
                    <Name scope="row">
                      {cell.short}
                      <small>{bathName(names, cell)}</small>
                    </Name>
                    <td data-number>{cell.table_v === null ? t`not listed` : volts(cell.table_v, 2)}</td>
                    <td>
                      <Said>
                        {cell.predictions.map((prediction) => (
                          <li key={prediction.group}>
                            <svg width="11" height="11" viewBox="0 0 14 14" aria-hidden>
                              <path d="M7 1l6 6-6 6-6-6z" fill="none" stroke={colour.prediction} strokeWidth="2" />
                            </svg>
                            {prediction.group}: {ofPlates(prediction) && names.symbol(prediction.negative)}
                            {prediction.text && (
                              <>
                                , <Num>{asTyped(prediction.text, prediction.unit)}</Num>
                              </>
                            )}
                            {prediction.way && ` ${WAYS[prediction.way] ?? ""}`}
                          </li>
                        ))}
                      </Said>
                      {ways(cell) && <Soft>{ways(cell)}</Soft>}
                    </td>
                  </tr>
                ))}
              </tbody>
            </Table>
          </Scroll>
        )}
      </Column>
    </Frame>
  );
}
