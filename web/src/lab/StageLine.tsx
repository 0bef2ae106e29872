import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { colour, phone } from "../ui/theme";

export const STAGES = ["Plan", "Predict", "Measure", "Compare", "Explain", "Power"] as const;
export type Stage = (typeof STAGES)[number];

/** What the stages are called. */
export const STAGE_NAMES: Record<Stage, string> = {
  Plan: t`Plan`,
  Predict: t`Predict`,
  Measure: t`Measure`,
  Compare: t`Compare`,
  Explain: t`Explain`,
  Power: t`Power`,
};

const PATHS: Record<Stage, string> = {
  Plan: "plan",
  Predict: "predict",
  Measure: "board",
  Compare: "compare",
  Explain: "explain",
  Power: "power",
};
const REACHED: Record<Schemas["LabOut"]["stage"], Stage> = { plan: "Plan", measure: "Measure", compare: "Compare" };
const MINOR = 4;

/** The stage a lab has reached, from the server's word for it. */
export const reached = (stage: Schemas["LabOut"]["stage"]): Stage => REACHED[stage];

const Nav = styled.nav`
  width: 100%;
  ${phone} {
    display: none;
  }
`;

const Labels = styled.ol`
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  text-align: center;
  font-size: 0.875rem;
  line-height: 1.2;
`;

const Place = styled.li<{ $here: boolean }>`
  font-weight: ${({ $here }) => ($here ? 700 : 400)};
  color: ${({ $here }) => ($here ? colour.ink : colour.soft)};
  a {
    display: inline-block;
    padding: 0.1rem 0.35rem;
    color: inherit;
    text-decoration: none;
  }
  a:hover {
    text-decoration: underline;
  }
`;

const Short = styled.p`
  display: none;
  font-size: 0.9rem;
  ${phone} {
    display: block;
  }
`;

/** The stem itself: thick as far as the lab is, with short graduations between stages. */
export function Stem({ stage, height = 20 }: { stage: Stage; height?: number }) {
  const at = (index: number) => 50 + index * 100;
  const done = STAGES.indexOf(stage);
  const middle = height / 2;
  return (
    <svg width="100%" height={height} viewBox={`0 0 600 ${height}`} preserveAspectRatio="none" aria-hidden>
      <line
        x1={at(0)}
        x2={at(5)}
        y1={middle}
        y2={middle}
        stroke={colour.ink}
        strokeWidth={1.5}
        vectorEffect="non-scaling-stroke"
      />
      {done > 0 && (
        <line
          x1={at(0)}
          x2={at(done)}
          y1={middle}
          y2={middle}
          stroke={colour.ink}
          strokeWidth={5}
          vectorEffect="non-scaling-stroke"
        />
      )}
      {STAGES.map((name, index) => (
        <g key={name} stroke={colour.ink} vectorEffect="non-scaling-stroke">
          <line
            x1={at(index)}
            x2={at(index)}
            y1={0}
            y2={height}
            strokeWidth={index <= done ? 3 : 1.5}
            vectorEffect="non-scaling-stroke"
          />
          {index < STAGES.length - 1 &&
            Array.from({ length: MINOR - 1 }, (_, minor) => (
              <line
                key={minor}
                x1={at(index + (minor + 1) / MINOR)}
                x2={at(index + (minor + 1) / MINOR)}
                y1={middle}
                y2={middle + 5}
                strokeWidth={1}
                vectorEffect="non-scaling-stroke"
              />
            ))}
        </g>
      ))}
    </svg>
  );
}

/** `here` is null on pages that hang off the lab itself. */
type Props = { lab: string; stage: Stage; here: Stage | null };

/** The lab's stages along the top. */
export function StageLine({ lab, stage, here }: Props) {
  return (
    <>
      <Nav aria-label={t`Stages of this lab`}>
        <Stem stage={stage} />
        <Labels>
          {STAGES.map((name) => (
            <Place key={name} $here={name === here}>
              <Link to={`/labs/${lab}/${PATHS[name]}`} aria-current={name === here ? "page" : undefined}>
                {STAGE_NAMES[name]}
              </Link>
            </Place>
          ))}
        </Labels>
      </Nav>
      <Short>
        {here && (
          <>
            <Trans>
              <strong>{STAGE_NAMES[here]}</strong>, stage {STAGES.indexOf(here) + 1} of {STAGES.length}
            </Trans>
          </>
        )}
        {STAGES.filter((name) => name !== here).map((name, place) => (
          <span key={name}>
            {(here || place > 0) && " · "}
            <Link to={`/labs/${lab}/${PATHS[name]}`}>{STAGE_NAMES[name]}</Link>
          </span>
        ))}
      </Short>
    </>
  );
}
