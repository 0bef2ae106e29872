import { t } from "@lingui/core/macro";
import type { Schemas } from "../../api/client";
import { WhatIsSaid } from "../../lab/WhatIsSaid";

/** What the checks say of the reading that was just recorded, directly under it. */
export function SaidOfLast({ findings }: { findings: Schemas["FindingOut"][] }) {
  return (
    <WhatIsSaid
      label={t`What this reading says`}
      kept={t`Your number is kept.`}
      findings={findings.map((finding) => ({ ...finding, key: `${finding.reading} ${finding.code}` }))}
    />
  );
}
