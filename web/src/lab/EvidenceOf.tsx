import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../api/client";
import { useEvidence } from "../api/notebook";
import { volts } from "../format";
import { Disclosure } from "../ui/controls";
import { Soft } from "../ui/layout";
import { ProblemNote } from "../ui/ProblemNote";
import { Kept } from "./Kept";

type Props = { lab: string; cell: Schemas["CellIO"] };

/** What groups kept of a cell beside its readings: loads, notes, photographs, traces, questions, packs built of it. */
export function EvidenceOf({ lab, cell }: Props) {
  const evidence = useEvidence(lab, cell);
  if (!evidence.data) return <ProblemNote problem={evidence.error} />;
  const { groups, packs } = evidence.data;
  if (groups.length + packs.length === 0)
    return (
      <Soft>
        <Trans>Beside its readings groups kept nothing of this cell.</Trans>
      </Soft>
    );
  return (
    <Disclosure
      title={t`What groups saw and kept of this cell`}
      detail={[...new Set([...groups.map((one) => one.group), ...packs.map((pack) => pack.group)])].join(", ")}
    >
      {groups.map((one) => (
        <section key={one.cell_id} aria-label={one.group}>
          <h3>{one.group}</h3>
          <Kept beside={one.beside} />
        </section>
      ))}
      {packs.map((pack) => (
        <p key={pack.id}>
          <Trans>
            <strong>{pack.group}</strong> built {plural(pack.steps.length, { one: "# cell", other: "# cells" })} in a
            row for {pack.load_name}
          </Trans>
          {pack.open_v !== null && t`: ${volts(pack.open_v, 2)} together`}.{" "}
          {pack.findings.map((finding) => finding.title).join(" ")}
        </p>
      ))}
    </Disclosure>
  );
}
