import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Fragment } from "react";
import styled from "styled-components";
import { useMaterials } from "../../api/materials";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { Soft } from "../../ui/layout";
import { colour } from "../../ui/theme";

const Sheet = styled.section`
  display: grid;
  gap: 0.3rem;
  padding: 0.8rem 0.9rem;
  border: 1.5px solid ${colour.ink};
  border-radius: 6px;
  background: ${colour.white};
  h2 {
    font-size: 1.05rem;
  }
  ol {
    padding-left: 1.3rem;
    list-style: decimal;
  }
`;

const Keys = styled.dl`
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 0.15rem 0.9rem;
  dt {
    font-weight: 600;
  }
`;

const KEYS = [
  ["Enter", t`record`],
  ["M, V", t`millivolts, volts`],
  ["S", t`leads swapped`],
  ["D", t`plates are in`],
  ["R", t`read the connected meter`],
  ["?", t`this sheet`],
  ["← →", t`the cell before, the next cell`],
] as const;

/** Packs say at their own bench what is off. */
const ofOneCell = (symptom: { key: string }) => symptom.key !== "pack";

/** What is seen on the meter, what it may be, and what to try in order; and every key of the bench. */
export function OffSheet({ close }: { close: () => void }) {
  const materials = useMaterials();
  return (
    <Sheet aria-label={t`Something is off`}>
      <h2>
        <Trans>What do you see on the meter?</Trans>
      </h2>
      {(materials.data?.symptoms ?? []).filter(ofOneCell).map((symptom) => (
        <Disclosure key={symptom.key} title={symptom.seen}>
          <p>{symptom.means}</p>
          <ol>
            {symptom.tries.map((step) => (
              <li key={step}>{step}</li>
            ))}
          </ol>
        </Disclosure>
      ))}
      <Disclosure title={t`The keys`}>
        <Keys>
          {KEYS.map(([key, does]) => (
            <Fragment key={key}>
              <dt>{key}</dt>
              <dd>{does}</dd>
            </Fragment>
          ))}
        </Keys>
      </Disclosure>
      <Soft>
        <Trans>
          Never use the ohm range on a cell: the meter pushes its own current through it, so the number means nothing.
          Nothing helps? Record what you see, note it, and call your teacher.
        </Trans>
      </Soft>
      <p>
        <Button onPress={close}>
          <Trans>Back to the cell</Trans>
        </Button>
      </p>
    </Sheet>
  );
}
