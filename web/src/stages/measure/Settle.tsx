import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Meter } from "../../api/meter";
import { TraceLine } from "../../charts/TraceLine";
import { clock, number } from "../../format";
import { Button, Key } from "../../ui/Button";
import { Num, Soft } from "../../ui/layout";
import { Ring, useSeconds } from "../../ui/Ring";
import { colour, phone } from "../../ui/theme";

const Strip = styled.div`
  display: grid;
  grid-template-columns: 58px minmax(0, 1fr) auto;
  align-items: center;
  gap: 0.4rem 0.9rem;
  max-width: 36rem;
  padding-top: 0.7rem;
  border-top: 1px solid ${colour.hairline};
  ${phone} {
    padding-top: 0;
    border-top: 0;
  }
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
              ? t`Put back in? A short wait, ${Math.round(settleS)} s.`
              : t`Plates in? Start the wait.`
            : left > 0
              ? t`Wait for it to settle`
              : t`Read it now`}
        </strong>
        <Soft>{trend ?? (dipped !== null && left === 0 ? t`if the last digit stands still for ten seconds` : "")}</Soft>
      </div>
      <Button onPress={dip}>
        {dipped === null ? t`Plates are in` : t`Dipped again`} <Key>D</Key>
      </Button>
    </Strip>
  );
}

/** With a connected meter: what it shows, how fast it moves, and a button that takes the number over. */
export function SettleByMeter({ meter, read }: { meter: Meter; read: () => void }) {
  const { sample, trouble, trace } = meter;
  const wait = sample?.wait_s ?? null;
  const moving = sample && sample.drift_mv !== null ? t`Moving ${number(sample.drift_mv, 1, true)} mV in 10 s.` : "";
  return (
    <Strip>
      <Ring
        part={sample?.steady ? 1 : wait !== null ? Math.max(0.05, 1 - wait / 30) : 0}
        text={wait !== null ? clock(Math.ceil(wait)) : "…"}
      />
      <div>
        <strong>
          {trouble ? (
            t`No number from the meter`
          ) : sample ? (
            <>
              <Trans>
                The meter shows <Num>{sample.text}</Num> V
              </Trans>
              {sample.simulated && t`, simulated`}
            </>
          ) : (
            t`Asking the meter …`
          )}
        </strong>
        <Soft role={trouble ? "status" : undefined}>
          {trouble ??
            (sample?.steady
              ? t`${moving} Steady: read it.`
              : t`${moving} Steady is under 2 mV. Wait for it to settle.`)}
        </Soft>
      </div>
      <Button onPress={read} isDisabled={!sample}>
        <Trans>
          Read from meter <Key>R</Key>
        </Trans>
      </Button>
      {trace.length > 4 && (
        <Whole>
          <TraceLine points={trace} label={t`The meter, live`} />
        </Whole>
      )}
    </Strip>
  );
}
