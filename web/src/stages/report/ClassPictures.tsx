import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Dumbbells } from "../../charts/Dumbbells";
import { Stems } from "../../charts/Stems";
import { bathName, useNames } from "../../lab/useNames";
import { print } from "../../ui/theme";
import { Together } from "./Paper";

/** On paper a liquid's ladder stands beside its cells. */
const Beside = styled.div`
  ${print} {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 6mm;
    break-inside: avoid;
  }
`;

/** What the class found beside the table: one ladder and all cells for each liquid. */
export function ClassPictures({ compare }: { compare: Schemas["CompareOut"] }) {
  const names = useNames();
  return (
    <section aria-label={t`What the class found`}>
      <h2>
        <Trans>What the class found</Trans>
      </h2>
      {compare.electrolytes.map((result) => (
        <Beside key={`${result.electrolyte}|${result.condition}`}>
          {result.rungs.length > 1 && (
            <Together>
              <h3>
                <Trans>The ladder in {bathName(names, result)}: table left, class right</Trans>
              </h3>
              <figure>
                <Stems result={result} />
              </figure>
            </Together>
          )}
          <Together>
            <h3>
              <Trans>Every cell in {bathName(names, result)}: class beside table</Trans>
            </h3>
            <figure>
              <Dumbbells result={result} />
            </figure>
          </Together>
        </Beside>
      ))}
    </section>
  );
}
