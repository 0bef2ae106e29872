import { t } from "@lingui/core/macro";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { useRelease } from "../api/findings";
import { Tick } from "../ui/controls";
import { ProblemNote } from "../ui/ProblemNote";

type Part = Schemas["ReleaseIn"]["parts"][number];
const PARTS: [Part, string][] = [
  ["compare", t`the class’s results`],
  ["explain", t`where the volts went`],
  ["claims", t`a form for their own claims`],
  ["power", t`a bench for packs: cells in a row`],
  ["notebook", t`their notebook, to write and hand in`],
];

/** What groups may see on their own devices, and when: from the moment it is ticked. */
export function Release({ lab, released }: { lab: string; released: string[] }) {
  const release = useRelease(lab);
  const [parts, setParts] = useState(released);
  const set = (part: Part, on: boolean) => {
    const next = PARTS.map(([key]) => key).filter((key) => (key === part ? on : parts.includes(key)));
    setParts(next);
    release.mutate(next, { onError: () => setParts(released) });
  };
  return (
    <div role="group" aria-label={t`Groups see`}>
      {PARTS.map(([part, name]) => (
        <Tick key={part} isSelected={parts.includes(part)} onChange={(on) => set(part, on)}>
          {name}
        </Tick>
      ))}
      <ProblemNote problem={release.error} />
    </div>
  );
}
