import { t } from "@lingui/core/macro";
import { type ReactNode, useEffect, useState } from "react";
import { Problem } from "../api/client";
import { Column, Soft } from "./layout";
import { Frame } from "./Frame";
import { ProblemNote } from "./ProblemNote";

const LATE_MS = 300;

/** Whether something has been going on long enough to notice. */
export function useLate(going: boolean): boolean {
  const [late, setLate] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLate(going), going ? LATE_MS : 0);
    return () => clearTimeout(timer);
  }, [going]);
  return going && late;
}

/** Progress, shown only when the wait is long enough to notice. */
export function Progress({ text = t`Fetching…` }: { text?: string }) {
  const late = useLate(true);
  return <Soft role="status">{late ? text : ""}</Soft>;
}

/** A page that has no data yet: the wait, or why there is none. */
export function Waiting({ title, error, children }: { title: string; error: unknown; children?: ReactNode }) {
  return (
    <Frame title={title}>
      <Column>
        {error instanceof Problem ? <ProblemNote problem={error} /> : <Progress />}
        {children}
      </Column>
    </Frame>
  );
}
