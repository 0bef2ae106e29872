import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { Dumbbells } from "../../charts/Dumbbells";
import { Stems } from "../../charts/Stems";
import { bathName, useNames } from "../../lab/useNames";
import { Together } from "./Paper";

/** What the class found beside the table: one ladder and all cells for each liquid. */
export function ClassPictures({ compare }: { compare: Schemas["CompareOut"] }) {
  const names = useNames();
  return (
    <section aria-label={t`What the class found`}>
      <h2>
        <Trans>What the class found</Trans>
      </h2>
      {compare.electrolytes.map((result) => (
        <div key={`${result.electrolyte}|${result.condition}`}>
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
        </div>
      ))}
    </section>
  );
}
