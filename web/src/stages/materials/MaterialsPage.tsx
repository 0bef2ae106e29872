import { type ReactNode, useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useMaterials, useOwnMaterials, useRetire, useSetShelf } from "../../api/materials";
import { Frame } from "../../ui/Frame";
import { Waiting } from "../../ui/Waiting";
import { number } from "../../format";
import { TextButton } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Column, Scroll, Soft, Table } from "../../ui/layout";
import { Notes } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";
import { OwnElectrode, OwnElectrolyte } from "./OwnForms";
import { MakeLiquid } from "./MakeLiquid";
import { TwoSolutions } from "./TwoSolutions";
import { Cell } from "./styles";

type Shelf = Schemas["OnShelf"];
type Material = { key: string; name: string; own: boolean; retired: boolean; usual: boolean; shelf: Shelf };

const asNumber = (text: string): number | null | undefined => {
  if (!text.trim()) return null;
  const value = Number(text.replace(",", "."));
  return Number.isFinite(value) && value >= 0 ? value : undefined;
};

/** How many there are and what one costs; kept on leaving the field. */
function ShelfCells({ material, unit }: { material: Material; unit: string }) {
  const set = useSetShelf(material.key);
  const [count, setCount] = useState<string | null>(null);
  const [price, setPrice] = useState<string | null>(null);
  const shown = (typed: string | null, kept: number | null) => typed ?? (kept === null ? "" : String(kept));
  const [there, cost] = [asNumber(shown(count, material.shelf.count)), asNumber(shown(price, material.shelf.price))];
  const wrong =
    there === undefined || cost === undefined || (unit === "piece" && there !== null && !Number.isInteger(there));
  const save = () => {
    if (wrong || (count === null && price === null)) return;
    const sent = { count, price };
    set.mutate(
      { count: there, price: cost },
      {
        // What was typed meanwhile stays.
        onSuccess: () => {
          setCount((now) => (now === sent.count ? null : now));
          setPrice((now) => (now === sent.price ? null : now));
        },
      },
    );
  };
  return (
    <>
      <Cell>
        <TextField
          aria-label={`${material.name}: how many there are`}

          value={shown(count, material.shelf.count)}
          onChange={setCount}
          onBlur={save}
          inputMode="decimal"
          maxLength={6}
          error={wrong ? "A number, please" : (set.error?.message ?? null)}
        />
      </Cell>
      <Cell>
        <TextField
          aria-label={`${material.name}: price of one ${unit}`}

          value={shown(price, material.shelf.price)}
          onChange={setPrice}
          onBlur={save}
          inputMode="decimal"
          maxLength={8}
        />
      </Cell>
    </>
  );
}

type ListProps<T extends Material> = {
  title: string;
  unit: string;
  rows: T[];
  about: (row: T) => ReactNode;
  change: (key: string) => void;
};

function List<T extends Material>({ title, unit, rows, about, change }: ListProps<T>) {
  const [all, setAll] = useState(false);
  const retire = useRetire();
  const there = rows.filter((row) => !row.retired);
  const shown = there.filter((row) => all || row.usual || row.shelf.count !== null);
  return (
    <>
      <h2>{title}</h2>
      <ProblemNote problem={retire.error} />
      <Scroll tabIndex={0} role="region" aria-label={title}>
        <Table>
          <thead>
            <tr>
              <th scope="col">name</th>
              <th scope="col">what it is</th>
              <th scope="col">{unit === "litre" ? "litres" : "how many"}</th>
              <th scope="col">price of one {unit}</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((row) => (
              <tr key={row.key}>
                <th scope="row">
                  {row.name}
                  {row.own && (
                    <>
                      {" "}
                      (yours) <TextButton onPress={() => change(row.key)}>Change {row.name}</TextButton>{" "}
                      <TextButton onPress={() => retire.mutate(row.key)}>Offer {row.name} no more</TextButton>
                    </>
                  )}
                </th>
                <td>{about(row)}</td>
                <ShelfCells material={row} unit={unit} />
              </tr>
            ))}
          </tbody>
        </Table>
      </Scroll>
      <p>
        <TextButton onPress={() => setAll(!all)}>{all ? "Show the usual ones" : `Show all ${there.length}`}</TextButton>
      </p>
    </>
  );
}

const NOTES = [
  {
    code: "counts",
    tone: "plain" as const,
    title: "Counts are kept as you leave the field",
    text: "Where fewer plates are there than groups, a plan gives them to that many groups only. Empty means enough.",
  },
  {
    code: "own",
    tone: "plain" as const,
    title: "Your own materials",
    text: "They are used everywhere like the shipped ones. A change makes a new one: old labs keep what they were judged by.",
  },
];

/** The form of a material that is changed, brought into view. */
function Changing({ name, children }: { name: string; children: ReactNode }) {
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), []);
  return (
    <section aria-label={`Change ${name}`}>
      <h3 ref={heading} tabIndex={-1}>
        Change {name}
      </h3>
      <Soft>Old labs keep it as it was; new ones get the changed one, with its count and price.</Soft>
      {children}
    </section>
  );
}

/** The teacher's cupboard: what there is, what it costs, and materials of their own. */
export function MaterialsPage() {
  const materials = useMaterials();
  const own = useOwnMaterials();
  const [changing, setChanging] = useState<string | null>(null);
  if (!materials.data) return <Waiting title="Cupboard" error={materials.error} />;
  const { electrodes, electrolytes, edition } = materials.data;
  const plate = own.data?.electrodes.find((one) => one.key === changing);
  const liquid = own.data?.electrolytes.find((one) => one.key === changing);
  const done = () => setChanging(null);
  return (
    <Frame title="Cupboard" lab="Your cupboard" about={`tables of ${edition}`} margin={<Notes notes={NOTES} />}>
      <Column>
        <h1>Your cupboard</h1>
        <p>
          <Link to="/labs">Back to your labs</Link>
        </p>
        <List
          title="Plates"
          unit="piece"
          rows={electrodes}
          change={setChanging}
          about={(row) => (
            <>
              {row.symbol}, {row.table_v === null ? "not in the table" : `${number(row.table_v, 2, true)} V`}
            </>
          )}
        />
        {plate && (
          <Changing name={plate.name}>
            <OwnElectrode key={plate.key} materials={materials.data} changes={plate} done={done} />
          </Changing>
        )}
        <Disclosure title="Add a plate of your own">
          <OwnElectrode materials={materials.data} changes={null} done={done} />
        </Disclosure>
        <List
          title="Liquids"
          unit="litre"
          rows={electrolytes}
          change={setChanging}
          about={(row) => (
            <>
              {row.form}, pH {number(row.ph_low, 1)} to {number(row.ph_high, 1)}
            </>
          )}
        />
        {liquid && (
          <Changing name={liquid.name}>
            <OwnElectrolyte key={liquid.key} materials={materials.data} changes={liquid} done={done} />
          </Changing>
        )}
        <Disclosure title="Add a liquid of your own">
          <OwnElectrolyte materials={materials.data} changes={null} done={done} />
        </Disclosure>
        <Disclosure title="Make a liquid from another">
          <MakeLiquid materials={materials.data} done={done} />
        </Disclosure>
        <Disclosure title="Two solutions and a bridge">
          <TwoSolutions materials={materials.data} done={done} />
        </Disclosure>
        <Soft>Prices are in your own currency. Nothing here is shown to groups but names.</Soft>
      </Column>
    </Frame>
  );
}
