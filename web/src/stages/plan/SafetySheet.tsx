import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { colour, print } from "../../ui/theme";

type Safety = Schemas["SafetyOut"];
type Entry = Schemas["SafetyEntry"];

const First = styled.p`
  padding: 0.6rem 0.8rem;
  border: 1.5px solid ${colour.ink};
  font-weight: 600;
`;

const Rule = styled.li<{ $mark: string }>`
  display: grid;
  grid-template-columns: 1.6rem minmax(0, 1fr);
  padding: 0.6rem 0;
  border-bottom: 1px solid ${colour.hairline};
  break-inside: avoid;
  svg {
    margin-top: 0.25rem;
  }
  h2 {
    font-size: 1rem;
  }
  dl {
    display: grid;
    grid-template-columns: 6.5rem minmax(0, 1fr);
    gap: 0.1rem 0.6rem;
    margin: 0.2rem 0 0;
  }
  dt {
    color: ${colour.soft};
  }
  dd {
    margin: 0;
  }
  ${print} {
    padding: 0.3rem 0;
    font-size: 0.92rem;
    dl {
      grid-template-columns: 5rem minmax(0, 1fr);
    }
  }
`;

const Rules = styled.ul`
  ${print} {
    columns: 2;
    column-gap: 8mm;
  }
`;

const Mark = ({ entry }: { entry: Entry }) => (
  <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden>
    {entry.refused ? (
      <rect x="0" y="6" width="16" height="5" fill={colour.wrong} />
    ) : (
      <path
        d="M8 1l7 13H1z"
        fill={entry.severity === "warning" ? colour.cautionMark : "none"}
        stroke={colour.caution}
        strokeWidth="1.6"
      />
    )}
  </svg>
);

const AGES: Record<string, string> = { "11-13": t`11 to 13`, "14-15": t`14 to 15`, "16-18": t`16 to 18` };

/** What can hurt, what to do, where it goes afterwards, first aid; local rules first. */
export function SafetySheet({ safety }: { safety: Safety }) {
  return (
    <>
      <First>{safety.local_rules}</First>
      <p>{safety.used_liquid}</p>
      <p>
        <Trans>
          For students of {AGES[safety.age] ?? safety.age}. Rules by material, strength, form and age: common practice,
          no published source.
        </Trans>
      </p>
      <Rules>
        {safety.entries.map((entry) => (
          <Rule key={entry.key} $mark={entry.severity}>
            <Mark entry={entry} />
            <div>
              <h2>
                {entry.refused ? t`Not with this class: ` : entry.severity === "warning" ? t`Warning: ` : ""}
                {entry.text}
              </h2>
              <dl>
                <dt>
                  <Trans>Because of</Trans>
                </dt>
                <dd>{entry.because.join(", ")}</dd>
                <dt>
                  <Trans>Do</Trans>
                </dt>
                <dd>{entry.do}</dd>
                {entry.dispose && (
                  <>
                    <dt>
                      <Trans>Afterwards</Trans>
                    </dt>
                    <dd>{entry.dispose}</dd>
                  </>
                )}
                {entry.first_aid && (
                  <>
                    <dt>
                      <Trans>First aid</Trans>
                    </dt>
                    <dd>{entry.first_aid}</dd>
                  </>
                )}
              </dl>
            </div>
          </Rule>
        ))}
      </Rules>
    </>
  );
}
