import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { asTyped, decimalsFor, moment, number, volts } from "../../format";
import { Kept, anchorOf } from "../../lab/Kept";
import { leftOut, standingOf, struck } from "../../lab/standing";
import { becauseSaid } from "../../lab/predicted";
import { type Names, bathName } from "../../lab/useNames";
import { Heads } from "../../ui/Heads";
import { Num, Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { Together, Working } from "./Paper";

type Cell = Schemas["BookCell"];
/** `nth`: its place in the group's list, since the shared cell stands there twice. */
type Props = { cell: Cell; names: Names; nth: number };

/** What is said of a reading in the margin of the record. */
function remark(one: Schemas["ReadingOut"], reasons: Map<string, string>): string {
  if (one.corrected_by) return t`corrected: ${reasons.get(one.id) ?? ""}`;
  if (one.aside) return t`set aside by the teacher: ${one.aside}`;
  if (leftOut(one)) return standingOf(one);
  const origin = { meter: t`from the meter`, imported: t`from a file`, simulated: t`simulated` }[one.origin] ?? "";
  return [
    one.corrects && t`a correction`,
    one.offset_v !== 0 && t`${volts(one.offset_v, 3, true)} of the meter taken off`,
    one.after_closing && t`came in after closing`,
    origin,
  ]
    .filter(Boolean)
    .join(", ");
}

const withU = (mean: number, u: number | null) =>
  `${number(mean, decimalsFor(u))}${u === null ? "" : ` ± ${number(u, decimalsFor(u))}`}\u202fV`;

function Readings({ cell, names, nth }: Props) {
  if (cell.readings.length === 0)
    return (
      <Soft>
        <Trans>No reading.</Trans>
      </Soft>
    );
  const reasons = new Map(cell.readings.flatMap((one) => (one.corrects ? [[one.corrects, one.reason] as const] : [])));
  return (
    <Scroll role="region" aria-label={t`Readings of cell ${nth}, ${cell.short}`}>
      <Table>
        <Heads of={[t`at`, t`meter showed`, t`red on`, t`note`]} />
        <tbody>
          {cell.readings.map((one) => (
            <tr key={one.id} id={anchorOf(one)}>
              <td>{moment(one.taken_at)}</td>
              <td>
                <Num as={struck(one) ? "s" : "span"}>{asTyped(one.text, one.unit)}</Num>
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

/** One cell of a group's record: what was expected, every reading as typed, what stands beside, and the working. */
export function BookCell({ cell, names, nth }: Props) {
  const { own, classes } = cell;
  return (
    <Together>
      <h3>
        <Trans>
          {names.plate(cell.negative)} and {names.plate(cell.positive)} in {bathName(names, cell)}
        </Trans>
      </h3>
      {cell.prediction?.text && (
        <p>
          <Trans>
            Expected: {names.plate(cell.prediction.negative)} negative,{" "}
            <Num>{asTyped(cell.prediction.text, cell.prediction.unit)}</Num>.
          </Trans>
        </p>
      )}
      {cell.prediction?.told && <p>{cell.prediction.told}</p>}
      {cell.prediction?.because && <Soft>{t`because: ${becauseSaid(cell.prediction.because)}`}</Soft>}
      <Readings cell={cell} names={names} nth={nth} />
      <Kept beside={cell.beside} />
      {own && (
        <p>
          <Trans>
            Our value: <Num>{withU(own.mean_v, own.u_v)}</Num>.
          </Trans>{" "}
          {cell.table_v === null ? (
            t`The table has no entry for this pair.`
          ) : (
            <>
              <Trans>
                Table: <Num>{volts(cell.table_v, 2)}</Num>.
              </Trans>
            </>
          )}{" "}
          {classes && (
            <>
              <Trans>
                The class: <Num>{withU(classes.mean_v, classes.u_v)}</Num>.
              </Trans>
            </>
          )}
        </p>
      )}
      {own && <Working lines={own.working} label={t`How our value of cell ${nth}, ${cell.short}, came about`} />}
    </Together>
  );
}
