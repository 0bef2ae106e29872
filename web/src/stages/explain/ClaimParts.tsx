import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { useState } from "react";
import { useRecordMeant } from "../../api/claims";
import { newId } from "../../api/newId";
import { lower } from "../../format";
import { Button } from "../../ui/Button";
import { Row, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { Cited } from "../../lab/Cited";
import { bathName, useNames } from "../../lab/useNames";
import { VERDICTS } from "../../lab/verdicts";

type Claim = Schemas["ClaimOut"];

/** What a claim is about: a cell, a pack, or the whole ladder. */
export function aboutOf(claim: Claim, names: ReturnType<typeof useNames>): string {
  if (claim.cell) return t`${claim.short} in ${bathName(names, claim.cell)}`;
  return claim.pack ? t`The pack: ${claim.short}` : t`The whole ladder`;
}

/** What a group said when it was asked back, for its teacher. */
const SAID: Record<string, string> = {
  true: t` (asked back: they mean it)`,
  false: t` (asked back: they do not)`,
  null: t` (asked back, not answered yet)`,
};

/** What is heard in a claim, as a question to its group; the answer stays, and it counts above the ear. */
function AskedBack({ claim, heard }: { claim: string; heard: Claim["heard"][number] }) {
  const record = useRecordMeant(claim);
  const [id] = useState(newId);
  const say = (yes: boolean) => record.mutate({ id, belief: heard.key, yes });
  return (
    <section aria-label={t`A question back`}>
      <p>
        <Trans>Do you mean “{lower(heard.name)}”?</Trans>
      </p>
      <Row>
        <Button onPress={() => say(true)} isDisabled={record.isPending}>
          <Trans>Yes</Trans>
        </Button>
        <Button onPress={() => say(false)} isDisabled={record.isPending}>
          <Trans>No, we do not</Trans>
        </Button>
      </Row>
      <ProblemNote problem={record.error} />
    </section>
  );
}

/** A claim in the group's words, and what chemistry and the class's data say to it. `group`: its own page. */
export function ClaimText({ claim, asks, group = false }: { claim: Claim; asks: boolean; group?: boolean }) {
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
      {claim.heard.map((one) =>
        group && one.meant === null ? (
          <AskedBack key={one.key} claim={claim.id} heard={one} />
        ) : (
          <p key={one.key}>
            {group ? (
              <Trans>
                You mean “{lower(one.name)}”. {one.against} {one.in_data}
              </Trans>
            ) : (
              <Trans>
                It sounds like “{lower(one.name)}”{SAID[String(one.meant)]}. {one.against} {one.in_data}
              </Trans>
            )}
          </p>
        ),
      )}
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
          <strong>{claim.heard[0]?.question || claim.question}</strong>
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
