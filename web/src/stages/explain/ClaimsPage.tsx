import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useEffect, useState } from "react";
import { ListBox, ListBoxItem } from "react-aria-components";
import { Link, useSearchParams } from "react-router";
import styled from "styled-components";
import { lower } from "../../format";
import type { Schemas } from "../../api/client";
import { useClaims } from "../../api/claims";
import { useCompare } from "../../api/findings";
import { Waiting } from "../../ui/Waiting";
import { Disclosure } from "../../ui/controls";
import { Column, Columns, Row, Small, Soft } from "../../ui/layout";
import { type MarginNote, Notes } from "../../ui/Notes";
import { Select } from "../../ui/Select";
import { colour } from "../../ui/theme";
import { FindingsFrame } from "../../lab/FindingsFrame";
import { Release } from "../../lab/Release";
import { useNames } from "../../lab/useNames";
import { IN_SHORT } from "../../lab/verdicts";
import { AnswerClaim } from "./AnswerClaim";
import { RubricForm } from "./RubricForm";
import { ClaimText, aboutOf, earlierOf } from "./ClaimParts";
import { TestedList } from "./OwnTests";

type Claim = Schemas["ClaimOut"];
const NO_ANCHORS: string[] = [];

const Items = styled(ListBox)`
  border-top: 1px solid ${colour.hairline};
`;

const Item = styled(ListBoxItem)`
  display: grid;
  gap: 0.1rem;
  padding: 0.5rem 0.6rem;
  border-bottom: 1px solid ${colour.hairline};
  border-left: 5px solid transparent;
  cursor: pointer;
  &[data-selected] {
    border-left-color: ${colour.ink};
    background: ${colour.bench};
  }
  &[data-focus-visible] {
    outline: 3px solid ${colour.table};
    outline-offset: -3px;
  }
`;

/** The claims that wait for an answer, in the order of the list, beginning after the one in hand. */
function nextWaiting(list: Claim[], inHand: Claim): Claim | undefined {
  const place = list.findIndex((one) => one.id === inHand.id);
  return [...list.slice(place + 1), ...list.slice(0, place)].find((one) => one.answer === null);
}

/** What the groups claim: the list on the left, one claim with its answer and marks on the right. */
export function ClaimsPage({ id }: { id: string }) {
  const compare = useCompare(id, NO_ANCHORS);
  const claims = useClaims(id);
  const names = useNames();
  const [search, setSearch] = useSearchParams();
  const [arrived, setArrived] = useState("");
  const all = claims.data?.claims ?? [];
  const latest = all.filter((claim) => claim.latest);
  const group = search.get("group") ?? "";
  const numbers = search.get("numbers") ?? "";
  const asked = search.get("claim");
  const list = latest.filter((claim) => (!group || claim.group === group) && (!numbers || claim.verdict === numbers));
  const waiting = list.filter((claim) => claim.answer === null);
  const chosen =
    list.find((one) => one.id === asked || earlierOf(one, all).some((before) => before.id === asked)) ??
    waiting[0] ??
    list[0];
  const set = (change: Record<string, string>) =>
    setSearch(
      Object.fromEntries(Object.entries({ group, numbers, claim: "", ...change }).filter(([, value]) => value !== "")),
      { replace: true },
    );
  // Stay with the claim in hand when others arrive or its group revises it.
  useEffect(() => {
    if (chosen && chosen.id !== asked) set({ claim: chosen.id });
  });
  if (!compare.data || !claims.data) return <Waiting title={t`Claims`} error={compare.error ?? claims.error} />;
  const { data } = claims;
  const earlier = chosen ? earlierOf(chosen, all) : [];
  const notes: MarginNote[] = [
    {
      code: "release",
      tone: "plain",
      title: t`Groups see on their devices`,
      text: <Release lab={id} released={data.released} />,
    },
    {
      code: "rubric",
      tone: "plain",
      title: t`Rubric`,
      text: (
        <Disclosure title={t`Change it`} detail={data.rubric.map((row) => lower(row.name)).join(", ")}>
          <RubricForm lab={id} rows={data.rubric} />
        </Disclosure>
      ),
    },
  ];
  const name = (claim: Claim) => aboutOf(claim, names);
  return (
    <FindingsFrame
      data={compare.data}
      here="Explain"
      projector={`/labs/${id}/explain/projector`}
      margin={<Notes notes={notes} />}
    >
      {chosen || latest.length > 0 ? (
        <Columns $left="minmax(0, 0.8fr)">
          <Column>
            <h1>
              <Trans>What groups claim</Trans>
            </h1>
            <p role="status">
              {waiting.length > 0
                ? plural(waiting.length, {
                    one: `# of ${list.length} claims waits for your answer.`,
                    other: `# of ${list.length} claims wait for your answer.`,
                  })
                : t`All ${plural(list.length, { one: "# claim", other: "# claims" })} answered.`}
            </p>
            <Row>
              <Select
                label={t`Group`}
                options={[
                  { key: "", name: t`all` },
                  ...[...new Set(latest.map((claim) => claim.group))].map((key) => ({ key, name: key })),
                ]}
                value={group}
                onChange={(value) => set({ group: value })}
              />
              <Select
                label={t`Numbers`}
                options={[
                  { key: "", name: t`all` },
                  ...Object.entries(IN_SHORT)
                    .filter(([key]) => key !== "held")
                    .map(([key, name]) => ({ key, name })),
                ]}
                value={numbers}
                onChange={(value) => set({ numbers: value })}
              />
            </Row>
            <Items
              aria-label={t`Claims`}
              selectionMode="single"
              selectionBehavior="replace"
              disallowEmptySelection
              selectedKeys={chosen ? [chosen.id] : []}
              onSelectionChange={(keys) => set({ claim: String([...keys][0] ?? "") })}
              renderEmptyState={() => (
                <Soft>
                  <Trans>No claim of this kind.</Trans>
                </Soft>
              )}
            >
              {list.map((claim) => (
                <Item key={claim.id} id={claim.id} textValue={`${claim.group}, ${claim.cause_name}`}>
                  <span>
                    {claim.answer ? "✓ " : ""}
                    <strong>{claim.group}</strong>: {lower(claim.cause_name)}
                  </span>
                  <Small>
                    {name(claim)} · {t`numbers: ${IN_SHORT[claim.verdict]}`}
                    {claim.answer ? t` · answered` : ""}
                  </Small>
                </Item>
              ))}
            </Items>
          </Column>
          {chosen && (
            <Column key={chosen.id}>
              <Beliefs beliefs={data.beliefs} groups={data.groups} />
              <h2>{chosen.group}</h2>
              <ClaimText claim={chosen} asks={false} />
              <TestedList claim={chosen} />
              {chosen.tries > 1 && (
                <Soft>
                  <Trans>
                    {plural(chosen.tries, { one: "# version", other: "# versions" })} of it so far, with{" "}
                    {plural(chosen.causes, { one: "# cause", other: "# different causes" })}.
                  </Trans>
                </Soft>
              )}
              <Earlier versions={earlier} />
              <AnswerClaim
                kept={`answer-claim:${earlier.at(-1)?.id ?? chosen.id}`}
                claim={chosen}
                rubric={data.rubric}
                waiting={waiting.length}
                focus={arrived === chosen.id}
                sent={() => {
                  const next = nextWaiting(list, chosen);
                  if (!next) return;
                  setArrived(next.id);
                  set({ claim: next.id });
                }}
              />
            </Column>
          )}
        </Columns>
      ) : (
        <Column>
          <h1>
            <Trans>No claim is in yet</Trans>
          </h1>
          <Soft>
            {data.released.includes("claims")
              ? t`Groups find the form on their bench: “make your claim”.`
              : t`Tick “a form for their own claims” in the margin; then groups find it on their bench.`}
          </Soft>
          <p>
            <Link to={`/labs/${id}/explain`}>
              <Trans>Where the volts went</Trans>
            </Link>
          </p>
        </Column>
      )}
    </FindingsFrame>
  );
}

/** What groups seem to believe: who said so, in whose claims it is heard, who had it before; and the class's own data on it. */
function Beliefs({ beliefs, groups }: { beliefs: Schemas["BeliefOut"][]; groups: number }) {
  if (beliefs.length === 0) return null;
  return (
    <Disclosure
      title={t`What groups seem to believe`}
      detail={plural(beliefs.length, { one: "# thing heard", other: "# things heard" })}
    >
      <ul>
        {beliefs.map((one) => (
          <li key={one.key}>
            <strong>{one.name}</strong>:{" "}
            {[
              one.means.length > 0 && t`${one.means.length} of ${groups} groups mean it (${one.means.join(", ")})`,
              one.perhaps.length > 0 && t`heard and not answered: ${one.perhaps.join(", ")}`,
              one.before.length > 0 && t`before, not any more: ${one.before.join(", ")}`,
            ]
              .filter(Boolean)
              .join("; ")}
            . {one.in_data} {one.question}{" "}
            {one.lab && <Link to={`/labs/new?template=${one.lab}`}>{t`Plan the lab that tests it`}</Link>}
          </li>
        ))}
      </ul>
    </Disclosure>
  );
}

function Earlier({ versions }: { versions: Claim[] }) {
  if (versions.length === 0) return null;
  return (
    <Disclosure title={plural(versions.length, { one: "# earlier version", other: "# earlier versions" })}>
      {versions.map((version) => (
        <ClaimText key={version.id} claim={version} asks={false} />
      ))}
    </Disclosure>
  );
}
