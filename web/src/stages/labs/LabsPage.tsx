import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useLabs } from "../../api/labs";
import { useWho } from "../../api/who";
import { Frame } from "../../ui/Frame";
import { STAGES, Stem, reached } from "../../lab/StageLine";
import { TeacherWho } from "../../lab/TeacherWho";
import { Waiting } from "../../ui/Waiting";
import { count, day } from "../../format";
import { ButtonLink, MainLink } from "../../ui/Button";
import { Column, Row, Small, Soft, Spread } from "../../ui/layout";
import { colour, phone } from "../../ui/theme";
import { DeleteLab, DeletedLabs } from "./DeleteLab";

const Lines = styled.ul`
  border-top: 1px solid ${colour.hairline};
`;

const Line = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 4fr) minmax(0, 4fr);
  align-items: center;
  gap: 0.3rem 1.5rem;
  padding: 0.8rem 0;
  border-bottom: 1px solid ${colour.hairline};
  a {
    font-weight: 600;
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const StemBox = styled.div`
  font-size: 0.85rem;
  & > span {
    padding-left: 8.3%;
  }
`;

type Lab = Schemas["LabListed"];

function LabLine({ lab }: { lab: Lab }) {
  const stage = reached(lab.stage);
  return (
    <Line>
      <div>
        <Link to={`/labs/${lab.id}/${lab.leads}`}>{lab.title}</Link>
        <br />
        <Small>
          {day(lab.date)} · {count(lab.group_count, "group")}
          {lab.way !== "own" && ` · ${lab.owner}’s, to ${lab.way === "work" ? "work in" : "look at"}`}
          {lab.simulated && lab.reading_count > 0 && " · simulated readings"}
        </Small>
      </div>
      <StemBox>
        <Stem stage={stage} height={16} />
        <Small>
          {stage}, stage {STAGES.indexOf(stage) + 1} of {STAGES.length}
        </Small>
      </StemBox>
      <div>
        <Small>{lab.waits}</Small> {lab.way === "own" && <DeleteLab id={lab.id} title={lab.title} />}
      </div>
    </Line>
  );
}

/** The teacher's labs, one line each, drawn as its stage line with what it waits for. */
export function LabsPage() {
  const labs = useLabs();
  const who = useWho();
  if (!labs.data) return <Waiting title="Labs" error={labs.error} />;
  return (
    <Frame
      title="Labs"
      who={
        <TeacherWho
          name={who.data?.teacher}
          links={[
            { to: "/school", name: "School" },
            { to: "/account", name: "Account" },
          ]}
        />
      }
    >
      <Column>
        <Spread>
          <h1>Your labs</h1>
          <Row>
            <ButtonLink to="/materials">Cupboard</ButtonLink>
            <ButtonLink to="/labs/import">Bring in a table</ButtonLink>
            <MainLink to="/labs/new">Plan a lab</MainLink>
          </Row>
        </Spread>
        {labs.data.length === 0 ? (
          <Soft>
            No labs yet. Plan one for your next class, or bring in last week’s numbers as a CSV table and see the result
            at once.
          </Soft>
        ) : (
          <Lines>
            {labs.data.map((lab) => (
              <LabLine key={lab.id} lab={lab} />
            ))}
          </Lines>
        )}
        <DeletedLabs />
      </Column>
    </Frame>
  );
}
