import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { FileTrigger } from "react-aria-components";
import type { Schemas } from "../../api/client";
import { useImportPacks, useLabPacks, usePackRun } from "../../api/packs";
import { RunChart, isDrawn } from "../../charts/RunChart";
import { number } from "../../format";
import { leftOut } from "../../lab/standing";
import { Behind } from "../../ui/Behind";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { Heads } from "../../ui/Heads";
import { Soft, Table } from "../../ui/layout";
import { Notes } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";
import { colour } from "../../ui/theme";
import { packWord } from "../../ui/packWords";

const last = (pack: Schemas["KeptPack"], kind: string) =>
  pack.entries.findLast((entry) => entry.kind === kind && entry.corrected_by === null && !leftOut(entry));

/** A group's pack over time: what it typed, the model's line beside, and what it says. */
function RunOf({ pack }: { pack: Schemas["KeptPack"] }) {
  const { data: run, error } = usePackRun(pack.id, true);
  if (!run) return <ProblemNote problem={error} />;
  if (!isDrawn(run)) return null;
  return (
    <section aria-label={t`${pack.group} over time`}>
      <h2>
        <Trans>
          {pack.group}: {run.title}, over time
        </Trans>
      </h2>
      <RunChart run={run} />
      <Notes notes={run.notes.map((note) => ({ ...note, action: undefined }))} />
    </section>
  );
}

/** A table of packs, as it was given out here or elsewhere, into this lab. */
function BringIn({ id }: { id: string }) {
  const bring = useImportPacks(id);
  const came = bring.data;
  return (
    <Disclosure title={t`Bring in a table of packs`} detail={t`as Pipette gives it out, CSV`}>
      <Soft>
        <Trans>Its groups have to be this lab’s. A pack that is here already is left as it is.</Trans>
      </Soft>
      <FileTrigger acceptedFileTypes={[".csv", ".txt"]} onSelect={(files) => files?.[0] && bring.mutate(files[0])}>
        <Button>
          <Trans>Choose a file</Trans>
        </Button>
      </FileTrigger>
      {came && (
        <p role="status">
          <Trans>
            {plural(came.packs, { one: "# pack", other: "# packs" })} with{" "}
            {plural(came.entries, { one: "# entry", other: "# entries" })} came in
          </Trans>
          {came.known > 0 && t`; ${came.known} were here already`}.
        </p>
      )}
      <ProblemNote problem={bring.error} />
    </Disclosure>
  );
}

/** What the groups have built: how many cells, what they give, what was seen, and what the numbers say of it. */
export function GroupPacks({ id }: { id: string }) {
  const { data, error } = useLabPacks(id);
  if (!data) return <ProblemNote problem={error} />;
  if (data.packs.length === 0)
    return (
      <>
        <Soft>
          <Trans>No group has built a pack yet. Tick the bench for packs in the margin.</Trans>
        </Soft>
        <BringIn id={id} />
      </>
    );
  const runs = data.packs.filter(
    (pack) => pack.files.length > 0 || pack.entries.some((entry) => ["run_v", "run_a"].includes(entry.kind)),
  );
  return (
    <>
      <Behind label={t`What groups have built: ${plural(data.packs.length, { one: "# pack", other: "# packs" })}`}>
        <Table>
          <Heads
            of={[
              t`Group`,
              t`for`,
              { numbers: t`cells` },
              { numbers: t`added up, V` },
              { numbers: t`measured, V` },
              { numbers: t`through the load, mA` },
              t`seen`,
              t`what the numbers say`,
            ]}
          />
          <tbody>
            {data.packs.map((pack) => {
              const step = pack.steps.at(-1);
              const through = last(pack, "load_a")?.value ?? null;
              return (
                <tr key={pack.id}>
                  <th scope="row">{pack.group}</th>
                  <td>{pack.load_name}</td>
                  <td data-number>{pack.steps.length}</td>
                  <td data-number>{(step?.singles_v ?? null) === null ? "" : number(step?.singles_v ?? 0, 2)}</td>
                  <td data-number>{pack.open_v === null ? "" : number(pack.open_v, 2)}</td>
                  <td data-number>{through === null ? "" : number(1e3 * through, 3)}</td>
                  <td>{packWord(last(pack, "seen")?.text ?? "")}</td>
                  <td style={{ color: pack.findings.length > 0 ? colour.wrong : undefined }}>
                    {pack.findings.map((finding) => finding.title).join(" ") || t`nothing odd`}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </Table>
      </Behind>
      <BringIn id={id} />
      {runs.map((pack) => (
        <RunOf key={pack.id} pack={pack} />
      ))}
    </>
  );
}
