import { t } from "@lingui/core/macro";
import { useState } from "react";
import styled from "styled-components";
import { TextField } from "../../ui/fields";
import { lines, withGroups } from "./setup";

const MOST_GROUPS = 40;

const Pair = styled.div`
  display: grid;
  grid-template-columns: 8rem minmax(0, 1fr);
  gap: 1rem;
  align-items: start;
`;

/** The groups by their number or by their names: each follows the other. */
export function GroupFields({ names, change }: { names: string; change: (names: string) => void }) {
  const there = String(lines(names).length);
  const [typed, setTyped] = useState<string | null>(null);
  const n = Number(typed);
  const wrong = typed !== null && (!/^\d+$/.test(typed.trim()) || n < 1 || n > MOST_GROUPS);
  const apply = () => {
    if (typed === null || wrong) return;
    if (n !== Number(there)) change(withGroups(names, n));
    setTyped(null);
  };
  return (
    <Pair>
      <TextField
        label={t`How many groups`}
        value={typed ?? there}
        onChange={setTyped}
        onBlur={apply}
        onKeyDown={(event) => {
          if (event.key !== "Enter") return;
          event.preventDefault();
          apply();
        }}
        inputMode="numeric"
        maxLength={2}
        error={wrong && typed !== "" ? t`1 to ${MOST_GROUPS}; the names stay as they are` : null}
      />
      <TextField
        label={t`Their names, one a line`}
        hint={t`Bench names only. Nothing personal is kept.`}
        value={names}
        onChange={change}
        rows={8}
      />
    </Pair>
  );
}
