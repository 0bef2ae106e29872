import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import { useCompare } from "../../api/findings";
import { useLab } from "../../api/labs";
import { Dumbbells } from "../../charts/Dumbbells";
import { SideBySide } from "../../charts/SideBySide";
import { Stems } from "../../charts/Stems";
import { FindingsFrame } from "../../lab/FindingsFrame";
import { bathKey, bathName, useNames } from "../../lab/useNames";
import { Button } from "../../ui/Button";
import { Column, OnScreen, Soft } from "../../ui/layout";
import { colour, print } from "../../ui/theme";
import { CellsLegend } from "./CellsLegend";
import { Waiting } from "../../ui/Waiting";

const NO_ANCHORS: string[] = [];
const LINES = 5;

/** Two liquids beside each other where there is room. */
const Pair = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(18rem, 1fr));
  gap: 1rem 2rem;
  section {
    break-inside: avoid;
  }
  ${print} {
    grid-template-columns: 1fr 1fr;
    gap: 4mm 8mm;
  }
`;

const Second = styled.div`
  display: grid;
  gap: 0.8rem;
  ${print} {
    break-before: page;
  }
`;

const Line = styled.div`
  height: 1.9rem;
  border-bottom: 1px solid ${colour.soft};
`;

/** Room for what a student thinks of it. */
function Room({ asks }: { asks: string }) {
  return (
    <section aria-label={asks}>
      <h3>{asks}</h3>
      {Array.from({ length: LINES }, (_, index) => (
        <Line key={index} />
      ))}
    </section>
  );
}

/** What the class found, for every student: all ladders, all cells, and room for their own explanation; two pages. */
export function HandoutPage({ id }: { id: string }) {
  const compare = useCompare(id, NO_ANCHORS);
  const lab = useLab(id);
  const names = useNames();
  if (!compare.data || !lab.data) return <Waiting title={t`Handout`} error={compare.error ?? lab.error} />;
  const { electrolytes, title } = compare.data;
  const onLadder = electrolytes.filter((result) => result.anchor);
  return (
    <FindingsFrame
      data={compare.data}
      here="Compare"
      projector={null}
      margin={
        <OnScreen>
          <Soft>
            <Trans>
              What the class measured, nothing of why: that is for the lines on the second page. No names of groups
              stand on it.
            </Trans>
          </Soft>
          <Button onPress={() => window.print()}>
            <Trans>Print</Trans>
          </Button>
        </OnScreen>
      }
    >
      <Column>
        <h1>
          <Trans>What our class found: {title}</Trans>
        </h1>
        {lab.data.settings.question && <p>{lab.data.settings.question}</p>}
        <h2>
          <Trans>Where each plate sits, in volts against hydrogen</Trans>
        </h2>
        <Soft>
          <Trans>Left the printed table, right what our cells say. One plate of each is held at its table value.</Trans>
        </Soft>
        {onLadder.length > 1 ? (
          <SideBySide results={onLadder} title={(result) => bathName(names, result)} />
        ) : (
          onLadder.map((result) => (
            <section key={bathKey(result)}>
              <h3>{bathName(names, result)}</h3>
              <Stems result={result} />
            </section>
          ))
        )}
        <Second>
          <h2>
            <Trans>Cells, widest gap first</Trans>
          </h2>
          <CellsLegend results={electrolytes} />
          <Pair>
            {electrolytes.map((result) => (
              <section key={bathKey(result)}>
                <h3>{bathName(names, result)}</h3>
                <Dumbbells result={result} />
              </section>
            ))}
          </Pair>
          <Room asks={t`What fits the table, and what does not?`} />
          <Room asks={t`Why, do you think? Which numbers speak for it, and what would speak against it?`} />
        </Second>
      </Column>
    </FindingsFrame>
  );
}
