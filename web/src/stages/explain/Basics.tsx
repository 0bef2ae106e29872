import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Link, Navigate } from "react-router";
import styled from "styled-components";
import { Problem, type Schemas } from "../../api/client";
import { useBench } from "../../api/bench";
import { useBasics, useBenchBasics, useCompare } from "../../api/findings";
import { Frame } from "../../ui/Frame";
import { Column, Soft } from "../../ui/layout";
import { type Slide, Slides } from "../../ui/Slides";
import { colour } from "../../ui/theme";
import { Waiting } from "../../ui/Waiting";

type Basic = Schemas["BasicOut"];

const NO_ANCHORS: string[] = [];

const Pieces = styled.div`
  display: grid;
  gap: 1.4rem;
  max-width: 44rem;
  section {
    display: grid;
    gap: 0.3rem;
    scroll-margin-top: 1rem;
  }
  h2 {
    font-size: 1.05rem;
  }
`;

const Own = styled.p`
  padding-left: 0.8rem;
  border-left: 4px solid ${colour.reading};
`;

const Wall = styled.div`
  display: grid;
  gap: 1.2rem;
  max-width: 46rem;
  font-size: 1.25rem;
`;

/** What more there is to say of a piece, and a number of one's own. */
function More({ basic }: { basic: Basic }) {
  return (
    <>
      <p>{basic.more}</p>
      {basic.own && <Own>{basic.own}</Own>}
    </>
  );
}

/** The basics for a group, each with a number of its own readings; the address may name one of them. */
export function BenchBasics() {
  const bench = useBench();
  const found = useBenchBasics();
  if (!found.data || !bench.data) {
    const error = found.error ?? bench.error;
    if (error instanceof Problem && error.status === 401) return <Navigate to="/join" replace />;
    return <Waiting title={t`The basics`} error={error} />;
  }
  return (
    <Frame
      title={t`The basics`}
      lab={t`The basics`}
      about={bench.data.lab}
      who={
        <Link to="/bench">
          <Trans>To the bench</Trans>
        </Link>
      }
    >
      <Column>
        <h1>
          <Trans>In one sentence each</Trans>
        </h1>
        <Soft>
          <Trans>Where you have measured something, your own number stands beside it.</Trans>
        </Soft>
        <Pieces>
          {found.data.map((basic) => (
            <section key={basic.key} id={basic.key}>
              <h2>{basic.title}</h2>
              <p>
                <strong>{basic.sentence}</strong>
              </p>
              <More basic={basic} />
            </section>
          ))}
        </Pieces>
      </Column>
    </Frame>
  );
}

/** The basics for the wall, one a slide, with a number of this class. */
export function BasicsProjector({ id }: { id: string }) {
  const found = useBasics(id);
  const compare = useCompare(id, NO_ANCHORS);
  if (!found.data || !compare.data) return <Waiting title={t`The basics`} error={found.error ?? compare.error} />;
  const slides: Slide[] = found.data.map((basic) => ({
    key: basic.key,
    title: basic.title,
    says: basic.sentence,
    picture: (
      <Wall>
        <More basic={basic} />
      </Wall>
    ),
  }));
  return <Slides name={compare.data.title} back={`/labs/${id}/explain`} slides={slides} />;
}
