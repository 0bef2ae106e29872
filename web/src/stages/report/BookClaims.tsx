import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { asTyped, lower } from "../../format";
import { bathName, cellName, useNames } from "../../lab/useNames";
import { VERDICTS } from "../../lab/verdicts";
import { Num } from "../../ui/layout";
import { anchorOf } from "../../lab/Kept";
import { Together } from "./Paper";

type Claim = Schemas["ClaimOut"];

/** Claims with their evidence, what the numbers say to them, and the teacher's answer. */
export function BookClaims({ claims, named }: { claims: Claim[]; named: boolean }) {
  const names = useNames();
  if (claims.length === 0) return null;
  return (
    <section aria-label={t`Claims`}>
      <h2>
        <Trans>Claims</Trans>
      </h2>
      {claims.map((claim) => (
        <Together key={claim.id} id={anchorOf(claim)}>
          <h3>
            {named && `${claim.group}, `}
            {claim.cell
              ? t`${claim.short} in ${bathName(names, claim.cell)}`
              : claim.pack
                ? t`the pack: ${claim.short}`
                : t`the whole ladder`}
            : {lower(claim.cause_name)}
          </h3>
          <blockquote>“{claim.reasoning}”</blockquote>
          {claim.cited.length > 0 && (
            <p>
              <Trans>Evidence:</Trans>{" "}
              {claim.cited.map((one, place) => (
                <span key={one.id}>
                  {place > 0 && ", "}
                  {cellName(names, one.cell)}: <Num>{asTyped(one.text, one.unit)}</Num>
                </span>
              ))}
            </p>
          )}
          <p>
            {VERDICTS[claim.verdict]}. {claim.says}
          </p>
          {claim.answer?.text && (
            <p>
              <Trans>The teacher: {claim.answer.text}</Trans>
            </p>
          )}
        </Together>
      ))}
    </section>
  );
}
