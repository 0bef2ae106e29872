import { useState } from "react";
import { FileTrigger } from "react-aria-components";
import { useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { useImport } from "../../api/labs";
import { Frame } from "../../ui/Frame";
import { count, today } from "../../format";
import { Button, MainButton, MainLink } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Column, Form, Narrow, Num, Row, Scroll, Soft, Table } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";

const EXAMPLE = [
  ["group", "red", "black", "electrolyte", "volts"],
  ["Tern", "copper", "zinc", "lemon juice", "0.94"],
  ["Tern", "copper", "aluminum", "lemon juice", "0.52"],
  ["Knot", "Zn", "Al", "lemon juice", "−340 mV"],
] as const;

/** What came in, and what of the table was not used or does not count. */
function Brought({ made }: { made: Schemas["Imported"] }) {
  return (
    <div role="status">
      <p>
        {count(made.readings, "reading")} of {count(made.groups, "group")} came in.
        {made.aside > 0 &&
          ` ${made.aside} of them ${made.aside === 1 ? "does" : "do"} not count by the table and ${made.aside === 1 ? "is" : "are"} set aside.`}
        {made.unused.length > 0 && ` Not understood and not used: ${made.unused.join(", ")}.`}
      </p>
      <MainLink to={`/labs/${made.id}/compare`}>See the result</MainLink>
    </div>
  );
}

/** A class's own table becomes a finished lab; faulty rows are named and nothing is half brought in. */
export function ImportPage() {
  const [file, setFile] = useState<File | null>(null);
  const [title, setTitle] = useState("");
  const [on, setOn] = useState(today);
  const bring = useImport();
  const navigate = useNavigate();
  return (
    <Frame title="Bring in a table">
      <Column>
        <Narrow>
          <h1>Bring in last week’s table</h1>
          <Soft>
            A CSV file with one reading a line. Minus signs, mV and decimal commas (in quotes, or with semicolons
            between columns) are understood. A table that Pipette has exported comes in with all its columns: condition,
            what was typed, the meter’s offset, what does not count and why. Columns it does not know are named.
          </Soft>
          <Scroll>
            <Table>
              <caption hidden>Example of a table</caption>
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
          <Form
            onSubmit={(event) => {
              event.preventDefault();
              if (file)
                bring.mutate(
                  { file, title, on },
                  {
                    onSuccess: (made) => {
                      if (made.unused.length === 0 && made.aside === 0) navigate(`/labs/${made.id}/compare`);
                    },
                  },
                );
            }}
          >
            <Row>
              <FileTrigger
                acceptedFileTypes={[".csv", "text/csv", "text/plain"]}
                onSelect={(files) => {
                  const chosen = files?.[0];
                  if (!chosen) return;
                  bring.reset();
                  setFile(chosen);
                  setTitle((title) => title || chosen.name.replace(/\.\w+$/, "").replace(/[-_]+/g, " "));
                }}
              >
                <Button>{file ? "Choose another file" : "Choose the file"}</Button>
              </FileTrigger>
              {file && <Num>{file.name}</Num>}
            </Row>
            <TextField label="Title of the lab" value={title} onChange={setTitle} isRequired maxLength={120} />
            <TextField label="Date" type="date" value={on} onChange={setOn} isRequired />
            <ProblemNote problem={bring.error} />
            {bring.data && <Brought made={bring.data} />}
            <MainButton type="submit" isDisabled={!file}>
              {bring.isPending ? "One moment…" : "Bring it in"}
            </MainButton>
          </Form>
        </Narrow>
      </Column>
    </Frame>
  );
}
