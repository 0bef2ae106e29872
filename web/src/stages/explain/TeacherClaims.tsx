import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useAnswerClaim, useSetRubric } from "../../api/queries";
import { count } from "../../format";
import { Button, MainButton, TextButton } from "../../ui/Button";
import { Disclosure, Tick } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Row, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";
import { colour } from "../../ui/theme";
import { ClaimText, earlierOf } from "./ClaimParts";

type Claim = Schemas["ClaimOut"];
type Data = Schemas["ClaimsOut"];

const Item = styled.li`
  display: grid;
  gap: 0.4rem;
  padding: 0.8rem 0;
  border-top: 1px solid ${colour.hairline};
`;

const Short = styled.div`
  width: 9rem;
`;

/** Words, points and whether the claim goes on the projector. */
function Answer({ claim, rubric }: { claim: Claim; rubric: Schemas["RubricRow"][] }) {
  const answer = useAnswerClaim();
  const [text, setText] = useState(claim.answer?.text ?? "");
  const [marks, setMarks] = useState<Record<string, string>>(
    Object.fromEntries(Object.entries(claim.answer?.marks ?? {}).map(([name, points]) => [name, String(points)])),
  );
  const send = (shown: boolean) =>
    answer.mutate({
      id: claim.id,
      body: {
        text,
        shown,
        marks: Object.fromEntries(
          Object.entries(marks)
            .filter(([, points]) => points.trim() !== "" && !Number.isNaN(Number(points.replace(",", "."))))
            .map(([name, points]) => [name, Number(points.replace(",", "."))]),
        ),
      },
    });
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        send(claim.answer?.shown ?? false);
      }}
    >
      <TextField label="Your answer" value={text} onChange={setText} maxLength={600} rows={2} />
      <Row>
        {rubric.map((row) => (
          <Short key={row.name}>
            <TextField
              label={`${row.name}, of ${row.most}`}
              value={marks[row.name] ?? ""}
              onChange={(points) => setMarks((now) => ({ ...now, [row.name]: points }))}
              inputMode="decimal"
              maxLength={4}
            />
          </Short>
        ))}
      </Row>
      <Row>
        <MainButton type="submit">Send to the group</MainButton>
        <TextButton onPress={() => setText(claim.heard[0]?.question ?? claim.question)}>
          Take the question back to them
        </TextButton>
        {claim.may_show ? (
          <Tick isSelected={claim.answer?.shown ?? false} onChange={send}>
            on the projector
          </Tick>
        ) : (
          <Soft>The group has not agreed to have it shown.</Soft>
        )}
        {answer.isSuccess && <Soft role="status">Kept.</Soft>}
      </Row>
      <ProblemNote problem={answer.error} />
    </form>
  );
}

/** The teacher's own rows of marks. */
function Rubric({ lab, rows }: { lab: string; rows: Schemas["RubricRow"][] }) {
  const set = useSetRubric();
  const [text, setText] = useState(rows.map((row) => `${row.name}: ${row.most}`).join("\n"));
  const read = () =>
    text
      .split("\n")
      .filter((line) => line.trim())
      .map((line) => {
        const [name = "", most = ""] = line.split(":");
        return { name: name.trim(), most: Number(most.trim()) || 0 };
      });
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        set.mutate({ id: lab, rows: read() });
      }}
    >
      <TextField
        label="Rows, one a line, with the most points: “Evidence: 3”"
        value={text}
        onChange={setText}
        rows={4}
        maxLength={400}
      />
      <Row>
        <Button type="submit">Keep the rubric</Button>
        {set.isSuccess && <Soft role="status">Kept.</Soft>}
      </Row>
      <ProblemNote problem={set.error} />
    </form>
  );
}

/** Everything the groups claim, with what the numbers say; to answer, mark and show. */
export function TeacherClaims({ lab, data }: { lab: string; data: Data }) {
  const [group, setGroup] = useState("");
  const [verdict, setVerdict] = useState("");
  const groups = [...new Set(data.claims.map((claim) => claim.group))];
  const shown = data.claims.filter(
    (claim) => claim.latest && (!group || claim.group === group) && (!verdict || claim.verdict === verdict),
  );
  return (
    <>
      <h2>What groups say</h2>
      {data.claims.length === 0 ? (
        <Soft>
          {data.released.includes("claims")
            ? "No claim is in yet."
            : "Tick “a form for their own claims” in the margin; then groups find it on their bench."}
        </Soft>
      ) : (
        <Row>
          <Select
            label="Group"
            options={[{ key: "", name: "all" }, ...groups.map((name) => ({ key: name, name }))]}
            value={group}
            onChange={setGroup}
          />
          <Select
            label="Numbers"
            options={[
              { key: "", name: "all" },
              { key: "fits", name: "bear it out" },
              { key: "contradicted", name: "speak against it" },
              { key: "open", name: "leave it open" },
            ]}
            value={verdict}
            onChange={setVerdict}
          />
        </Row>
      )}
      <ol>
        {shown.map((claim) => {
          const earlier = earlierOf(claim, data.claims);
          return (
            <Item key={claim.id}>
              <h3>{claim.group}</h3>
              <ClaimText claim={claim} asks={false} />
              {earlier.length > 0 && (
                <Disclosure title={count(earlier.length, "earlier version")}>
                  {earlier.map((one) => (
                    <ClaimText key={one.id} claim={one} asks={false} />
                  ))}
                </Disclosure>
              )}
              <Answer claim={claim} rubric={data.rubric} />
            </Item>
          );
        })}
      </ol>
      <Disclosure title="Rubric" detail={data.rubric.map((row) => row.name.toLowerCase()).join(", ")}>
        <Rubric lab={lab} rows={data.rubric} />
      </Disclosure>
    </>
  );
}
