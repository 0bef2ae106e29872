import { useState } from "react";
import { Navigate, Link } from "react-router";
import styled from "styled-components";
import { Problem, type Schemas } from "../../api/client";
import { useBench } from "../../api/bench";
import { useBenchClaims, useRecordClaim } from "../../api/claims";
import { Frame } from "../../ui/Frame";
import { Waiting } from "../../ui/Waiting";
import { asTyped } from "../../format";
import { Button, ButtonLink, MainButton, TextButton } from "../../ui/Button";
import { Tick } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Column, Columns, Num, Row, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";
import { colour } from "../../ui/theme";
import { useKept } from "../../ui/useKept";
import { newId } from "../../lab/useOutbox";
import { bathName, useNames } from "../../lab/useNames";
import { ClaimText } from "./ClaimParts";

const Versions = styled.ol`
  li {
    display: grid;
    gap: 0.4rem;
    padding: 0.8rem 0;
    border-top: 1px solid ${colour.hairline};
  }
`;

type Bench = Schemas["BenchOut"];
/** Stands for all cells in the choice of a cell. */
const LADDER = "ladder";

/** Cause, readings, reasoning: what the group thinks became of the volts. */
function ClaimForm({
  bench,
  data,
  revises,
  done,
}: {
  bench: Bench;
  data: Schemas["ClaimsOut"];
  revises: Schemas["ClaimOut"] | null;
  done: () => void;
}) {
  const names = useNames();
  const record = useRecordClaim();
  const slot = `${bench.group_id}:claim:${revises?.id ?? "new"}`;
  const ticked = `choice:${slot}`;
  const [cellId, setCellId] = useKept(`${ticked}:cell`, revises ? (revises.pack ?? "") : (bench.cells[0]?.id ?? ""));
  const [cause, setCause] = useKept(`${ticked}:cause`, revises?.cause ?? "");
  const [reasoning, setReasoning] = useKept(`${slot}:reasoning`, revises?.reasoning ?? "");
  const [cited, setCited] = useKept<string[]>(`${ticked}:cited`, revises?.cited.map((one) => one.id) ?? []);
  const [mayShow, setMayShow] = useKept(`${ticked}:show`, revises?.may_show ?? false);
  const measured = bench.cells.filter((cell) => cell.readings.length > 0);
  const whole = cellId === LADDER;
  const pack = data.packs.find((one) => one.id === cellId);
  const about = measured.find((one) => one.id === cellId) ?? measured[0];
  const causes = data.causes.filter((one) => one.of_pack === (pack !== undefined));
  const choice = causes.find((one) => one.key === cause);
  if (!about) return <Soft>Measure a cell first; then you can say what became of its volts.</Soft>;
  const counts = bench.cells.flatMap((cell) =>
    cell.readings
      .filter((reading) => reading.corrected_by === null && !reading.aside)
      .map((reading) => ({ ...reading, cell })),
  );
  const near = whole ? counts : counts.filter((count) => count.cell.short === about.short);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        const { negative, electrolyte, positive, condition } = about;
        record.mutate(
          {
            id: newId(),
            cell: whole || pack ? null : { negative, electrolyte, positive, condition },
            pack: pack?.id ?? null,
            cause,
            reasoning,
            cited,
            may_show: mayShow,
            revises: revises?.id ?? null,
          },
          {
            onSuccess: () => {
              setReasoning("");
              setCited([]);
              setCause("");
              done();
            },
          },
        );
      }}
    >
      <Column>
        <Select
          label="About what?"
          options={[
            ...measured.map((one) => ({ key: one.id, name: `${one.short} in ${bathName(names, one)}` })),
            { key: LADDER, name: "the whole ladder" },
            ...data.packs.map((one) => ({ key: one.id, name: `your pack: ${one.name}` })),
          ]}
          value={whole ? LADDER : (pack?.id ?? about.id)}
          onChange={(key) => {
            setCellId(key);
            setCause("");
          }}
        />
        <Select
          label={pack ? "What is it about this pack?" : "What became of the volts?"}
          options={causes.map(({ key, name }) => ({ key, name }))}
          value={choice ? cause : ""}
          onChange={setCause}
        />
        {choice && <Soft>If so: {choice.implies}</Soft>}
        {pack && (
          <Soft>What you measured of it, alone, in the row, with the load and over time, is weighed as it stands.</Soft>
        )}
        <div role="group" aria-label="Your readings that show it" hidden={pack !== undefined}>
          <p>Tap the readings that show it:</p>
          <Row>
            {near.map((one) => (
              <Button
                key={one.id}
                aria-pressed={cited.includes(one.id)}
                onPress={() =>
                  setCited((now) => (now.includes(one.id) ? now.filter((id) => id !== one.id) : [...now, one.id]))
                }
              >
                {cited.includes(one.id) ? "✓ " : ""}
                {whole && `${one.cell.short} `}
                <Num>{asTyped(one.text, one.unit)}</Num>
              </Button>
            ))}
          </Row>
        </div>
        <TextField
          label={pack ? "Which of your numbers show it, and why?" : "Why do these readings show it?"}
          value={reasoning}
          onChange={setReasoning}
          rows={4}
          maxLength={1500}
        />
        <Tick isSelected={mayShow} onChange={setMayShow}>
          Our teacher may show this to the class
        </Tick>
        <ProblemNote problem={record.error} />
        <Row>
          <MainButton type="submit" isDisabled={!choice || !reasoning.trim()}>
            {revises ? "Keep the new version" : "Claim it"}
          </MainButton>
          {revises && <TextButton onPress={done}>Leave it as it is</TextButton>}
        </Row>
      </Column>
    </form>
  );
}

/** A group's claims: all versions, what the numbers say to each, and what the teacher answers. */
export function BenchClaims() {
  const bench = useBench();
  const claims = useBenchClaims();
  const [revising, setRevising] = useState<string | null>(null);
  if (!bench.data || !claims.data) {
    const error = bench.error ?? claims.error;
    if (error instanceof Problem && error.status === 401) return <Navigate to="/join" replace />;
    return <Waiting title="Claims" error={error} />;
  }
  const { data } = claims;
  const open = data.released.includes("claims");
  const target = data.claims.find((claim) => claim.id === revising) ?? null;
  return (
    <Frame
      title={`Claims, ${bench.data.group}`}
      lab={`${bench.data.group} · where did the volts go?`}
      about={bench.data.lab}
      who={<Link to="/bench">To the bench</Link>}
    >
      {open ? (
        <Columns $left="minmax(0, 1fr)">
          <div>
            <Column>
              <h1>{target ? "A new version" : "Your claim"}</h1>
            </Column>
            <ClaimForm
              key={revising ?? "new"}
              bench={bench.data}
              data={data}
              revises={target}
              done={() => setRevising(null)}
            />
          </div>
          <Column>
            <h2>What you have claimed</h2>
            {data.claims.length === 0 && <Soft>Nothing yet. A claim can be revised as often as you like.</Soft>}
            <Versions>
              {[...data.claims].reverse().map((claim) => (
                <li key={claim.id}>
                  <ClaimText claim={claim} asks={claim.latest} />
                  {claim.answer && (claim.answer.text || Object.keys(claim.answer.marks).length > 0) && (
                    <p>
                      Your teacher: {claim.answer.text}{" "}
                      {Object.entries(claim.answer.marks)
                        .map(([name, points]) => `${name} ${points}`)
                        .join(", ")}
                    </p>
                  )}
                  {claim.latest ? (
                    <p>
                      <TextButton onPress={() => setRevising(claim.id)}>Revise this</TextButton>
                    </p>
                  ) : (
                    <Soft>revised later</Soft>
                  )}
                </li>
              ))}
            </Versions>
          </Column>
        </Columns>
      ) : (
        <Column>
          <h1>No claims yet</h1>
          <Soft>Your teacher opens this when the measuring is done.</Soft>
          <p>
            <ButtonLink to="/bench">To the bench</ButtonLink>
          </p>
        </Column>
      )}
    </Frame>
  );
}
