import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useExplain } from "../../api/findings";
import { GapBars } from "../../charts/GapBars";
import { number, volts } from "../../format";
import { Num, OnScreen, Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { Overtaken } from "../../ui/Overtaken";
import { ProblemNote } from "../../ui/ProblemNote";
import { colour } from "../../ui/theme";
import { Behind } from "../../ui/Behind";
import { PlusMinus } from "../../lab/PlusMinus";
import { useNames } from "../../lab/useNames";
import { Loop } from "./Loop";

/** Stays in view at the foot of the window: what was pressed may stand far above it. */
const Working = styled.section`
  position: sticky;
  bottom: 0;
  z-index: 1;
  max-height: 45vh;
  overflow-y: auto;
  padding: 0.7rem 0.9rem;
  border-left: 4px solid ${colour.account};
  background: ${colour.bench};
  h2 {
    font-size: 1rem;
  }
`;

const Plates = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(15rem, 1fr));
  gap: 0.6rem 1.6rem;
  padding-top: 0.7rem;
  border-top: 1px solid ${colour.hairline};
  h2 {
    font-size: 1rem;
  }
  li {
    margin: 0.15rem 0;
  }
  small {
    display: block;
    color: ${colour.soft};
    font-size: 0.9rem;
  }
`;

type PlateProps = { title: string; rows: Schemas["WorkOut"][]; dissolves?: boolean; inWords: boolean };

/** `dissolves`: the negative plate, where shares are of what dissolves and the metal itself comes first. */
function PlateWork({ title, rows, dissolves, inWords }: PlateProps) {
  return (
    <section>
      <h2>{title}</h2>
      <ul>
        {rows.map((row, place) => (
          <li key={row.equation}>
            {inWords ? row.equation : <Num style={{ whiteSpace: "normal" }}>{row.equation}</Num>}
            <small>
              {[
                rows.length > 1 &&
                  !dissolves &&
                  t`${number(100 * row.share, 0)} % of the current a minute into a short circuit; ${number(100 * row.resting, 0)} % with nothing joined`,
                dissolves && place > 0 && t`${number(100 * row.share, 0)} % of what dissolves`,
                row.remark,
              ]
                .filter(Boolean)
                .join(", ")}
            </small>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** One cell: where the volts went, the working of a cause on a press, and what happens at each plate. */
export function OneCell({ lab, cell }: { lab: string; cell: Schemas["CellIO"] }) {
  const explain = useExplain(lab, cell);
  const names = useNames();
  const [open, setOpen] = useState<string | null>(null);
  const found = explain.data;
  if (!found)
    return explain.error ? (
      <ProblemNote problem={explain.error as never} />
    ) : (
      <Soft>
        <Trans>Working it out …</Trans>
      </Soft>
    );
  const missing = found.measured_v - found.start_v;
  const causes = found.steps.find((step) => step.code === open)?.causes ?? [];
  return (
    <Overtaken by={explain.isPlaceholderData}>
      <h1>
        {missing < 0
          ? t`${found.notation}: where ${volts(Math.abs(missing), 2)} went`
          : t`${found.notation}: where ${volts(Math.abs(missing), 2)} came from`}
      </h1>
      <Soft>
        {found.level === "upper" ? (
          <Trans>
            From the printed table to what the class measured, one cause at a time. Press a cause for its working and a
            test for it.
          </Trans>
        ) : (
          <Trans>
            From the printed table to what the class measured, one cause at a time. Press a cause for a test for it.
          </Trans>
        )}
      </Soft>
      {found.level !== "first" && <PlusMinus />}
      <GapBars found={found} open={open} press={(key) => setOpen(open === key ? null : key)} />
      {causes.length > 0 && (
        <Working aria-live="polite">
          {causes.map((cause) => (
            <div key={cause.name}>
              <h2>
                {cause.name}: {sized(cause, found.level)}
              </h2>
              {cause.equation && (
                <p>
                  <Num style={{ whiteSpace: "normal" }}>{cause.equation}</Num>
                </p>
              )}
              <p>
                <Trans>A test for it: {cause.test}.</Trans>
              </p>
            </div>
          ))}
        </Working>
      )}
      <Plates>
        <PlateWork
          title={
            found.level === "first"
              ? t`Negative plate, ${names.plate(found.negative_plate)}`
              : t`Negative plate, ${names.plate(found.negative_plate)} (anode, oxidation)`
          }
          rows={found.at_negative}
          inWords={found.level === "first"}
          dissolves
        />
        <PlateWork
          title={
            found.level === "first"
              ? t`Positive plate, ${names.plate(found.positive_plate)}`
              : t`Positive plate, ${names.plate(found.positive_plate)} (cathode, reduction)`
          }
          rows={found.at_positive}
          inWords={found.level === "first"}
        />
      </Plates>
      <OnScreen>
        <Loop lab={lab} cell={cell} />
      </OnScreen>
      {found.negative_plate !== found.cell.negative && (
        <p>
          <Trans>
            The table makes {names.plate(found.cell.negative)} the negative plate. In this liquid it is{" "}
            {names.plate(found.negative_plate)}.
          </Trans>
        </p>
      )}
      {found.level !== "first" && <AllCauses found={found} />}
    </Overtaken>
  );
}

/** What a cause adds: about so much at the first level, with its uncertainty above. */
const sized = (cause: Schemas["CauseOut"], level: Schemas["ExplainOut"]["level"]) =>
  level === "first"
    ? t`about ${volts(cause.volts_v, 1, true)}`
    : `${volts(cause.volts_v, 3, true)} ± ${number(cause.u_v, 3)}`;

/** The causes as a table, with their workings where there are some. */
function AllCauses({ found }: { found: Schemas["ExplainOut"] }) {
  const worked = found.causes.some((cause) => cause.equation);
  return (
    <Behind label={t`Numbers of all causes`}>
      <Scroll>
        <Table>
          <caption hidden>
            <Trans>From the table to the meter, in volts</Trans>
          </caption>
          <thead>
            <tr>
              <th scope="col">
                <Trans>step</Trans>
              </th>
              <th scope="col" data-number>
                <Trans>adds, V</Trans>
              </th>
              <th scope="col" data-number>
                ± u, V
              </th>
              {worked && (
                <th scope="col">
                  <Trans>working</Trans>
                </th>
              )}
              <th scope="col">
                <Trans>test</Trans>
              </th>
            </tr>
          </thead>
          <tbody>
            {found.causes.map((cause) => (
              <tr key={cause.name}>
                <td>{cause.name}</td>
                <td data-number>{number(cause.volts_v, 3, true)}</td>
                <td data-number>{number(cause.u_v, 3)}</td>
                {worked && <td>{cause.equation}</td>}
                <td>{cause.test}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      </Scroll>
    </Behind>
  );
}
