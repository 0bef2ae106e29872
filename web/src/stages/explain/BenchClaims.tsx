import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { Navigate, Link } from "react-router";
import styled from "styled-components";
import { Problem, type Schemas } from "../../api/client";
import { useBench } from "../../api/bench";
import { useBenchClaims, useRecordClaim } from "../../api/claims";
import { WhatCounts } from "../../lab/Marks";
import { Frame } from "../../ui/Frame";
import { ProblemNote } from "../../ui/ProblemNote";
import { Waiting } from "../../ui/Waiting";
import { asTyped } from "../../format";
import { Button, ButtonLink, MainButton, TextButton } from "../../ui/Button";
import { Tick } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Column, Columns, Num, Row, Soft } from "../../ui/layout";
import { Select } from "../../ui/Select";
import { colour } from "../../ui/theme";
import { useKept } from "../../ui/useKept";
import { useIdOf } from "../../api/newId";
import { bathName, cellName, useNames } from "../../lab/useNames";
import { cellKey } from "../../lab/cellKey";
import { struck } from "../../lab/standing";
import { ClaimText } from "./ClaimParts";
import { OwnTests, TestedList } from "./OwnTests";

const Versions = styled.ol`
  li {
    display: grid;
    gap: 0.4rem;
    padding: 0.8rem 0;
    border-top: 1px solid ${colour.hairline};
  }
`;

type Bench = Schemas["BenchOut"];

/** Whether the group may see where the volts of a cell went: shown to all, or opened by its claim. */
const opens = (data: Schemas["ClaimsOut"], cell: Schemas["CellIO"]) =>
  data.released.includes("explain") || data.opens.some((one) => cellKey(one) === cellKey(cell));

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
  const [against, setAgainst] = useKept(`${slot}:against`, revises?.against ?? "");
  const [cited, setCited] = useKept<string[]>(`${ticked}:cited`, revises?.cited.map((one) => one.id) ?? []);
  const [mayShow, setMayShow] = useKept(`${ticked}:show`, revises?.may_show ?? false);
  const id = useIdOf([cellId, cause, reasoning, against, cited, mayShow, record.data]);
  const measured = bench.cells.filter((cell) => cell.readings.length > 0);
  const whole = cellId === LADDER;
  const pack = data.packs.find((one) => one.id === cellId);
  const about = measured.find((one) => one.id === cellId) ?? measured[0];
  const causes = data.causes.filter((one) => one.of_pack === (pack !== undefined));
  const choice = causes.find((one) => one.key === cause);
  if (!about)
    return (
      <Soft>
        <Trans>Measure a cell first; then you can say what became of its volts.</Trans>
      </Soft>
    );
  const counts = bench.cells.flatMap((cell) =>
    cell.readings.filter((reading) => !struck(reading)).map((reading) => ({ ...reading, cell })),
  );
  /** Whether there is something that this claim would open. */
  const opening = !whole && !pack && !opens(data, about);
  const near = whole ? counts : counts.filter((count) => count.cell.short === about.short);
  const severalBaths = new Set(near.map(({ cell }) => bathName(names, cell))).size > 1;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        const { negative, electrolyte, positive, condition } = about;
        record.mutate(
          {
            id,
            cell: whole || pack ? null : { negative, electrolyte, positive, condition },
            pack: pack?.id ?? null,
            cause,
            reasoning,
            against,
            cited,
            may_show: mayShow,
            revises: revises?.id ?? null,
          },
          {
            onSuccess: () => {
              setReasoning("");
              setAgainst("");
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
          label={t`About what?`}
          options={[
            ...measured.map((one) => ({ key: one.id, name: t`${one.short} in ${bathName(names, one)}` })),
            { key: LADDER, name: t`the whole ladder` },
            ...data.packs.map((one) => ({ key: one.id, name: t`your pack: ${one.name}` })),
          ]}
          value={whole ? LADDER : (pack?.id ?? about.id)}
          onChange={(key) => {
            setCellId(key);
            setCause("");
          }}
        />
        <Select
          label={pack ? t`What is it about this pack?` : t`Where did the volts go?`}
          options={causes.map(({ key, name }) => ({ key, name }))}
          value={choice ? cause : ""}
          onChange={setCause}
        />
        {choice && (
          <Soft>
            <Trans>If so: {choice.implies}</Trans>
          </Soft>
        )}
        {pack && (
          <Soft>
            <Trans>
              What you measured of it, alone, in the row, with the load and over time, is weighed as it stands.
            </Trans>
          </Soft>
        )}
        <div role="group" aria-label={t`Your readings that show it`} hidden={pack !== undefined}>
          <p>
            <Trans>Tap the readings that show it:</Trans>
          </p>
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
                {severalBaths ? `${cellName(names, one.cell)}: ` : whole && `${one.cell.short} `}
                <Num>{asTyped(one.text, one.unit)}</Num>
              </Button>
            ))}
          </Row>
        </div>
        <TextField
          label={pack ? t`Which of your numbers show it, and why?` : t`Why do these readings show it?`}
          value={reasoning}
          onChange={setReasoning}
          rows={4}
          maxLength={1500}
        />
        {choice && (
          <TextField
            label={t`What would speak against it?`}
            value={against}
            onChange={setAgainst}
            rows={2}
            maxLength={600}
          />
        )}
        {opening && (!against.trim() || cited.length === 0) && (
          <Soft>
            <Trans>
              With a reading and with what would speak against it, your claim opens where the volts of this cell went.
            </Trans>
          </Soft>
        )}
        <Tick isSelected={mayShow} onChange={setMayShow}>
          <Trans>Our teacher may show this to the class</Trans>
        </Tick>
        <ProblemNote problem={record.error} />
        <Row>
          <MainButton type="submit" isDisabled={!choice || !reasoning.trim()}>
            {revises ? t`Keep the new version` : t`Claim it`}
          </MainButton>
          {revises && (
            <TextButton onPress={done}>
              <Trans>Leave it as it is</Trans>
            </TextButton>
          )}
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
    return <Waiting title={t`Claims`} error={error} />;
  }
  const { data } = claims;
  const open = data.released.includes("claims");
  const isOpen = (cell: Schemas["CellIO"]) => opens(data, cell);
  const target = data.claims.find((claim) => claim.id === revising) ?? null;
  return (
    <Frame
      title={t`Claims, ${bench.data.group}`}
      lab={t`${bench.data.group} · where did the volts go?`}
      about={bench.data.lab}
      who={
        <Link to="/bench">
          <Trans>To the bench</Trans>
        </Link>
      }
    >
      {open ? (
        <Columns $left="minmax(0, 1fr)">
          <div>
            <Column>
              <h1>{target ? t`A new version` : t`Your claim`}</h1>
              <WhatCounts rubric={data.rubric} />
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
            <h2>
              <Trans>What you have claimed</Trans>
            </h2>
            {data.claims.length === 0 && (
              <Soft>
                <Trans>Nothing yet. A claim can be revised as often as you like.</Trans>
              </Soft>
            )}
            <Versions>
              {[...data.claims].reverse().map((claim) => (
                <li key={claim.id}>
                  <ClaimText claim={claim} group asks={claim.latest} />
                  <TestedList claim={claim} />
                  {claim.latest && claim.verdict !== "held" && <OwnTests claim={claim} slot={bench.data.group_id} />}
                  {claim.answer && (claim.answer.text || Object.keys(claim.answer.marks).length > 0) && (
                    <p>
                      <Trans>
                        Your teacher: {claim.answer.text}{" "}
                        {Object.entries(claim.answer.marks)
                          .map(([name, points]) => `${name} ${points}`)
                          .join(", ")}
                      </Trans>
                    </p>
                  )}
                  {claim.latest && claim.cell && isOpen(claim.cell) && (
                    <p>
                      <Link to={`/bench/explain?cell=${encodeURIComponent(cellKey(claim.cell))}`}>
                        <Trans>Where its volts went</Trans>
                      </Link>
                    </p>
                  )}
                  {claim.latest ? (
                    <p>
                      <TextButton onPress={() => setRevising(claim.id)}>
                        <Trans>Revise this</Trans>
                      </TextButton>
                    </p>
                  ) : (
                    <Soft>
                      <Trans>revised later</Trans>
                    </Soft>
                  )}
                </li>
              ))}
            </Versions>
          </Column>
        </Columns>
      ) : (
        <Column>
          <h1>
            <Trans>No claims yet</Trans>
          </h1>
          <Soft>
            <Trans>Your teacher opens this when the measuring is done.</Trans>
          </Soft>
          <p>
            <ButtonLink to="/bench">
              <Trans>To the bench</Trans>
            </ButtonLink>
          </p>
        </Column>
      )}
    </Frame>
  );
}
