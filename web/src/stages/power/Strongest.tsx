import { t } from "@lingui/core/macro";
import type { Schemas } from "../../api/client";
import { StrengthTable } from "../../lab/StrengthTable";
import { bathName, useNames } from "../../lab/useNames";
import { Behind } from "../../ui/Behind";
import { TextButton } from "../../ui/Button";

type Props = { kinds: Schemas["KindOut"][]; choose: (cell: string) => void };

/** Which of the class's cells to build with. */
export function Strongest({ kinds, choose }: Props) {
  const names = useNames();
  if (kinds.length === 0) return null;
  return (
    <Behind label={t`Which cell is the strongest? By volts, by current, by power`}>
      <StrengthTable
        kinds={kinds}
        cell={(kind) => (
          <TextButton onPress={() => choose(kind.cell)}>
            {kind.short}, {bathName(names, { electrolyte: kind.electrolyte, condition: "" })}
          </TextButton>
        )}
      />
    </Behind>
  );
}
