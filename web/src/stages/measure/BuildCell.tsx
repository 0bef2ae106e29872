import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { ReactNode, RefObject } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { CellDrawing } from "../../charts/CellDrawing";
import { bathName, useNames } from "../../lab/useNames";
import { Soft, Spread } from "../../ui/layout";
import { Bullets } from "../../ui/Notes";
import { phone } from "../../ui/theme";
import { usePhone } from "../../ui/usePhone";

const Picture = styled.div`
  max-width: 22rem;
  ${phone} {
    width: 10rem;
    margin: 0 auto;
  }
`;

const Prepare = styled(Soft)`
  ${phone} {
    font-size: 0.92rem;
  }
`;

/** One line before the first reading, on a phone, where the margin is below. */
const Care = styled.details`
  font-size: 0.92rem;
  summary {
    padding: 0.2rem 0;
    cursor: pointer;
  }
`;

type Props = {
  cell: Schemas["BenchCell"];
  guessing: boolean;
  swapped: boolean;
  begun: boolean;
  heading: RefObject<HTMLHeadingElement | null>;
  checkFirst: ReactNode;
  beside: ReactNode;
};

/** What to build: plates, leads, liquid and preparation; `guessing`: nothing says which plate is negative. */
export function BuildCell({ cell, guessing, swapped, begun, heading, checkFirst, beside }: Props) {
  const names = useNames();
  const onPhone = usePhone();
  const red = swapped ? cell.negative : cell.positive;
  const black = swapped ? cell.positive : cell.negative;
  // Not negative first while the group guesses: the order would tell.
  const [first, second] = guessing
    ? ([cell.negative, cell.positive].sort((a, b) => names.plate(a).localeCompare(names.plate(b))) as [string, string])
    : [cell.negative, cell.positive];
  const where = names.cups(cell.electrolyte) ? t`two cups` : bathName(names, cell);
  const cups = names.cups(cell.electrolyte, first !== cell.negative);
  return (
    <>
      <Spread>
        <h1 ref={heading} tabIndex={-1}>
          <Trans>Build this cell</Trans>
        </h1>
        {onPhone && checkFirst}
      </Spread>
      {guessing ? (
        <p>
          <Trans>
            <strong>{names.plate(first)}</strong> and <strong>{names.plate(second)}</strong>, in {where}. Predict, or
            skip, to see where the leads go.
          </Trans>
        </p>
      ) : (
        <p>
          <Trans>
            Black lead on <strong>{names.plate(black)}</strong>, red lead on <strong>{names.plate(red)}</strong>, in{" "}
            {where}.
          </Trans>
        </p>
      )}
      {onPhone && !begun && cell.cautions.length > 0 && (
        <Care>
          <summary>
            <Trans>
              <b>Take care.</b> {cell.cautions[0]}
            </Trans>
          </summary>
          <Bullets items={cell.cautions} />
        </Care>
      )}
      <Picture>
        <CellDrawing
          left={{ key: first, symbol: names.symbol(first) }}
          right={{ key: second, symbol: names.symbol(second) }}
          liquid={{ key: cell.electrolyte, name: cups?.by ?? names.liquid(cell.electrolyte) }}
          cups={cups}
          redOnLeft={swapped}
          leads={!guessing}
          level={cell.level}
          small={onPhone}
        />
      </Picture>
      {!onPhone && beside}
      {!onPhone && <Prepare>{cell.preparation}</Prepare>}
      {onPhone && !guessing && (
        <Care>
          <summary>
            <b>
              <Trans>Before you dip</Trans>
            </b>
          </summary>
          {cell.preparation}
        </Care>
      )}
    </>
  );
}
