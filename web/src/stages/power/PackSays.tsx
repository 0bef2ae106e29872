import { t } from "@lingui/core/macro";
import type { Schemas } from "../../api/client";
import { number } from "../../format";
import { WhatIsSaid } from "../../lab/WhatIsSaid";
import { Heads } from "../../ui/Heads";
import { Num, Table } from "../../ui/layout";
import { colour } from "../../ui/theme";

/** What the numbers of a pack say. */
export function PackSays({ findings }: { findings: Schemas["PackFindingOut"][] }) {
  return (
    <WhatIsSaid
      label={t`What this pack says`}
      kept={t`Your numbers are kept.`}
      findings={findings.map((finding) => ({ ...finding, key: `${finding.code} ${finding.cell}` }))}
    />
  );
}

const volts = (value: number | null) => (value === null ? "" : number(value, 2));

/** The cells in their order: alone, added up, measured together, and what is missing. */
export function StepTable({ pack }: { pack: Schemas["KeptPack"] }) {
  const off = new Set(pack.findings.map((finding) => finding.cell));
  if (pack.steps.length === 0) return null;
  return (
    <Table>
      <Heads
        of={[
          t`joined`,
          { numbers: t`alone` },
          { numbers: t`added up` },
          { numbers: t`measured` },
          { numbers: t`short by` },
        ]}
      />
      <tbody>
        {pack.steps.map((step) => (
          <tr key={step.cell}>
            <th scope="row">{step.cell === 1 ? "1" : t`1 to ${step.cell}`}</th>
            <td data-number>{volts(step.alone_v)}</td>
            <td data-number>{volts(step.singles_v)}</td>
            <td data-number>
              <strong>{volts(step.sum_v)}</strong>
            </td>
            <td data-number>
              {off.has(step.cell) ? (
                <Num as="strong" style={{ color: colour.wrong }}>
                  {volts(step.short_v)}
                </Num>
              ) : (
                volts(step.short_v)
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
