import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { TextButton } from "../ui/Button";
import { colour } from "../ui/theme";
import { useKept } from "../ui/useKept";
import type { Outbox } from "./useOutbox";

const Line = styled.div`
  display: grid;
  gap: 0.2rem;
  padding: 0.5rem 1.25rem;
  border-bottom: 2px solid ${colour.cautionMark};
  background: ${colour.bench};
  font-weight: 600;
  &:empty {
    padding: 0;
    border: 0;
  }
`;

type Seen = { id: string; short: string };

const RELEASED: Record<string, [string, string]> = {
  compare: ["/bench/results", t`see the class’s results`],
  explain: ["/bench/explain", t`see where the volts went`],
  claims: ["/bench/claims", t`make your claim`],
  power: ["/bench/packs", t`build packs that run something`],
  notebook: ["/bench/notebook", t`write your notebook`],
};

/** What concerns the whole group, in one line at the top of every page of the bench, and said when it changes. */
export function BenchLine({ bench, outbox }: { bench: Schemas["BenchOut"]; outbox: Outbox | null }) {
  const [seen, setSeen] = useKept<Seen[]>(`cells:${bench.group_id}`, []);
  const here = bench.cells.map(({ id, short }) => ({ id, short }));
  const fresh = here.filter((one) => !seen.some((known) => known.id === one.id));
  if (fresh.length > 0) setSeen([...seen, ...fresh]);
  const gone = seen.filter((one) => !here.some((cell) => cell.id === one.id));
  const asked = bench.cells.flatMap((cell, index) => (cell.asked ? [{ cell, place: index + 1 }] : []));
  return (
    <Line role="status" aria-label={t`For the whole group`}>
      {outbox?.trouble?.status === 401 && (
        <span>
          <Trans>
            Join again with your code and PIN: then what you typed is sent. <Link to="/join">Join again</Link>
          </Trans>
        </span>
      )}
      {bench.paused && (
        <span>
          <Trans>Pause: your teacher has stopped the clock. Look up. What you record now is kept.</Trans>
        </span>
      )}
      {bench.state !== "open" && (
        <span>
          <Trans>The lab is closed. Your readings are kept.</Trans>
        </span>
      )}
      {gone.length > 0 && (
        <span>
          <Trans>
            Your teacher has given {gone.map((one) => one.short).join(", ")} to another group. What you typed for it
            stays on this device. <TextButton onPress={() => setSeen(here)}>Hide this line</TextButton>
          </Trans>
        </span>
      )}
      {bench.state === "open" &&
        asked.map(({ cell, place }) => (
          <span key={cell.id}>
            <Trans>
              Your teacher asks for a new reading of <Link to={`/bench/${place}`}>{cell.short}</Link>.
            </Trans>
          </span>
        ))}
      {bench.released.length > 0 && (
        <span>
          <Trans>Your teacher shows you:</Trans>{" "}
          {bench.released.map((part, index) => {
            const [to, name] = RELEASED[part] ?? ["/bench", part];
            return (
              <span key={part}>
                {index > 0 && ", "}
                <Link to={to}>{name}</Link>
              </span>
            );
          })}
          .
        </span>
      )}
    </Line>
  );
}
