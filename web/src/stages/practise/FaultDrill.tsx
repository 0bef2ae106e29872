import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import { CellDrawing } from "../../charts/CellDrawing";
import { lower, volts } from "../../format";
import { Button, MainButton, TextButton } from "../../ui/Button";
import { Picks } from "../../ui/controls";
import { Column, Columns, Row, Small, Soft, Table } from "../../ui/layout";
import { colour } from "../../ui/theme";
import {
  type Case,
  type Cause,
  against,
  draw,
  hand,
  remember,
  remembered,
  stillPossible,
  toldNothing,
  wouldTell,
} from "./drill";
import type { Tried } from "./homework";
import { Turns } from "./Turns";

const Picture = styled.div`
  max-width: 19rem;
`;

const Said = styled.div<{ $good: boolean }>`
  padding: 0.7rem 0.9rem;
  border-left: 5px solid ${({ $good }) => ($good ? colour.good : colour.cautionMark)};
  background: ${colour.white};
`;

type Props = { cases: Case[]; names: Record<string, string>; first?: (tried: Tried) => void };

/** One bench in trouble: try hands, name the cause, mend it, see why. */
function OneCase({
  drill,
  truth,
  names,
  next,
  first,
}: {
  drill: Case;
  truth: Cause;
  names: Props["names"];
  next: () => void;
  first: Props["first"];
}) {
  const [tried, setTried] = useState<string[]>([]);
  const [named, setNamed] = useState("");
  const [said, setSaid] = useState<{ cause: Cause; right: boolean } | null>(null);
  const [missed, setMissed] = useState(false);
  const [told, setTold] = useState(false);
  const nameOf = (key: string) => drill.hands.find((one) => one.key === key)?.name ?? key;
  const possible = stillPossible(drill, truth, tried);
  const idle = toldNothing(drill, truth, tried);
  const done = said?.right ?? false;
  const say = (cause: Cause) => {
    const right = cause.key === truth.key;
    if (!missed) {
      setMissed(!right);
      remember(truth.key, right);
      first?.({ symptom: drill.symptom, fault: truth.key, named: cause.key, hands: tried });
    }
    setSaid({ cause, right });
  };
  const wrongBy = said && !said.right ? against(said.cause, truth, tried) : null;
  const tell = said && !said.right ? wouldTell(drill, said.cause, truth, tried) : null;
  return (
    <Columns $left="minmax(0, 25rem)">
      <Column>
        <h1>
          <Trans>What is wrong here?</Trans>
        </h1>
        <p>
          {drill.symptom === "pack" ? (
            <Trans>
              A bench calls: <strong>“{drill.seen}.”</strong> Its sister benches read about {volts(drill.right_v, 2)} a
              cell; three of them in a row should light a red LED.
            </Trans>
          ) : (
            <Trans>
              A bench calls: <strong>“{drill.seen}.”</strong> Its sister benches read about {volts(drill.right_v, 2)}.
            </Trans>
          )}
        </p>
        {drill.symptom !== "pack" && (
          <Picture>
            <CellDrawing
              left={{ key: drill.negative, symbol: drill.symbols[0] ?? "" }}
              right={{ key: drill.positive, symbol: drill.symbols[1] ?? "" }}
              liquid={{ key: drill.electrolyte, name: names[drill.electrolyte] ?? drill.electrolyte }}
              redOnLeft={false}
            />
            <Small>
              <Trans>as it should stand</Trans>
            </Small>
          </Picture>
        )}
        <Row role="group" aria-label={t`What you can do`}>
          {drill.hands.map(({ key, name }) => (
            <Button key={key} isDisabled={done || tried.includes(key)} onPress={() => setTried((now) => [...now, key])}>
              {name}
            </Button>
          ))}
        </Row>
      </Column>
      <Column>
        <h2>
          <Trans>What you have tried</Trans>
        </h2>
        {tried.length === 0 ? (
          <Soft>
            <Trans>Nothing yet. Change one thing, look, then decide.</Trans>
          </Soft>
        ) : (
          <Table>
            <tbody>
              {tried.map((key) => (
                <tr key={key}>
                  <th scope="row">{lower(nameOf(key))}</th>
                  <td>
                    {hand(truth, key).says}
                    {idle.includes(key) && done && (
                      <>
                        <br />
                        <Small>
                          <Trans>told nothing: all causes left would have answered like this</Trans>
                        </Small>
                      </>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        )}
        <Picks
          label={t`So the cause is`}
          options={drill.causes.map(({ key, name }) => ({ key, name }))}
          value={named}
          onChange={(key) => {
            setNamed(key);
            if (!done) setSaid(null);
          }}
        />
        <Row>
          <MainButton
            isDisabled={!named || done}
            onPress={() => {
              const cause = drill.causes.find((one) => one.key === named);
              if (cause) say(cause);
            }}
          >
            <Trans>Say so, and mend it</Trans>
          </MainButton>
          {done && (
            <Button onPress={next}>
              <Trans>Next bench</Trans>
            </Button>
          )}
        </Row>
        <div role="status">
          {said?.right && (
            <Said $good>
              <SoFar />
              <strong>
                {told ? t`It was: ${truth.name}.` : t`Yes.`} {truth.mend}
              </strong>
              <p>{truth.why}</p>
              {possible.length > 1 && !told && (
                <p>
                  <Trans>
                    It was a guess: {plural(possible.length, { one: "# cause", other: "# causes" })} would still have
                    answered as you saw.{" "}
                    {possible
                      .filter((one) => one.key !== truth.key)
                      .map((one) => {
                        const by = wouldTell(drill, one, truth, tried);
                        return by ? t`“${nameOf(by)}” rules out ${one.name}.` : "";
                      })
                      .join(" ")}
                  </Trans>
                </p>
              )}
              {idle.length > 0 && (
                <p>
                  <Trans>Could not have told anything: {idle.map((key) => lower(nameOf(key))).join(", ")}.</Trans>
                </p>
              )}
            </Said>
          )}
          {said && !said.right && (
            <Said $good={false}>
              <strong>
                <Trans>Not that.</Trans>
              </strong>
              <p>
                {wrongBy
                  ? t`With ${said.cause.name}, “${lower(nameOf(wrongBy))}” would have said: ${hand(said.cause, wrongBy).says}`
                  : tell
                    ? t`Nothing you tried speaks against it yet. “${nameOf(tell)}” would tell.`
                    : t`Look at what you have tried once more.`}
              </p>
              <TextButton
                onPress={() => {
                  setTold(true);
                  setNamed(truth.key);
                  say(truth);
                }}
              >
                <Trans>Tell me</Trans>
              </TextButton>
            </Said>
          )}
        </div>
      </Column>
    </Columns>
  );
}

/** How it has gone on this device. */
function SoFar() {
  const all = Object.values(remembered());
  const found = all.reduce((sum, one) => sum + one.found, 0);
  const missed = all.reduce((sum, one) => sum + one.missed, 0);
  if (found + missed === 0) return null;
  return (
    <Soft>
      <Trans>
        On this device so far: {found} found at once, {missed} missed. Those come up more often.
      </Trans>
    </Soft>
  );
}

/** Benches in trouble one after the other, those that were missed more often; `first` is told what was named first. */
export function FaultDrill({ cases, names, first }: Props) {
  const [turn, setTurn] = useState(() => ({ nth: 1, drawn: draw(cases, remembered(), Math.random) }));
  const { drawn, nth } = turn;
  if (!drawn) return null;
  return (
    <Turns at={nth}>
      <OneCase
        key={nth}
        drill={drawn.drill}
        truth={drawn.truth}
        names={names}
        first={first}
        next={() => setTurn({ nth: nth + 1, drawn: draw(cases, remembered(), Math.random) })}
      />
    </Turns>
  );
}
