import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useEffect, useRef, useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Button, MainButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Row, Soft, WrongText } from "../../ui/layout";
import { colour } from "../../ui/theme";
import { moveTo } from "../../ui/useMovesTo";
import { useKept } from "../../ui/useKept";
import { newId } from "../../api/newId";
import { type Outbox } from "../../lab/useOutbox";

const Panel = styled.form`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.7rem;
  max-width: 32rem;
  padding: 0.8rem 0.9rem;
  border: 1.5px solid ${colour.ink};
  border-radius: 6px;
  background: ${colour.white};
  h2 {
    font-size: 1.05rem;
  }
`;

const Field = styled.div`
  width: 13rem;
`;

/** What the kept check came to, where it was typed. */
export function MeterSays({ meter }: { meter: Schemas["MeterOut"] | null }) {
  if (!meter) return null;
  return (
    <p role="status">
      {meter.tone === "good" && "✓ "}
      {meter.text} {meter.do}
    </p>
  );
}

/** Leads together, then one fresh dry cell: can this meter be trusted, and what is its offset? `pressed`: it was asked for. */
export function MeterCheck({ outbox, pressed, done }: { outbox: Outbox; pressed: boolean; done: () => void }) {
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    if (pressed) moveTo(heading.current);
  }, [pressed]);
  const [leads, setLeads, forgetLeads] = useKept(`${outbox.group}:meter:leads`, "");
  const [dry, setDry, forgetDry] = useKept(`${outbox.group}:meter:dry`, "");
  const [wrong, setWrong] = useState<string | null>(null);
  const keep = async () => {
    if (!leads.trim() || !dry.trim()) return setWrong(t`Type both numbers as the meter shows them, in volts.`);
    const id = newId();
    const body = { id, leads, dry, device_at: new Date().toISOString() };
    const refusal = await outbox.add({ kind: "check", id, cell_id: outbox.anyCell, body });
    if (refusal !== null) {
      await outbox.remove(id);
      return setWrong(refusal);
    }
    setLeads("");
    setDry("");
    done();
    setTimeout(() => {
      forgetLeads();
      forgetDry();
    });
  };
  return (
    <Panel
      aria-label={t`Meter check`}
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <h2 ref={heading} tabIndex={-1}>
        <Trans>First, the meter: DC volts, lowest range that holds 2 V</Trans>
      </h2>
      <Row>
        <Field>
          <TextField
            label={t`Leads together, V`}
            value={leads}
            onChange={(text) => {
              setLeads(text);
              setWrong(null);
            }}
            inputMode="decimal"
            autoComplete="off"
            maxLength={32}
          />
        </Field>
        <Field>
          <TextField
            label={t`On a fresh dry cell, V`}
            value={dry}
            onChange={(text) => {
              setDry(text);
              setWrong(null);
            }}
            inputMode="decimal"
            autoComplete="off"
            maxLength={32}
          />
        </Field>
      </Row>
      {wrong && <WrongText role="alert">{wrong}</WrongText>}
      <Row>
        <MainButton type="submit">
          <Trans>Keep this check</Trans>
        </MainButton>
        <Button onPress={done}>
          <Trans>Check it later</Trans>
        </Button>
        <Soft>
          <Trans>The dry cell only meets the meter, never your cells. Never use the ohm range on a cell.</Trans>
        </Soft>
      </Row>
    </Panel>
  );
}
