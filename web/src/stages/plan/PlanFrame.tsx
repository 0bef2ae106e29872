import type { ReactNode } from "react";
import { NavLink } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Frame } from "../../ui/Frame";
import { StageLine, reached } from "../../lab/StageLine";
import { TeacherWho } from "../../lab/TeacherWho";
import { day } from "../../format";
import { colour, print } from "../../ui/theme";

const SHEETS = [
  ["plan", "Plan"],
  ["kit", "Kit and mixing"],
  ["safety", "Safety"],
  ["cards", "Bench cards"],
  ["print", "Print all"],
] as const;
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
  const name = SHEETS.find(([key]) => key === here)?.[1] ?? "Plan";
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
            state === "draft" ? "draft, not open to groups" : state === "open" ? `open, code ${join_code}` : "closed"
          }
        />
      }
      margin={margin}
    >
      <div>
        <Nav aria-label="Sheets of this plan">
          <ul>
            {SHEETS.map(([key, label]) => (
              <li key={key}>
                <NavLink to={`/labs/${id}/${key}`}>{label}</NavLink>
              </li>
            ))}
          </ul>
        </Nav>
        {children}
      </div>
    </Frame>
  );
}
