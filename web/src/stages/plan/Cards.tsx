import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Num, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { colour, print } from "../../ui/theme";
import { JoinCode } from "../../ui/JoinCode";
import { bathName, useNames } from "../../lab/useNames";

type Cards = Schemas["CardsOut"];

const Card = styled.article`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.6rem;
  max-width: 46rem;
  padding: 1rem;
  border: 1.5px solid ${colour.ink};
  break-inside: avoid;
  & + & {
    margin-top: 1.5rem;
  }
  ${print} {
    max-width: none;
    gap: 0.35rem;
    padding: 0 0 3mm;
    border: 0;
    border-bottom: 1px dashed ${colour.soft}; /* two a page, to be cut apart */
    font-size: 0.92rem;
    & + & {
      margin-top: 3mm;
    }
  }
`;

const Head = styled.header`
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 1rem;
  ${print} {
    flex-wrap: nowrap;
  }
  h2 {
    font-size: 1.5rem;
  }
  svg {
    flex: none;
  }
  ${print} {
    p {
      line-height: 1.2;
    }
    svg {
      width: 24mm;
      height: 24mm;
    }
  }
`;

const Cells = styled(Table)`
  td,
  th,
  thead th {
    border: 1px solid ${colour.ink};
    color: ${colour.ink};
    padding: 0.3rem 0.45rem;
    vertical-align: middle;
  }
  td[data-space] {
    min-width: 3.6rem;
    height: 2.3rem;
  }
  ${print} {
    td[data-space] {
      height: 6.4mm;
    }
    td,
    th,
    thead th {
      padding: 0.1rem 0.35rem;
      line-height: 1.15;
    }
  }
  small {
    display: block;
    font-weight: 400;
  }
`;

/** Room to draw. */
const Sketch = styled.p`
  flex: 1 1 10rem;
  min-height: 8.5rem;
  padding: 0.3rem 0.5rem;
  border: 1px dashed ${colour.soft};
  color: ${colour.soft};
  font-size: 0.92rem;
  ${print} {
    min-height: 24mm;
    font-size: 0.8rem;
  }
`;

const Cautions = styled.ul`
  columns: 2;
  column-gap: 1.5rem;
  font-size: 0.92rem;
  ${print} {
    columns: 3;
    font-size: 0.8rem;
    line-height: 1.2;
  }
  li {
    padding-left: 0.9rem;
    text-indent: -0.9rem;
    break-inside: avoid;
  }
  li::before {
    content: "– ";
  }
`;

/** One card a group, to print: the way in, the cells in order with where the leads go, room for readings, cautions. */
export function BenchCards({ cards }: { cards: Cards }) {
  const names = useNames();
  return (
    <>
      {cards.cards.map((card) => (
        <Card key={card.group}>
          <Head>
            <div>
              <h2>{card.group}</h2>
              <p>{cards.title}</p>
              <p>
                <Trans>
                  Code <Num>{cards.code}</Num> · PIN <Num>{card.pin}</Num>
                </Trans>
              </p>
              <p>{cards.address}</p>
            </div>
            <Sketch>
              <Trans>Sketch cell 1: both plates, the leads, and what you think moves where.</Trans>
            </Sketch>
            <JoinCode link={cards} size="118px" />
          </Head>
          <Scroll role="region" aria-label={t`Cells of ${card.group}`}>
            <Cells>
              <thead>
                <tr>
                  <th scope="col">
                    <Trans>cell</Trans>
                  </th>
                  <th scope="col">
                    <Trans>black lead on</Trans>
                  </th>
                  <th scope="col">
                    <Trans>red lead on</Trans>
                  </th>
                  {cards.predict && (
                    <th scope="col">
                      <Trans>we expect</Trans>
                    </th>
                  )}
                  {Array.from({ length: cards.wanted }, (_, index) => (
                    <th key={index} scope="col">
                      {index + 1}
                    </th>
                  ))}
                  <th scope="col">
                    <Trans>what we saw</Trans>
                  </th>
                </tr>
              </thead>
              <tbody>
                {card.cells.map((cell, index) => (
                  <tr key={cell.id}>
                    <th scope="row">
                      {index + 1}. {cell.short}
                      {!names.cups(cell.electrolyte) && <small>{bathName(names, cell)}</small>}
                      {cell.setting && <small>{cell.setting}</small>}
                    </th>
                    <td>{names.plate(cell.negative)}</td>
                    <td>{names.plate(cell.positive)}</td>
                    {cards.predict && <td data-space />}
                    {Array.from({ length: cards.wanted }, (_, space) => (
                      <td key={space} data-space />
                    ))}
                    <td data-space />
                  </tr>
                ))}
              </tbody>
            </Cells>
          </Scroll>
          <p>
            {cards.predict &&
              (cards.level === "first"
                ? t`“We expect”: which plate will be negative.`
                : t`“We expect”: which plate will be negative, and how many volts.`)}{" "}
            <Trans>Meter check: leads together ______ V, a fresh cell ______ V.</Trans>
          </p>
          <p>
            <Trans>
              {cards.offline} Write the unit, and a minus sign where the meter shows one. Between readings lift the
              plates out and put them back.
            </Trans>
          </p>
          {card.steps.map((step) => (
            <p key={step.electrolyte}>
              <strong>{names.liquid(step.electrolyte)}:</strong> {step.text}
            </p>
          ))}
          <Cautions>
            {card.cautions.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </Cautions>
        </Card>
      ))}
    </>
  );
}
