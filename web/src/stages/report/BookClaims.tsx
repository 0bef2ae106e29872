import type { Schemas } from "../../api/client";
import { asTyped } from "../../format";
import { bathName, useNames } from "../../lab/useNames";
import { Num } from "../../ui/layout";
import { anchorOf } from "../../lab/Kept";
import { Together } from "./Paper";

type Claim = Schemas["ClaimOut"];
const VERDICTS = {
  fits: "The numbers bear it out.",
  contradicted: "The numbers speak against it.",
  open: "The numbers leave it open.",
};

/** Claims with their evidence, what the numbers say to them, and the teacher's answer. */
export function BookClaims({ claims, named }: { claims: Claim[]; named: boolean }) {
  const names = useNames();
  if (claims.length === 0) return null;
  return (
    <section aria-label="Claims">
      <h2>Claims</h2>
      {claims.map((claim) => (
        <Together key={claim.id} id={anchorOf(claim)}>
          <h3>
            {named && `${claim.group}, `}
            {claim.cell
              ? `${claim.short} in ${bathName(names, claim.cell)}`
              : claim.pack
                ? `the pack: ${claim.short}`
                : "the whole ladder"}
            : {claim.cause_name.toLowerCase()}
          </h3>
          <blockquote>“{claim.reasoning}”</blockquote>
          {claim.cited.length > 0 && (
            <p>
              Evidence:{" "}
              {claim.cited.map((one, place) => (
                <span key={one.id}>
                  {place > 0 && ", "}
                  {one.short}: <Num>{asTyped(one.text, one.unit)}</Num>
                </span>
              ))}
            </p>
          )}
          <p>
            {VERDICTS[claim.verdict]} {claim.says}
          </p>
          {claim.answer?.text && <p>The teacher: {claim.answer.text}</p>}
        </Together>
      ))}
    </section>
  );
}
