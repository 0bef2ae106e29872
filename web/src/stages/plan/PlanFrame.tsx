import { t } from "@lingui/core/macro";
import type { ReactNode } from "react";
import { NavLink } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Frame } from "../../ui/Frame";
import { StageLine, reached } from "../../lab/StageLine";
import { TeacherWho } from "../../lab/TeacherWho";
import { day } from "../../format";
import { colour, print } from "../../ui/theme";
import { language } from "../../language";

const SHEETS = [
  ["plan", t`Plan`],
  ["kit", t`Kit and mixing`],
  ["safety", t`Safety`],
  ["cards", t`Bench cards`],
  ["print", t`Print all`],
] as const;
/** What the class holds in its hands or goes with it: these come in the lab's language. */
const OF_THE_CLASS = new Set<string>(["cards", "print"]);
export type SheetName = (typeof SHEETS)[number][0];

const Nav = styled.nav`
  padding: 0.5rem 1.25rem 0;
  ul {
    display: flex;
    flex-wrap: wrap;
    gap: 0.2rem 1.3rem;
    border-bottom: 1px solid ${colour.hairline};
  }
  a {
    display: inline-block;
    min-width: 44px;
    padding: 0.65rem 0;
    border-bottom: 3px solid transparent;
    color: ${colour.soft};
    text-decoration: none;
  }
  a:hover {
    text-decoration: underline;
  }
  a[aria-current] {
    border-bottom-color: ${colour.ink};
    color: ${colour.ink};
    font-weight: 600;
  }
  ${print} {
    display: none;
  }
`;

type Props = { lab: Schemas["LabOut"]; here: SheetName; margin?: ReactNode; children: ReactNode };

/** The frame of a plan and its sheets. */
export function PlanFrame({ lab, here, margin, children }: Props) {
  const { id, title, date, state, stage, join_code } = lab;
  const name = SHEETS.find(([key]) => key === here)?.[1] ?? t`Plan`;
  return (
    <Frame
      title={`${name}, ${title}`}
      lab={title}
      labTo={`/labs/${id}/report`}
      about={day(date)}
      line={<StageLine lab={id} stage={reached(stage)} here="Plan" />}
      who={
        <TeacherWho
          about={
            state === "draft"
              ? t`draft, not open to groups`
              : state === "open"
                ? t`open, code ${join_code ?? ""}`
                : t`closed`
          }
        />
      }
      margin={margin}
    >
      <div>
        <Nav aria-label={t`Sheets of this plan`}>
          <ul>
            {SHEETS.map(([key, label]) => (
              <li key={key}>
                <NavLink
                  to={`/labs/${id}/${key}`}
                  reloadDocument={OF_THE_CLASS.has(key) && lab.settings.language !== language}
                >
                  {label}
                </NavLink>
              </li>
            ))}
          </ul>
        </Nav>
        {children}
      </div>
    </Frame>
  );
}
