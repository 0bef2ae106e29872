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
  // What was ticked here, until the server shows it: another tab may tick, too.
  const [ticked, setTicked] = useState<Partial<Record<Part, boolean>>>({});
  const waits = Object.entries(ticked).filter(([part, on]) => released.includes(part) !== on);
  if (waits.length < Object.keys(ticked).length) setTicked(Object.fromEntries(waits));
  const isOn = (part: Part) => ticked[part] ?? released.includes(part);
  const set = (part: Part, on: boolean) => {
    setTicked({ ...ticked, [part]: on });
    const next = PARTS.map(([key]) => key).filter((key) => (key === part ? on : isOn(key)));
    release.mutate(next, { onError: () => setTicked({}) });
  };
  return (
    <div role="group" aria-label={t`Groups see`}>
      {PARTS.map(([part, name]) => (
        <Tick key={part} isSelected={isOn(part)} onChange={(on) => set(part, on)}>
          {name}
        </Tick>
      ))}
      <ProblemNote problem={release.error} />
    </div>
  );
}
