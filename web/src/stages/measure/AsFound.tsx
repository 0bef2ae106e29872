import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import type { Outbox } from "../../lab/useOutbox";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Num, Row, Soft, WrongText } from "../../ui/layout";
import { Unsent, useTextAtCell } from "./textAtCell";

const Form = styled.form`
  display: grid;
  gap: 0.6rem;
  & > div {
    align-items: end;
  }
`;

type Cell = Schemas["BenchCell"];
type Props = { cell: Cell; level: Schemas["LevelSet"]; open: boolean; outbox: Outbox };

/** What the group set the cell to, as it measured it: the latest of each variable counts. */
export function AsFound({ cell, level, open, outbox }: Props) {
  const { actuals } = cell.beside;
  const { text, type, wrong, waiting, keep } = useTextAtCell(
    outbox,
    "actual",
    cell.id,
    actuals,
    t`Write the number you measured first.`,
  );
  const replaced = (index: number, name: string) => actuals.slice(index + 1).some((actual) => actual.name === name);
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <Soft>
        <Trans>
          Planned: {level.name} {level.text}. Measure it and write what it was. What should have stayed the same can be
          noted too, with its unit: 23 °C.
        </Trans>
      </Soft>
      {actuals.length + waiting.length > 0 && (
        <ul aria-label={t`What it was`}>
          {actuals.map((actual, index) => (
            <li key={actual.id}>
              {actual.name} <Num as={replaced(index, actual.name) ? "s" : "span"}>{actual.text}</Num>
            </li>
          ))}
          <Unsent rows={waiting} />
        </ul>
      )}
      <Row>
        <TextField
          label={t`It really was`}
          value={text}
          onChange={type}
          autoComplete="off"
          maxLength={40}
          isDisabled={!open}
        />
        <Button type="submit" isDisabled={!open}>
          <Trans>Keep it</Trans>
        </Button>
      </Row>
      {wrong && <WrongText role="alert">{wrong}</WrongText>}
    </Form>
  );
}

/** What was noted last, or what is planned, in a few words. */
export function foundSoFar({ beside, level }: Cell): string {
  const last = beside.actuals.at(-1);
  return last ? `${last.name} ${last.text}` : t`planned: ${level?.text ?? ""}`;
}
