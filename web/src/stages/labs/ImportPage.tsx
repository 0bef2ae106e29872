import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { FileTrigger } from "react-aria-components";
import { Navigate } from "react-router";
import { useHandOver, useImportPackage, useKeepTable, useTableIn } from "../../api/tables";
import { Frame } from "../../ui/Frame";
import { number, today } from "../../format";
import { Button, MainButton, MainLink } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Column, Columns, Form, Narrow, Num, Row, Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { ProblemNote } from "../../ui/ProblemNote";
import type { Told } from "./MendTable";
import { TablePreview } from "./TablePreview";

const EXAMPLE = [
  [t`group`, t`red`, t`black`, t`electrolyte`, t`volts`],
  [t`Tern`, t`copper`, t`zinc`, t`lemon juice`, number(0.94, 2)],
  [t`Tern`, t`copper`, t`aluminum`, t`lemon juice`, number(0.52, 2)],
  [t`Knot`, "Zn", "Al", t`lemon juice`, "−340 mV"],
] as const;
const NOTHING: Told = { columns: {}, called: {}, sheet: "", heading: 0, cells: [], without: [] };
const isPackage = (file: File) => file.name.toLowerCase().endsWith(".zip");

function Example() {
  return (
    <Scroll role="region" aria-label={t`Example of a table`}>
      <Table>
        <thead>
          <tr>
            {EXAMPLE[0].map((name) => (
              <th key={name} scope="col">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {EXAMPLE.slice(1).map((row) => (
            <tr key={row.join()}>
              {row.map((cell) => (
                <td key={cell}>{cell}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

/** A package that has come in: how much, and whether the tables here are those it was made with. */
function CameIn({ made }: { made: NonNullable<ReturnType<typeof useImportPackage>["data"]> }) {
  return (
    <div role="status">
      <p>
        <Trans>
          “{made.title}” came in: {plural(made.rows["readings"] ?? 0, { one: "# reading", other: "# readings" })} of{" "}
          {plural(made.rows["groups"] ?? 0, { one: "# group", other: "# groups" })},{" "}
          {plural(made.rows["packs"] ?? 0, { one: "# pack", other: "# packs" })},{" "}
          {plural(made.rows["claims"] ?? 0, { one: "# claim", other: "# claims" })},{" "}
          {plural(made.rows["photographs"] ?? 0, { one: "# photograph", other: "# photographs" })}.
        </Trans>
        {made.edition !== made.edition_here &&
          t` It was judged by the tables of ${made.edition}; here stand those of ${made.edition_here}, so what is explained may differ.`}
      </p>
      <MainLink to={`/labs/${made.id}/compare`}>
        <Trans>See the result</Trans>
      </MainLink>
    </div>
  );
}

/** A class's own table, or another Pipette's package, becomes a lab: looked at first, and nothing half brought in. */
export function ImportPage() {
  const [file, setFile] = useState<File | null>(null);
  const [title, setTitle] = useState("");
  const [on, setOn] = useState(today);
  const [table, setTable] = useState<string | null>(null);
  const [told, setTold] = useState(NOTHING);
  const handOver = useHandOver();
  const bringPackage = useImportPackage();
  const seen = useTableIn(table);
  const keep = useKeepTable();
  const data = seen.data;
  const reading = handOver.isPending || data?.state === "reading";
  if (data?.state === "kept" && data.lab) return <Navigate to={`/labs/${data.lab}/compare`} replace />;
  const choose = (chosen: File) => {
    for (const one of [handOver, bringPackage, keep]) one.reset();
    setFile(chosen);
    setTable(null);
    setTold(NOTHING);
    setTitle((title) => title || chosen.name.replace(/\.\w+$/, "").replace(/[-_]+/g, " "));
    if (!isPackage(chosen)) handOver.mutate(chosen, { onSuccess: ({ id }) => setTable(id) });
  };
  return (
    <Frame title={t`Bring in a table`}>
      <Columns $left="minmax(0, 0.8fr)">
        <Column>
          <Narrow>
            <h1>
              <Trans>Bring in last week’s table</Trans>
            </h1>
            <Soft>
              <Trans>
                CSV, XLSX or ODS, one reading a line: minus signs, mV and decimal commas are understood. Or a package
                (zip) that Pipette has given out, here or at another school: it comes in whole. You see how it was
                understood before anything is kept.
              </Trans>
            </Soft>
            <Row>
              <FileTrigger
                acceptedFileTypes={[".csv", ".txt", ".tsv", ".xlsx", ".ods", ".zip"]}
                onSelect={(files) => files?.[0] && choose(files[0])}
              >
                <Button>{file ? t`Choose another file` : t`Choose the file`}</Button>
              </FileTrigger>
              {file && <Num>{file.name}</Num>}
            </Row>
            <ProblemNote problem={handOver.error ?? bringPackage.error ?? seen.error} />
            {reading && (
              <Soft role="status">
                <Trans>Reading it …</Trans>
              </Soft>
            )}
            {file && isPackage(file) && !bringPackage.data && (
              <MainButton onPress={() => bringPackage.mutate(file)}>
                {bringPackage.isPending ? t`One moment…` : t`Bring the package in`}
              </MainButton>
            )}
            {bringPackage.data && <CameIn made={bringPackage.data} />}
            {data && (data.state === "read" || data.state === "keeping") && (
              <Form
                onSubmit={(event) => {
                  event.preventDefault();
                  keep.mutate({ id: data.id, body: { title, on } });
                }}
              >
                <TextField label={t`Title of the lab`} value={title} onChange={setTitle} isRequired maxLength={120} />
                <TextField label={t`Date`} type="date" value={on} onChange={setOn} isRequired />
                <ProblemNote problem={keep.error} />
                <MainButton type="submit" isDisabled={!data.ready}>
                  {data.state === "keeping" ? t`One moment…` : t`Bring it in`}
                </MainButton>
              </Form>
            )}
            {data?.state === "refused" && (
              <div role="alert">
                <p>{data.message}</p>
                {data.columns.length > 0 && (
                  <p>
                    <Trans>Say beside it what each column holds: choose it next to its heading.</Trans>
                  </p>
                )}
              </div>
            )}
          </Narrow>
        </Column>
        <Column>
          {data && data.columns.length + data.faults.length + data.lines.length > 0 ? (
            <TablePreview seen={data} told={told} tell={setTold} />
          ) : (
            <>
              <h2>
                <Trans>What a table looks like</Trans>
              </h2>
              <Example />
              <Soft>
                <Trans>
                  Other words for the columns are understood too. A table that Pipette has exported comes in with all
                  its columns: condition, what was typed, the meter’s offset, what does not count and why.
                </Trans>
              </Soft>
            </>
          )}
        </Column>
      </Columns>
    </Frame>
  );
}
