import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { usePackRun } from "../../api/packs";
import { RunChart, isDrawn } from "../../charts/RunChart";
import { asTyped, number } from "../../format";
import { leftOut } from "../../lab/standing";
import { useNames } from "../../lab/useNames";
import { Heads } from "../../ui/Heads";
import { Num, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { anchorOf } from "../../lab/Kept";
import { Together } from "./Paper";
import { packWord } from "../../ui/packWords";
import { ProblemNote } from "../../ui/ProblemNote";

type Pack = Schemas["KeptPack"];
const isOverTime = (pack: Pack) =>
  pack.files.length > 0 || pack.entries.some((entry) => ["run_v", "run_a"].includes(entry.kind));

/** A pack over time, where it was watched. */
function Run({ pack }: { pack: Pack }) {
  const { data: run, error } = usePackRun(pack.id, true);
  if (!run) return <ProblemNote problem={error} />;
  if (!isDrawn(run)) return null;
  return (
    <figure>
      <RunChart run={run} />
      <figcaption>
        <Trans>{run.title}, over time</Trans>
      </figcaption>
      {run.notes.map((note) => (
        <p key={note.code}>
          {note.title} {note.text}
        </p>
      ))}
    </figure>
  );
}

const shown = (value: number | null) => (value === null ? "" : number(value, 2));
const UNDER: Partial<Record<Pack["entries"][number]["kind"], string>> = {
  load_v: t`across the load`,
  load_a: t`through the load`,
};

/** A pack as it was built: its cells, what they gave alone and together, and what the numbers say. */
function BookPack({ pack, named }: { pack: Pack; named: boolean }) {
  const names = useNames();
  const counting = pack.entries.filter((entry) => entry.corrected_by === null && !leftOut(entry));
  const cells = counting.filter((entry) => entry.kind === "cell");
  const cellAt = (position: number) => {
    const cell = cells.findLast((entry) => entry.position === position);
    return cell
      ? `${names.symbol(cell.negative)} | ${names.liquid(cell.electrolyte)} | ${names.symbol(cell.positive)}`
      : "";
  };
  return (
    <Together id={anchorOf(pack)}>
      <h3>
        {named && `${pack.group}: `}
        <Trans>
          {plural(pack.steps.length, { one: "# cell", other: "# cells" })} in a row for {pack.load_name}
        </Trans>
      </h3>
      <Scroll role="region" aria-label={t`Cells of the pack`}>
        <Table>
          <Heads
            of={[t`cell`, { numbers: t`alone, V` }, { numbers: t`added up, V` }, { numbers: t`measured together, V` }]}
          />
          <tbody>
            {pack.steps.map((step) => (
              <tr key={step.cell}>
                <td>
                  {step.cell}. {cellAt(step.cell)}
                </td>
                <td data-number>{shown(step.alone_v)}</td>
                <td data-number>{shown(step.singles_v)}</td>
                <td data-number>{shown(step.sum_v)}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      </Scroll>
      {counting.map(
        (entry) =>
          UNDER[entry.kind] && (
            <p key={entry.id}>
              <Num>{asTyped(entry.text, entry.unit)}</Num> {UNDER[entry.kind]}.
            </p>
          ),
      )}
      {counting
        .filter((entry) => entry.kind === "seen")
        .map((entry) => (
          <p key={entry.id}>
            <Trans>Seen: “{packWord(entry.text)}”</Trans>
          </p>
        ))}
      {pack.findings.map((finding) => (
        <p key={finding.title}>
          {finding.title} {finding.text}
        </p>
      ))}
      {isOverTime(pack) && <Run pack={pack} />}
    </Together>
  );
}

export function BookPacks({ packs, named = false }: { packs: Pack[]; named?: boolean }) {
  if (packs.length === 0) return null;
  return (
    <section aria-label={t`Packs`}>
      <h2>
        <Trans>Packs</Trans>
      </h2>
      {packs.map((pack) => (
        <BookPack key={pack.id} pack={pack} named={named} />
      ))}
    </section>
  );
}
