import styled from "styled-components";
import type { Meter } from "../../api/meter";
import { TraceLine } from "../../charts/TraceLine";
import { clock, number } from "../../format";
import { Button, Key } from "../../ui/Button";
import { Num, Soft } from "../../ui/layout";
import { Ring, useSeconds } from "../../ui/Ring";
import { colour } from "../../ui/theme";

const Strip = styled.div`
  display: grid;
  grid-template-columns: 58px minmax(0, 1fr) auto;
  align-items: center;
  gap: 0.4rem 0.9rem;
  max-width: 36rem;
  padding-top: 0.7rem;
  border-top: 1px solid ${colour.hairline};
`;

const Whole = styled.div`
  grid-column: 1 / -1;
`;

type TypedProps = { dipped: number | null; dip: () => void; again: boolean; settleS: number; trend: string | null };

/** Without a connected meter: the time since the plates went in, and how the last readings moved. */
export function SettleByTime({ dipped, dip, again, settleS, trend }: TypedProps) {
  const gone = useSeconds(dipped);
  const left = Math.max(0, settleS - gone);
  return (
    <Strip>
      <Ring part={dipped === null ? 0 : gone / Math.max(1, settleS)} text={dipped === null ? "–" : clock(left)} />
      <div>
        <strong role="status">
          {dipped === null
            ? again
              ? `Put back in? A short wait, ${Math.round(settleS)} s.`
              : "Plates in? Start the wait."
            : left > 0
              ? "Wait for it to settle"
              : "Read it now"}
        </strong>
        <Soft>{trend ?? (dipped !== null && left === 0 ? "if the last digit stands still for ten seconds" : "")}</Soft>
      </div>
      <Button onPress={dip}>
        {dipped === null ? "Plates are in" : "Dipped again"} <Key>D</Key>
      </Button>
    </Strip>
  );
}

/** With a connected meter: what it shows, how fast it moves, and a button that takes the number over. */
export function SettleByMeter({ meter, read }: { meter: Meter; read: () => void }) {
  const { sample, trouble, trace } = meter;
  const wait = sample?.wait_s ?? null;
  const moving = sample && sample.drift_mv !== null ? `Moving ${number(sample.drift_mv, 1, true)} mV in 10 s.` : "";
  return (
    <Strip>
      <Ring
        part={sample?.steady ? 1 : wait !== null ? Math.max(0.05, 1 - wait / 30) : 0}
        text={wait !== null ? clock(Math.ceil(wait)) : "…"}
      />
      <div>
        <strong>
          {trouble ? (
            "No number from the meter"
          ) : sample ? (
            <>
              The meter shows <Num>{sample.text}</Num> V{sample.simulated && ", simulated"}
            </>
          ) : (
            "Asking the meter …"
          )}
        </strong>
        <Soft role={trouble ? "status" : undefined}>
          {trouble ??
            (sample?.steady ? `${moving} Steady: read it.` : `${moving} Steady is under 2 mV. Wait for it to settle.`)}
        </Soft>
      </div>
      <Button onPress={read} isDisabled={!sample}>
        Read from meter <Key>R</Key>
      </Button>
      {trace.length > 4 && (
        <Whole>
          <TraceLine points={trace} label="The meter, live" />
        </Whole>
      )}
    </Strip>
  );
}
