import type { Schemas } from "../../api/client";
import { asTyped } from "../../format";
import { Num, Soft } from "../../ui/layout";
import { bathName, useNames } from "../../lab/useNames";

type Claim = Schemas["ClaimOut"];
const VERDICTS = {
  fits: "The numbers bear it out",
  contradicted: "The numbers speak against it",
  open: "The numbers leave it open",
};

/** What a claim is about: a cell, a pack, or the whole ladder. */
export function aboutOf(claim: Claim, names: ReturnType<typeof useNames>): string {
  if (claim.cell) return `${claim.short} in ${bathName(names, claim.cell)}`;
  return claim.pack ? `The pack: ${claim.short}` : "The whole ladder";
}

/** A claim in the group's words, and what chemistry and the class's data say to it. */
export function ClaimText({ claim, asks }: { claim: Claim; asks: boolean }) {
  const names = useNames();
  return (
    <>
      <p>
        {aboutOf(claim, names)}: <strong>{claim.cause_name.toLowerCase()}</strong>.
      </p>
      <blockquote>“{claim.reasoning}”</blockquote>
      {claim.cited.length > 0 && (
        <Soft>
          Cited:{" "}
          {claim.cited.map((one, index) => (
            <span key={one.id}>
              {index > 0 && ", "}
              <Num>{asTyped(one.text, one.unit)}</Num> ({one.short})
            </span>
          ))}
        </Soft>
      )}
      {claim.heard.map((one) => (
        <p key={one.name}>
          It sounds like “{one.name.toLowerCase()}”. {one.against} {one.in_data}
        </p>
      ))}
      <p>
        <strong>{VERDICTS[claim.verdict]}.</strong> {claim.says}
      </p>
      {claim.evidence && <p>{claim.evidence}</p>}
      {asks && (
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
