import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useLoop } from "../../api/findings";
import { LoopDrawing } from "../../charts/LoopDrawing";
import { useNames } from "../../lab/useNames";
import { Picks, Tick } from "../../ui/controls";
import { Soft } from "../../ui/layout";
import { Overtaken } from "../../ui/Overtaken";
import { ProblemNote } from "../../ui/ProblemNote";

/** On the wall the ring stands beside its choices, so that it can be large. */
const Beside = styled.div<{ $wall: boolean }>`
  display: grid;
  gap: 0.6rem 2rem;
  ${({ $wall }) => $wall && "grid-template-columns: 26rem minmax(0, 24rem);"}
`;

const Controls = styled.div`
  display: grid;
  align-content: start;
  gap: 0.6rem;
`;

/** What goes round in one cell: open, through a voltmeter, a load or a wire; still unless somebody lets it move. `bare`: where
 * the title stands already. */
export function Loop({ lab, cell, bare = false }: { lab: string; cell: Schemas["CellIO"]; bare?: boolean }) {
  const found = useLoop(lab, cell);
  const names = useNames();
  const [state, setState] = useState("load");
  const [moving, setMoving] = useState(false);
  const [current, setCurrent] = useState(false);
  const ring = found.data?.find((one) => one.state === state);
  if (!ring) return <ProblemNote problem={found.error} />;
  const alone = !ring.flows && ring.gives.some(({ gas }) => gas);
  return (
    <section>
      {!bare && (
        <h2>
          <Trans>What goes round</Trans>
        </h2>
      )}
      <Overtaken by={found.isPlaceholderData}>
        <Beside $wall={bare}>
          <LoopDrawing
            ring={ring}
            liquid={cell.electrolyte}
            divided={names.cups(cell.electrolyte) !== null}
            symbols={{ negative: names.symbol(ring.negative), positive: names.symbol(ring.positive) }}
            moving={moving}
            current={current}
          />
          <Controls>
            <Picks
              label={t`The plates are joined by`}
              options={[
                { key: "open", name: t`nothing` },
                { key: "meter", name: t`a voltmeter` },
                { key: "load", name: "470 Ω" },
                { key: "wire", name: t`a wire` },
              ]}
              value={state}
              onChange={setState}
            />
            <Soft>
              {alone
                ? t`Nothing goes round. At the ${names.plate(ring.negative)} the liquid goes on without you.`
                : ring.flows
                  ? t`A minute after joining, by the model: an arrow is as thick as its share. How fast the dots go says nothing.`
                  : t`Nothing goes round.`}
            </Soft>
            {ring.flows && (
              <Tick isSelected={current} onChange={setCurrent}>
                <Trans>Show “current”: by agreement it points the other way</Trans>
              </Tick>
            )}
            <Tick isSelected={moving} onChange={setMoving}>
              <Trans>Let it move, if this device allows motion</Trans>
            </Tick>
          </Controls>
        </Beside>
      </Overtaken>
    </section>
  );
}
