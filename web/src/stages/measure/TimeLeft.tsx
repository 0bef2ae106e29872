import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useEffect, useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { clock } from "../../format";
import { font } from "../../ui/theme";

const Left = styled.strong`
  display: block;
  font-family: ${font.numbers};
`;

type Props = { lab: Pick<Schemas["BenchOut"], "minutes" | "minutes_in" | "paused">; fetchedAt: number };

/** What is left of the period, counted down between two answers of the server; it stands still while the lab is paused. */
export function TimeLeft({ lab, fetchedAt }: Props) {
  const [now, setNow] = useState(fetchedAt);
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  const since = lab.paused ? 0 : Math.max(0, now - fetchedAt) / 1000;
  const left = 60 * (lab.minutes - lab.minutes_in) - since;
  if (lab.paused)
    return (
      <Left>
        <Trans>paused, {clock(left)} left</Trans>
      </Left>
    );
  return <Left>{left > 0 ? t`${clock(left)} left` : t`time is up`}</Left>;
}
