import type { Schemas } from "../api/client";
import { useEvidence } from "../api/notebook";
import { count, volts } from "../format";
import { Disclosure } from "../ui/controls";
import { Soft } from "../ui/layout";
import { Kept } from "./Kept";

type Props = { lab: string; cell: Schemas["CellIO"] };

/** What groups kept of a cell beside its readings: loads, notes, photographs, traces, questions, packs built of it. */
export function EvidenceOf({ lab, cell }: Props) {
  const evidence = useEvidence(lab, cell).data;
  if (!evidence) return null;
  const { groups, packs } = evidence;
  if (groups.length + packs.length === 0) return <Soft>Beside its readings groups kept nothing of this cell.</Soft>;
  return (
    <Disclosure
      title="What groups saw and kept of this cell"
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
          <strong>{pack.group}</strong> built {count(pack.steps.length, "cell")} in a row for {pack.load_name}
          {pack.open_v !== null && `: ${volts(pack.open_v, 2)} together`}.{" "}
          {pack.findings.map((finding) => finding.title).join(" ")}
        </p>
      ))}
    </Disclosure>
  );
}
