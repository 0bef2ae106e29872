import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { TraceLine } from "../../charts/TraceLine";
import { asTyped, decimalsFor, moment, number, volts } from "../../format";
import { Asked } from "../../lab/Asked";
import { type Names, bathName } from "../../lab/useNames";
import { Num, Scroll, Soft, Table } from "../../ui/layout";
import { colour, print } from "../../ui/theme";
import { anchorOf } from "./citable";
import { Together, Working } from "./Paper";

type Cell = Schemas["BookCell"];

const Pictures = styled.ul`
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
  img {
    width: 14rem;
    max-width: 100%;
    border: 1px solid ${colour.hairline};
  }
  ${print} {
    img {
      width: 6cm;
    }
  }
`;

/** What is said of a reading in the margin of the record. */
function remark(one: Schemas["ReadingOut"], reasons: Map<string, string>): string {
  if (one.corrected_by) return `corrected: ${reasons.get(one.id) ?? ""}`;
  if (one.aside) return `set aside by the teacher: ${one.aside}`;
  const origin = { meter: "from the meter", imported: "from a file", simulated: "simulated" }[one.origin] ?? "";
  return [
    one.corrects && "a correction",
    one.offset_v !== 0 && `${volts(one.offset_v, 3, true)} of the meter taken off`,
    one.after_closing && "came in after closing",
    origin,
  ]
    .filter(Boolean)
    .join(", ");
}

const withU = (mean: number, u: number | null) =>
  `${number(mean, decimalsFor(u))}${u === null ? "" : ` ± ${number(u, decimalsFor(u))}`}\u202fV`;

function Readings({ cell, names }: { cell: Cell; names: Names }) {
  if (cell.readings.length === 0) return <Soft>No reading.</Soft>;
  const reasons = new Map(cell.readings.flatMap((one) => (one.corrects ? [[one.corrects, one.reason] as const] : [])));
  return (
    <Scroll tabIndex={0} role="region" aria-label={`Readings of ${cell.short}`}>
      <Table>
        <thead>
          <tr>
            <th scope="col">at</th>
            <th scope="col">meter showed</th>
            <th scope="col">red on</th>
            <th scope="col">note</th>
          </tr>
        </thead>
        <tbody>
          {cell.readings.map((one) => (
            <tr key={one.id} id={anchorOf({ kind: "reading", id: one.id })}>
              <td>{moment(one.taken_at)}</td>
              <td>
                <Num as={one.corrected_by || one.aside ? "s" : "span"}>{asTyped(one.text, one.unit)}</Num>
              </td>
              <td>{names.symbol(one.red)}</td>
              <td>{remark(one, reasons)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

/** What was kept of a cell beside its readings. */
export function Kept({ beside }: { beside: Schemas["Beside"] }) {
  const photos = beside.photos.filter((photo) => photo.removed_at === null);
  return (
    <>
      {beside.under_load.map((one) => (
        <p key={one.id} id={anchorOf({ kind: "load", id: one.id })}>
          <Num>{asTyped(one.text, one.unit)}</Num>{" "}
          {one.kind === "short" ? "short-circuit current" : `across ${one.load_ohm} Ω`}. {one.says}
        </p>
      ))}
      {beside.actuals.map((one) => (
        <p key={one.id}>
          {one.name} was really <Num>{one.text}</Num>.
        </p>
      ))}
      {beside.observations.map((one) => (
        <p key={one.id}>Seen: “{one.text}”</p>
      ))}
      {beside.questions.map((one) => (
        <p key={one.id}>
          <Asked question={one} />
        </p>
      ))}
      {beside.traces.map((one) => (
        <figure key={one.id} id={anchorOf({ kind: "trace", id: one.id })}>
          <TraceLine
            points={one.times_s.map((t, index) => [t, one.volts_v[index] ?? 0] as const)}
            label={`Voltage against time, ${one.name}`}
          />
          <figcaption>{one.name}</figcaption>
        </figure>
      ))}
      {photos.length > 0 && (
        <Pictures>
          {photos.map((photo, place) => (
            <li key={photo.id}>
              <img src={`/api/photos/${photo.id}`} alt={`Photograph ${place + 1}, ${moment(photo.received_at)}`} />
            </li>
          ))}
        </Pictures>
      )}
    </>
  );
}

/** One cell of a group's record: what was expected, every reading as typed, what stands beside, and the working. */
export function BookCell({ cell, names }: { cell: Cell; names: Names }) {
  const { own, classes } = cell;
  return (
    <Together>
      <h3>
        {names.plate(cell.negative)} and {names.plate(cell.positive)} in {bathName(names, cell)}
      </h3>
      {cell.prediction && (
        <p>
          Expected: {names.plate(cell.prediction.negative)} negative,{" "}
          <Num>{asTyped(cell.prediction.text, cell.prediction.unit)}</Num>.
        </p>
      )}
      <Readings cell={cell} names={names} />
      <Kept beside={cell.beside} />
      {own && (
        <p>
          Our value: <Num>{withU(own.mean_v, own.u_v)}</Num> (one standard uncertainty).{" "}
          {cell.table_v === null ? (
            "The table has no entry for this pair."
          ) : (
            <>
              Table: <Num>{volts(cell.table_v, 2)}</Num>.
            </>
          )}{" "}
          {classes && (
            <>
              The class: <Num>{withU(classes.mean_v, classes.u_v)}</Num>.
            </>
          )}
        </p>
      )}
      {own && <Working lines={own.working} label={`How our value of ${cell.short} came about`} />}
    </Together>
  );
}
