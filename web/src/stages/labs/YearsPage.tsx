import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { useYears } from "../../api/years";
import { YearRows } from "../../charts/YearRows";
import { day, number, volts } from "../../format";
import { TeacherWho } from "../../lab/TeacherWho";
import { bathName, useNames } from "../../lab/useNames";
import { Frame } from "../../ui/Frame";
import { Button, ButtonLink } from "../../ui/Button";
import { Column, Num, OnScreen, Row, Small, Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { type MarginNote, Notes } from "../../ui/Notes";
import { Overtaken } from "../../ui/Overtaken";
import { Waiting } from "../../ui/Waiting";

type Years = Schemas["YearsOut"];
/** `numbers`: what each class is called in the list above. */
type Props = { years: Years; numbers: number[] };
const shown = (v: number | null) => (v === null ? "" : number(v, 2));

/** Every cell over the classes, and between what the next class should find it: the school's own table. */
function Cells({ years, numbers }: Props) {
  const names = useNames();
  const foretold = years.cells.some((cell) => cell.low_v !== null);
  return (
    <Scroll role="region" aria-label={t`Cells in ${bathName(names, years)}`}>
      <Table>
        <thead>
          <tr>
            <th scope="col">
              <Trans>cell</Trans>
            </th>
            <th scope="col" data-number>
              <Trans>table, V</Trans>
            </th>
            {years.names.map((name, place) => (
              <th key={name} scope="col" data-number>
                {numbers[place]}
              </th>
            ))}
            <th scope="col" data-number>
              <Trans>all, V</Trans>
            </th>
            {foretold && (
              <th scope="col" data-number>
                <Trans>the next, V</Trans>
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {years.cells.map((cell) => (
            <tr key={cell.short}>
              <th scope="row">
                {names.plate(cell.negative)}, {names.plate(cell.positive)}
              </th>
              <td data-number>{cell.table_v === null ? t`not listed` : shown(cell.table_v)}</td>
              {cell.by_class.map((v, place) => (
                <td key={place} data-number>
                  {shown(v)}
                </td>
              ))}
              <td data-number>{shown(cell.all_v)}</td>
              {foretold && (
                <td data-number>{cell.low_v === null ? "" : t`${shown(cell.low_v)} to ${shown(cell.high_v)}`}</td>
              )}
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

function Liquid({ years, numbers }: Props) {
  const names = useNames();
  return (
    <section aria-label={bathName(names, years)}>
      <h2>
        <Trans>In {bathName(names, years)}</Trans>
      </h2>
      <YearRows years={years} numbers={numbers} />
      <Small>
        <Trans>
          Numbers: where each class found the plate. Bar: all classes together, 95 %. Circle: the table. Held at the
          table: {names.plate(years.anchor)}. From class to class a plate differs by {volts(years.tau_v, 3)} (one
          standard deviation; {volts(years.tau_low_v, 3)} to{" "}
          {years.tau_high_v === null ? t`more than can be said` : volts(years.tau_high_v, 3)}).
        </Trans>
      </Small>
      <h3>
        <Trans>What to expect here</Trans>
      </h3>
      <Cells years={years} numbers={numbers} />
    </section>
  );
}

/** Several classes laid over each other: one ladder each, one for all, and what the next class should find. */
export function YearsPage() {
  const [search] = useSearchParams();
  const labs = search.getAll("lab");
  const names = useNames();
  const years = useYears(labs);
  if (labs.length > 1 && !years.data) return <Waiting title={t`Years laid over each other`} error={years.error} />;
  const data = years.data;
  const notes: MarginNote[] = (data?.liquids ?? []).flatMap((one) =>
    one.notes.map((note) => ({
      ...note,
      action: undefined,
      code: `${one.electrolyte}|${one.condition}|${note.code}`,
      title: data && data.liquids.length > 1 ? t`${note.title}, in ${bathName(names, one)}` : note.title,
    })),
  );
  return (
    <Frame
      title={t`Years laid over each other`}
      who={<TeacherWho links={[{ to: "/labs", name: t`Labs` }]} />}
      margin={<Notes notes={notes} />}
      marginOnPaper
    >
      <Column>
        <h1>
          <Trans>Years laid over each other</Trans>
        </h1>
        {data ? (
          <Overtaken by={years.isPlaceholderData}>
            <ol>
              {data.labs.map((lab, place) => (
                <li key={lab.id}>
                  <Num>{place + 1}</Num> {lab.name}, {day(lab.date)}
                  {lab.simulated && t` · simulated readings`}
                  {data.copies[lab.name] !== undefined &&
                    t` · the same readings as ${data.copies[lab.name] ?? ""}, so not another class`}
                  {(lab.foretold || lab.voted) && (
                    <Soft>
                      <Trans>
                        Expected before: {lab.foretold} {lab.voted}
                      </Trans>
                    </Soft>
                  )}
                  {lab.decided && (
                    <Soft>
                      <Trans>What its readings bear out: {lab.decided}</Trans>
                    </Soft>
                  )}
                  {data.alone.includes(lab.name) && t` · shares no liquid and two plates with another`}
                </li>
              ))}
            </ol>
            {data.liquids.map((one) => (
              <Liquid
                key={`${one.electrolyte}|${one.condition}`}
                years={one}
                numbers={one.names.map((name) => data.labs.findIndex((lab) => lab.name === name) + 1)}
              />
            ))}
            {data.liquids.length === 0 && (
              <Soft>
                {Object.keys(data.copies).length > 0 ? (
                  <Trans>Without copies, no two of these labs have a liquid with two plates in common.</Trans>
                ) : (
                  <Trans>These labs have no liquid with two plates in common, so there is nothing to lay over.</Trans>
                )}
              </Soft>
            )}
            <OnScreen>
              <Row>
                <Button onPress={() => window.print()}>
                  <Trans>Print</Trans>
                </Button>
                <ButtonLink to="/labs">
                  <Trans>Choose other labs</Trans>
                </ButtonLink>
              </Row>
            </OnScreen>
          </Overtaken>
        ) : (
          <Soft>
            <Trans>
              Choose two finished labs or more on the page of labs: “Lay labs over each other”. From three on, each cell
              says what the next class should find, and the bench of your next lab uses it.
            </Trans>
          </Soft>
        )}
      </Column>
    </Frame>
  );
}
