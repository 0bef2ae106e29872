import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { newId } from "../../api/newId";
import type { Schemas } from "../../api/client";
import { WhatIsSaid } from "../../lab/WhatIsSaid";
import type { Outbox } from "../../lab/useOutbox";
import { Button, TextButton } from "../../ui/Button";
import { Row, Soft, WrongText } from "../../ui/layout";

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

/** Corrections that the group may send: the old number stays, struck through, with the reason. */
export function Repairs({ repairs, reading, outbox }: RepairsProps) {
  const [pressed, setPressed] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  if (repairs.length === 0) return null;
  const send = async (repair: Finding["repairs"][number]) => {
    setPressed(true);
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
    if (refusal === null) return;
    await outbox.remove(id);
    setWrong(refusal);
    setPressed(false);
  };
  return (
    <>
      <Row>
        <Soft>
          <Trans>If you are sure:</Trans>
        </Soft>
        {repairs.map((repair) => (
          <Button key={repair.kind} isDisabled={pressed} onPress={() => void send(repair)}>
            {repair.label}
          </Button>
        ))}
      </Row>
      {wrong && <WrongText role="alert">{wrong}</WrongText>}
    </>
  );
}
