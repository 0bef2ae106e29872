import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { newId } from "../../api/newId";
import type { Schemas } from "../../api/client";
import { AtOnePress } from "../../lab/AtOnePress";
import { WhatIsSaid } from "../../lab/WhatIsSaid";
import type { Outbox } from "../../lab/useOutbox";
import { TextButton } from "../../ui/Button";

type Finding = Schemas["FindingOut"];
type Reading = Schemas["ReadingOut"];
type Props = {
  enough: boolean;
  findings: Finding[];
  reading: Reading | undefined;
  outbox: Outbox;
  open: boolean;
};

/**
 * What the checks say of the reading that was just recorded, directly under it, with what puts it right at one press.
 * Until the group has its readings, or asks, without what it should think of first.
 */
export function SaidOfLast({ enough, findings, reading, outbox, open }: Props) {
  const [told, setTold] = useState<string | null>(null);
  const plainly = enough || (reading !== undefined && told === reading.id);
  return (
    <WhatIsSaid
      label={t`What this reading says`}
      kept={t`Your number is kept.`}
      findings={findings.map((finding) => ({
        ...finding,
        text: plainly ? finding.text : finding.hint,
        key: `${finding.reading} ${finding.code}`,
        more: (
          <>
            {!plainly && finding.hint !== finding.text && (
              <TextButton onPress={() => setTold(finding.reading)}>
                <Trans>Say it with numbers</Trans>
              </TextButton>
            )}
            {open && reading && (
              <Repairs key={reading.id} repairs={finding.repairs} reading={reading} outbox={outbox} />
            )}
          </>
        ),
      }))}
    />
  );
}

type RepairsProps = { repairs: Finding["repairs"]; reading: Reading; outbox: Outbox };

/** The repairs of a reading, each a reading that corrects it. */
export function Repairs({ repairs, reading, outbox }: RepairsProps) {
  const send = async (repair: Finding["repairs"][number]) => {
    const id = newId();
    const body = {
      id,
      cell_id: repair.cell_id,
      red: repair.red,
      black: repair.black,
      text: repair.text,
      unit: repair.unit,
      origin: "typed" as const,
      device_at: new Date().toISOString(),
      corrects: reading.id,
      reason: repair.reason,
    };
    const refusal = await outbox.add({ kind: "reading", id, cell_id: repair.cell_id, body });
    if (refusal !== null) await outbox.remove(id);
    return refusal;
  };
  return <AtOnePress repairs={repairs} send={send} />;
}
