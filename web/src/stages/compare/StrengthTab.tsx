import { Trans } from "@lingui/react/macro";
import { Link } from "react-router";
import { usePower } from "../../api/power";
import { StrengthTable } from "../../lab/StrengthTable";
import { bathName, useNames } from "../../lab/useNames";
import { Column, Soft } from "../../ui/layout";

const IN_A_ROW = 3;

/** The class's cells under load: which gives most volts, most current, most power; each leads to a pack of it. */
export function StrengthTab({ id }: { id: string }) {
  const names = useNames();
  const power = usePower(id);
  if (!power.data)
    return (
      <Soft>
        <Trans>Working it out …</Trans>
      </Soft>
    );
  return (
    <Column>
      <h1>
        <Trans>Which cell is the strongest?</Trans>
      </h1>
      <StrengthTable
        kinds={power.data.kinds}
        cell={(kind) => (
          <Link
            to={`/labs/${id}/power?${Array.from({ length: IN_A_ROW }, () => `cell=${encodeURIComponent(kind.cell)}`).join("&")}`}
          >
            {kind.short}, {bathName(names, { electrolyte: kind.electrolyte, condition: "" })}
          </Link>
        )}
      />
    </Column>
  );
}
