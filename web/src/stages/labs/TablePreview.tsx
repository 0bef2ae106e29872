import type { Schemas } from "../../api/client";
import { useLookAgain } from "../../api/tables";
import { count } from "../../format";
import { Num, Scroll, Soft, Table } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";

type Seen = Schemas["TableSeen"];
const NOT_USED = "none";
const MEANS: Record<string, string> = {
  red: "plate with the red lead",
  black: "plate with the black lead",
  group: "group",
  electrolyte: "liquid",
  volts: "volts",
  "offset taken off, v": "offset taken off, V",
  "resolution, v": "resolution, V",
};

type Told = { columns: Record<string, string>; called: Record<string, string> };
type Props = { seen: Seen; told: Told; tell: (told: Told) => void };

/** How a table was understood: what each column holds, what its signs say, names that are not known, faulty lines. */
export function TablePreview({ seen, told, tell }: Props) {
  const again = useLookAgain();
  const change = (next: Told) => {
    tell(next);
    again.mutate({ id: seen.id, body: next });
  };
  const options = [
    { key: NOT_USED, name: "not used" },
    ...seen.meanings.map((key) => ({ key, name: MEANS[key] ?? key })),
  ];
  return (
    <section aria-label="How it was understood">
      <h2>How it was understood</h2>
      {seen.readings > 0 && (
        <p>
          {count(seen.readings, "reading")} of {count(seen.cells, "cell")}, {count(seen.groups.length, "group")}:{" "}
          {seen.groups.join(", ")}.
          {seen.aside > 0 && ` ${seen.aside} of them do not count by the table and will be set aside.`}
          {seen.loads > 0 && ` With them ${count(seen.loads, "measurement")} under load, from the table of loads.`}
        </p>
      )}
      <ul>
        {seen.says.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
      {seen.columns.length > 0 && (
        <Scroll tabIndex={0} role="region" aria-label="Columns">
          <Table>
            <thead>
              <tr>
                <th scope="col">heading</th>
                <th scope="col">it holds</th>
                <th scope="col">first values</th>
              </tr>
            </thead>
            <tbody>
              {seen.columns.map((column) => (
                <tr key={column.heading}>
                  <th scope="row">{column.heading || "(none)"}</th>
                  <td>
                    <Select
                      label={`What “${column.heading}” holds`}
                      hideLabel
                      options={options}
                      value={column.means && seen.meanings.includes(column.means) ? column.means : NOT_USED}
                      onChange={(means) =>
                        change({
                          ...told,
                          columns: { ...told.columns, [column.heading]: means === NOT_USED ? "" : means },
                        })
                      }
                    />
                    {column.unit && column.means === "volts" && <Soft>in {column.unit}</Soft>}
                  </td>
                  <td>
                    <Num>{column.examples.filter(Boolean).join(", ") || "–"}</Num>
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        </Scroll>
      )}
      {seen.unknown.map((one) => (
        <Select
          key={`${one.what}:${one.name}`}
          label={`“${one.name}” (${count(one.rows, "row")}) is no ${one.what === "electrode" ? "plate" : "liquid"} in the tables. It stands for`}
          options={one.nearest}
          value=""
          onChange={(key) => change({ ...told, called: { ...told.called, [one.name]: key } })}
        />
      ))}
      {seen.faults.length > 0 && (
        <>
          <h3>
            {seen.whole ? count(seen.faults.length, "faulty line") : `At least ${seen.faults.length} faulty lines`}
          </h3>
          <Soft>
            Nothing comes in while a line is faulty. Mend them in the file, or above where a name is not known.
          </Soft>
          <ul>
            {seen.faults.slice(0, 20).map((fault) => (
              <li key={`${fault.line}:${fault.message}`}>
                <Num>line {fault.line}</Num>: {fault.message}
              </li>
            ))}
          </ul>
        </>
      )}
      <ProblemNote problem={again.error} />
    </section>
  );
}
