import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useLabs } from "../../api/labs";
import { useWho } from "../../api/who";
import { useArchiveLab, useGlance } from "../../api/years";
import { SmallLadder } from "../../charts/SmallLadder";
import { Frame } from "../../ui/Frame";
import { STAGES, STAGE_NAMES, Stem, reached } from "../../lab/StageLine";
import { TeacherWho } from "../../lab/TeacherWho";
import { useNames } from "../../lab/useNames";
import { ProblemNote } from "../../ui/ProblemNote";
import { Waiting } from "../../ui/Waiting";
import { day } from "../../format";
import { Button, ButtonLink, MainLink, TextButton } from "../../ui/Button";
import { Tick } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Column, Row, Small, Soft, Spread } from "../../ui/layout";
import { Select } from "../../ui/Select";
import { colour, phone } from "../../ui/theme";
import { DeleteLab, DeletedLabs } from "./DeleteLab";
import { Tags } from "./Tags";
import { ORDERS, type Order, matches, sorted } from "./finding";

const FIRST = 15;

const Finding = styled(Row)`
  align-items: flex-end;
`;

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

/** How far a lab is; of a finished one what it found, drawn small. */
function Found({ lab }: { lab: Lab }) {
  const stage = reached(lab.stage);
  const glance = useGlance(lab.id, lab.state === "closed" && lab.reading_count > 0).data;
  if (glance && glance.rungs.length > 1) return <SmallLadder glance={glance} />;
  return (
    <StemBox>
      <Stem stage={stage} height={16} />
      <Small>
        <Trans>
          {STAGE_NAMES[stage]}, stage {STAGES.indexOf(stage) + 1} of {STAGES.length}
        </Trans>
      </Small>
    </StemBox>
  );
}

/** What a lab waits for, beside what it says of itself. */
const waiting = (lab: Lab) =>
  [
    lab.waits,
    lab.notebooks > 0 && t`${plural(lab.notebooks, { one: "# notebook", other: "# notebooks" })} handed in`,
    lab.questions > 0 && t`${plural(lab.questions, { one: "# question", other: "# questions" })} to look at`,
  ]
    .filter(Boolean)
    .join(" · ");

type LineProps = { lab: Lab; chosen: boolean | null; choose: (on: boolean) => void; find: (tag: string) => void };

function LabLine({ lab, chosen, choose, find }: LineProps) {
  const archive = useArchiveLab();
  return (
    <Line>
      <div>
        {chosen === null ? (
          <Link to={`/labs/${lab.id}/${lab.leads}`}>{lab.title}</Link>
        ) : (
          <Tick isSelected={chosen} onChange={choose}>
            {lab.title}
          </Tick>
        )}
        <br />
        <Small>
          {day(lab.date)} · {plural(lab.group_count, { one: "# group", other: "# groups" })}
          {lab.way !== "own" && t` · ${lab.owner}’s, to ${lab.way === "work" ? t`work in` : t`look at`}`}
          {lab.simulated && lab.reading_count > 0 && t` · simulated readings`}
        </Small>
        <Tags lab={lab} find={find} />
      </div>
      <Found lab={lab} />
      <div>
        <Small>{waiting(lab)}</Small>
        {lab.way === "own" && (
          <Row>
            {lab.state !== "open" && (
              <TextButton
                onPress={() => archive.mutate({ id: lab.id, away: !lab.away })}
                aria-label={`${lab.away ? t`Take back` : t`Put away`} ${lab.title}`}
              >
                {lab.away ? t`Take back` : t`Put away`}
              </TextButton>
            )}
            <DeleteLab id={lab.id} title={lab.title} />
          </Row>
        )}
        <ProblemNote problem={archive.error} />
      </div>
    </Line>
  );
}

/** The teacher's labs, one line each: found by words or tags, drawn as what they found, and laid over each other. */
export function LabsPage() {
  const labs = useLabs();
  const who = useWho();
  const names = useNames();
  const [words, setWords] = useState("");
  const [order, setOrder] = useState<Order>("newest");
  const [away, setAway] = useState(false);
  const [all, setAll] = useState(false);
  const [chosen, setChosen] = useState<string[] | null>(null);
  if (!labs.data) return <Waiting title={t`Labs`} error={labs.error} />;
  const there = labs.data.filter((lab) => lab.away === away);
  const found = sorted(
    there.filter((lab) => matches(lab, words, names) && (chosen === null || lab.state === "closed")),
    order,
  );
  const shown = all || words ? found : found.slice(0, FIRST);
  const putAway = labs.data.filter((lab) => lab.away).length;
  const query = (chosen ?? []).map((id) => `lab=${id}`).join("&");
  return (
    <Frame
      title={t`Labs`}
      who={
        <TeacherWho
          name={who.data?.teacher}
          links={[
            { to: "/practise", name: t`Practise` },
            { to: "/school", name: t`School` },
            { to: "/account", name: t`Account` },
          ]}
        />
      }
    >
      <Column>
        <Spread>
          <h1>{away ? t`Labs put away` : t`Your labs`}</h1>
          <Row>
            <ButtonLink to="/materials">
              <Trans>Cupboard</Trans>
            </ButtonLink>
            <ButtonLink to="/labs/import">
              <Trans>Bring in a table</Trans>
            </ButtonLink>
            <MainLink to="/labs/new">
              <Trans>Plan a lab</Trans>
            </MainLink>
          </Row>
        </Spread>
        {labs.data.length > 2 && (
          <Finding>
            <TextField label={t`Find a title, tag, plate, liquid`} value={words} onChange={setWords} type="search" />
            <Select label={t`Order`} options={ORDERS} value={order} onChange={(key) => setOrder(key as Order)} />
            {chosen === null ? (
              <Button onPress={() => setChosen([])}>
                <Trans>Lay labs over each other</Trans>
              </Button>
            ) : (
              <>
                {chosen.length > 1 ? (
                  <MainLink to={`/years?${query}`}>
                    <Trans>Lay {chosen.length} over each other</Trans>
                  </MainLink>
                ) : (
                  <Soft>
                    <Trans>Choose two finished labs or more.</Trans>
                  </Soft>
                )}
                <TextButton onPress={() => setChosen(null)}>
                  <Trans>Leave it</Trans>
                </TextButton>
              </>
            )}
          </Finding>
        )}
        {labs.data.length === 0 ? (
          <Soft>
            <Trans>
              No labs yet. Plan one for your next class, or bring in last week’s numbers as a table and see the result
              at once.
            </Trans>
          </Soft>
        ) : (
          <Lines>
            {shown.map((lab) => (
              <LabLine
                key={lab.id}
                lab={lab}
                chosen={chosen && chosen.includes(lab.id)}
                choose={(on) =>
                  setChosen((now) => (on ? [...(now ?? []), lab.id] : (now ?? []).filter((id) => id !== lab.id)))
                }
                find={setWords}
              />
            ))}
          </Lines>
        )}
        {labs.data.length > 0 && found.length === 0 && (
          <Soft role="status">
            <Trans>No lab has all of these words.</Trans>
          </Soft>
        )}
        {shown.length < found.length && (
          <Row>
            <Button onPress={() => setAll(true)}>
              <Trans>Show all {found.length}</Trans>
            </Button>
          </Row>
        )}
        {(putAway > 0 || away) && (
          <Row>
            <TextButton onPress={() => setAway(!away)}>
              {away ? t`Back to your labs` : t`${plural(putAway, { one: "# lab", other: "# labs" })} put away`}
            </TextButton>
          </Row>
        )}
        <DeletedLabs />
      </Column>
    </Frame>
  );
}
