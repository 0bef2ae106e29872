import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useForeseen } from "../../api/labs";
import { TextButton } from "../../ui/Button";
import { Num, Soft } from "../../ui/layout";
import { Bullets } from "../../ui/Notes";
import { Overtaken } from "../../ui/Overtaken";
import { ProblemNote } from "../../ui/ProblemNote";
import { colour } from "../../ui/theme";
import type { usePlanEdits } from "./usePlanEdits";

const Lines = styled.ol`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 21rem), 1fr));
  gap: 0.5rem 1.6rem;
  padding: 0;
  list-style: none;
  li {
    align-content: start;
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 0.15rem 0.8rem;
  }
  small {
    grid-column: 1 / -1;
    color: ${colour.soft};
  }
  svg {
    display: block;
    grid-column: 1 / -1;
    background: ${colour.bench};
  }
`;

type Edits = ReturnType<typeof usePlanEdits>;
type Change = Edits["change"];

/** What the class will be able to say at the end of this plan, in how many of a hundred classes, before it begins; `edits`:
 * how a draft mends what is weak in it, and what came of the last press here. */
export function Foreseen({ lab, edits }: { lab: string; edits: Edits | null }) {
  const { data: found, isFetching } = useForeseen(lab);
  const [pressed, setPressed] = useState(false);
  const change: Change | null =
    edits &&
    ((edit) => {
      if (edits.pending) return; // pressed twice is one deed
      setPressed(true);
      edits.change(edit);
    });
  if (found ? found.lines.length === 0 : !isFetching) return null;
  return (
    <section>
      <h2>
        <Trans>What you will be able to say</Trans>
      </h2>
      <Overtaken by={isFetching}>{found && <Said lab={lab} found={found} change={change} />}</Overtaken>
      {pressed && edits && (edits.problem ? <ProblemNote problem={edits.problem} /> : <Bullets items={edits.said} />)}
    </section>
  );
}

function Said({ lab, found, change }: { lab: string; found: Schemas["ForeseenOut"]; change: Change | null }) {
  const { shorter } = found;
  return (
    <>
      <Soft>
        <Trans>
          Of 100 classes with this plan, as many as stand here; with the model’s own doubt, groups of different pace and
          the usual slips.
        </Trans>
      </Soft>
      <Lines>
        {found.lines.map(({ what, share, remark }) => (
          <li key={`${what} ${remark}`}>
            <span>{what}</span>
            <span>
              <Trans>
                <Num>{Math.min(99, Math.round(share))}</Num> of 100
              </Trans>
            </span>
            <svg width="100%" height="8" aria-hidden>
              <rect width={`${share}%`} height="8" fill={colour.account} />
            </svg>
            {remark && <small>{remark}</small>}
          </li>
        ))}
      </Lines>
      <p>
        {found.pace}{" "}
        {change && shorter && (
          <TextButton onPress={() => change({ kind: "shorter", places: shorter })}>
            <Trans>A cell less each</Trans>
          </TextButton>
        )}
      </p>
      {found.decided && (
        <p>
          {found.decided}{" "}
          {change && (
            <TextButton onPress={() => change({ kind: "decide" })}>
              <Trans>Plan to decide</Trans>
            </TextButton>
          )}
        </p>
      )}
      {found.trade && (
        <p>
          {found.trade}{" "}
          {change && (
            <TextButton onPress={() => change({ kind: "apart" })}>
              <Trans>Plan without it</Trans>
            </TextButton>
          )}
        </p>
      )}
      {found.loads && (
        <p>
          {found.loads} {change && <Link to={`/labs/${lab}/setup`}>{t`To the set-up`}</Link>}
        </p>
      )}
    </>
  );
}
