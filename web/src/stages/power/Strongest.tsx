import type { Schemas } from "../../api/client";
import { number } from "../../format";
import { bathName, useNames } from "../../lab/useNames";
import { Behind } from "../../ui/Behind";
import { TextButton } from "../../ui/Button";
import { Soft, Table } from "../../ui/layout";

type Props = { kinds: Schemas["KindOut"][]; choose: (cell: string) => void };

/** The class's cells by what they can do: most power first; the one with most volts need not be the strongest. */
export function Strongest({ kinds, choose }: Props) {
  const names = useNames();
  if (kinds.length === 0) return null;
  return (
    <Behind label="Which cell is the strongest? By volts, by current, by power">
      <Soft>In the first seconds, 4 cm² in the liquid, 2 cm apart; volts are the class’s.</Soft>
      <Table>
        <thead>
          <tr>
            <th>Cell</th>
            <th data-number>open, V</th>
            <th data-number>short circuit, mA</th>
            <th data-number>most power, mW</th>
            <th data-number>into, Ω</th>
            <th>current</th>
          </tr>
        </thead>
        <tbody>
          {kinds.map((kind) => (
            <tr key={kind.cell}>
              <th scope="row">
                <TextButton onPress={() => choose(kind.cell)}>
                  {kind.short}, {bathName(names, { electrolyte: kind.electrolyte, condition: "" })}
                </TextButton>
              </th>
              <td data-number>{number(kind.open_v, 2)}</td>
              <td data-number>{number(1e3 * kind.short_a, 2)}</td>
              <td data-number>{number(1e3 * kind.power_w, 3)}</td>
              <td data-number>{kind.at_ohm === null ? "" : number(kind.at_ohm, 0)}</td>
              <td>{kind.under_load ? "measured" : "worked out"}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Behind>
  );
}
