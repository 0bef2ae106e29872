import { t } from "@lingui/core/macro";
import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { leftOut } from "../../lab/standing";
import { only } from "../../api/outbox";
import { asTyped } from "../../format";
import { MainButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Num, Row, Soft, WrongText } from "../../ui/layout";
import { useKept } from "../../ui/useKept";
import { newId } from "../../api/newId";
import { type Outbox } from "../../lab/useOutbox";

const Ask = styled.form`
  display: grid;
  gap: 0.4rem;
  & > div {
    align-items: end;
  }
`;

const Field = styled.div`
  width: 11rem;
`;

type LoadProps = {
  cell: Schemas["BenchCell"];
  kind: "short" | "load";
  title: string;
  how: string;
  unit: string;
  open: boolean;
  outbox: Outbox;
};

/** One number under load; measuring again keeps the earlier one too, the latest counts. */
function OneLoad({ cell, kind, title, how, unit, open, outbox }: LoadProps) {
  const [text, setText] = useKept(`${outbox.group}:load:${cell.id}:${kind}`, "");
  const [wrong, setWrong] = useState<string | null>(null);
  const kept = cell.beside.under_load.filter((one) => one.kind === kind);
  const waiting = only(outbox.waiting, "load").filter(
    (one) => one.cell_id === cell.id && one.body.kind === kind && !kept.some(({ id }) => id === one.id),
  );
  const record = async () => {
    if (!text.trim()) return setWrong(t`Type the number on the meter first.`);
    const id = newId();
    const body = { id, cell_id: cell.id, kind, text, unit, device_at: new Date().toISOString() };
    const typed = text;
    setText("");
    const refusal = await outbox.add({ kind: "load", id, cell_id: cell.id, body });
    if (refusal === null) return setWrong(null);
    await outbox.remove(id);
    setText((now) => now || typed);
    setWrong(refusal);
  };
  return (
    <Ask
      onSubmit={(event) => {
        event.preventDefault();
        void record();
      }}
    >
      <strong>{title}</strong>
      <Soft>{how}</Soft>
      {kept.map((one, index) => (
        <p key={one.id}>
          <Num as={index + 1 < kept.length || leftOut(one) ? "s" : "span"}>{asTyped(one.text, one.unit)}</Num>{" "}
          {index + 1 === kept.length && one.says}
          {index + 1 === kept.length && one.remark && (
            <WrongText
              as="span"
              role="status"
            >{` ${leftOut(one) ? t`Does not count: ${one.remark}` : one.remark}`}</WrongText>
          )}
        </p>
      ))}
      {waiting.map((one) => (
        <p key={one.id}>
          <Num>{asTyped(one.body.text, one.body.unit)}</Num> {one.refusal ?? t`safe on this device, not sent yet`}
        </p>
      ))}
      <Row>
        <Field>
          <TextField
            label={`${kind === "short" ? t`Current` : t`Voltage`}, ${unit}`}
            value={text}
            onChange={(value) => {
              setText(value);
              setWrong(null);
            }}
            inputMode="decimal"
            autoComplete="off"
            maxLength={32}
            isDisabled={!open}
          />
        </Field>
        <MainButton type="submit" isDisabled={!open}>
          {kept.length > 0 ? t`Measure again` : t`Record`}
        </MainButton>
      </Row>
      {wrong && <WrongText role="alert">{wrong}</WrongText>}
    </Ask>
  );
}

type Props = {
  cell: Schemas["BenchCell"];
  bench: Schemas["BenchOut"];
  open: boolean;
  outbox: Outbox;
};

/** What the lab asks for besides the open voltage: only after it, and only for seconds. */
export function UnderLoad({ cell, bench, open, outbox }: Props) {
  const { load_ohm: loadOhm, short_circuit: short, how_load: howLoad, how_short: howShort } = bench;
  return (
    <>
      {loadOhm !== null && (
        <OneLoad
          cell={cell}
          kind="load"
          title={t`Voltage across ${loadOhm} Ω`}
          how={howLoad}
          unit="V"
          open={open}
          outbox={outbox}
        />
      )}
      {short && (
        <OneLoad
          cell={cell}
          kind="short"
          title={t`Short-circuit current`}
          how={howShort}
          unit="mA"
          open={open}
          outbox={outbox}
        />
      )}
    </>
  );
}
