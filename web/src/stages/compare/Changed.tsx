import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { number } from "../../format";
import { Num } from "../../ui/layout";
import { bathName, useNames } from "../../lab/useNames";

type Compare = Schemas["CompareOut"];
const LEAST_V = 0.0005;

/** What setting aside has changed: every plate that moved, against the picture before. */
export function Changed({ before, now }: { before: Compare; now: Compare }) {
  const names = useNames();
  const moved = now.electrolytes.flatMap((result) => {
    const was = before.electrolytes.find(
      (electrolyte) => electrolyte.electrolyte === result.electrolyte && electrolyte.condition === result.condition,
    );
    return result.rungs.flatMap((rung) => {
      const old = was?.rungs.find((one) => one.electrode === rung.electrode);
      const by = old ? rung.class_v - old.class_v : 0;
      return Math.abs(by) > LEAST_V ? [{ bath: bathName(names, result), plate: rung.electrode, by }] : [];
    });
  });
  if (moved.length === 0)
    return (
      <span>
        <Trans>No plate has moved by half a millivolt or more.</Trans>
      </span>
    );
  return (
    <ul>
      {moved.slice(0, 10).map((one) => (
        <li key={`${one.bath}-${one.plate}`}>
          <Trans>
            {names.plate(one.plate)} in {one.bath}: <Num>{number(one.by, 3, true)}</Num> V
          </Trans>
        </li>
      ))}
    </ul>
  );
}
