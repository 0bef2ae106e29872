import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useAddElsewhere, useWithdrawElsewhere } from "../../api/findings";
import { decimalsFor, number } from "../../format";
import { EvidenceOf } from "../../lab/EvidenceOf";
import { useNames } from "../../lab/useNames";
import { Button, TextButton } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Form, Num, OnScreen, Row } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";

type Result = Schemas["ElectrolyteResultOut"];
type Cell = Result["cells"][number];
const NOTHING = { text: "", u: "", source: "", conditions: "" };

/** Values of a cell from a book, a leaflet or another school, with where they are from; one may be added or taken away. */
function Elsewhere({ lab, cell, about }: { lab: string; cell: Cell; about: Schemas["CellIO"] }) {
  const add = useAddElsewhere(lab);
  const withdraw = useWithdrawElsewhere();
  const [typed, setTyped] = useState(NOTHING);
  const set = (change: Partial<typeof NOTHING>) => setTyped((now) => ({ ...now, ...change }));
  return (
    <Disclosure
      title={t`Values from elsewhere`}
      detail={
        cell.elsewhere.length > 0
          ? t`${cell.elsewhere.length} beside the class’s`
          : t`a book, a leaflet, another school`
      }
    >
      <ul>
        {cell.elsewhere.map((one) => (
          <li key={one.id}>
            <Num>
              {number(one.volts_v, 2)}
              {one.u_v !== null && ` ± ${number(one.u_v, decimalsFor(one.u_v))}`} V
            </Num>{" "}
            {one.source}
            {one.conditions && `, ${one.conditions}`}{" "}
            <TextButton onPress={() => withdraw.mutate(one.id)} aria-label={t`Take the value of ${one.source} away`}>
              <Trans>Take away</Trans>
            </TextButton>
          </li>
        ))}
      </ul>
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate({ cell: about, ...typed }, { onSuccess: () => setTyped(NOTHING) });
        }}
      >
        <TextField
          label={t`Volts of ${cell.short}, plus on the second`}
          value={typed.text}
          onChange={(text) => set({ text })}
          maxLength={32}
        />
        <TextField
          label={t`Its uncertainty, if it is known`}
          value={typed.u}
          onChange={(u) => set({ u })}
          maxLength={32}
        />
        <TextField
          label={t`Where it is from`}
          value={typed.source}
          onChange={(source) => set({ source })}
          maxLength={200}
        />
        <TextField
          label={t`Under which conditions`}
          value={typed.conditions}
          onChange={(conditions) => set({ conditions })}
          maxLength={200}
        />
        <Row>
          <Button type="submit">
            <Trans>Put it beside the class’s</Trans>
          </Button>
        </Row>
        <ProblemNote problem={add.error ?? withdraw.error} />
      </Form>
    </Disclosure>
  );
}

/** What stands beside the numbers of one cell: what groups saw and kept of it, and values from elsewhere. */
export function BesideCells({ lab, result }: { lab: string; result: Result }) {
  const { plate } = useNames();
  const [picked, setPicked] = useState("");
  const cell = result.cells.find((one) => one.short === picked) ?? result.cells[0];
  if (!cell) return null;
  const { negative, positive } = cell;
  const about = { negative, electrolyte: result.electrolyte, positive, condition: result.condition };
  return (
    <OnScreen>
      <Select
        label={t`Look closer at`}
        options={result.cells.map((one) => ({
          key: one.short,
          name: `${plate(one.negative)}, ${plate(one.positive)}`,
        }))}
        value={cell.short}
        onChange={setPicked}
      />
      <EvidenceOf lab={lab} cell={about} />
      <Elsewhere key={cell.short} lab={lab} cell={cell} about={about} />
    </OnScreen>
  );
}
