import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { lower } from "../../format";
import { Soft } from "../../ui/layout";
import { Cited } from "../../lab/Cited";
import { bathName, useNames } from "../../lab/useNames";
import { VERDICTS } from "../../lab/verdicts";

type Claim = Schemas["ClaimOut"];

/** What a claim is about: a cell, a pack, or the whole ladder. */
export function aboutOf(claim: Claim, names: ReturnType<typeof useNames>): string {
  if (claim.cell) return t`${claim.short} in ${bathName(names, claim.cell)}`;
  return claim.pack ? t`The pack: ${claim.short}` : t`The whole ladder`;
}

/** A claim in the group's words, and what chemistry and the class's data say to it. */
export function ClaimText({ claim, asks }: { claim: Claim; asks: boolean }) {
  const names = useNames();
  return (
    <>
      <p>
        {aboutOf(claim, names)}: <strong>{lower(claim.cause_name)}</strong>.
      </p>
      <blockquote>“{claim.reasoning}”</blockquote>
      {claim.cited.length > 0 && (
        <Soft>
          <Trans>Cited:</Trans> <Cited cited={claim.cited} />
        </Soft>
      )}
      {claim.heard.map((one) => (
        <p key={one.name}>
          <Trans>
            It sounds like “{lower(one.name)}”. {one.against} {one.in_data}
          </Trans>
        </p>
      ))}
      {claim.against && (
        <p>
          <Trans>Against it would speak: “{claim.against}”</Trans>
        </p>
      )}
      {claim.verdict === "held" ? (
        <p role="status">
          <Trans>
            This is version {claim.tries} in a short time. The numbers answer in {Math.ceil(claim.held_s)} s: what would
            you see if it were so, and what if not?
          </Trans>
        </p>
      ) : (
        <p>
          <strong>{VERDICTS[claim.verdict]}.</strong> {claim.says}
        </p>
      )}
      {claim.evidence && <p>{claim.evidence}</p>}
      {asks && claim.verdict !== "held" && (
        <p>
          <strong>{claim.heard[0]?.question ?? claim.question}</strong>
        </p>
      )}
    </>
  );
}

/** The versions that a claim revises, newest first. */
export function earlierOf(claim: Claim, all: Claim[]): Claim[] {
  const before = all.find((one) => one.id === claim.revises);
  return before ? [before, ...earlierOf(before, all)] : [];
}
