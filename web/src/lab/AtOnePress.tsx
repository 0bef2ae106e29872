import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { Button } from "../ui/Button";
import { Row, Soft, WrongText } from "../ui/layout";

type Props<Repair> = { repairs: Repair[]; send: (repair: Repair) => Promise<string | null> };

/** Corrections that the group may send at one press: the old number stays, struck through, with the reason. */
export function AtOnePress<Repair extends { label: string }>({ repairs, send }: Props<Repair>) {
  const [pressed, setPressed] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  if (repairs.length === 0) return null;
  const press = async (repair: Repair) => {
    setPressed(true);
    const refusal = await send(repair);
    setWrong(refusal);
    setPressed(refusal === null);
  };
  return (
    <>
      <Row>
        <Soft>
          <Trans>If you are sure:</Trans>
        </Soft>
        {repairs.map((repair) => (
          <Button key={repair.label} isDisabled={pressed} onPress={() => void press(repair)}>
            {repair.label}
          </Button>
        ))}
      </Row>
      {wrong && <WrongText role="alert">{wrong}</WrongText>}
    </>
  );
}
