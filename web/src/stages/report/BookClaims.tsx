import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { lower } from "../../format";
import { Cited } from "../../lab/Cited";
import { bathName, useNames } from "../../lab/useNames";
import { VERDICTS } from "../../lab/verdicts";
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
              <Trans>Evidence:</Trans> <Cited cited={claim.cited} />
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
