import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../../api/client";
import { useAddTwo, useTwoPreview } from "../../api/materials";
import { CellDrawing } from "../../charts/CellDrawing";
import { current, number, volts } from "../../format";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Columns, Form, Num, Row, Soft } from "../../ui/layout";
import { Overtaken } from "../../ui/Overtaken";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";
import { useKept } from "../../ui/useKept";

type Side = { what: string; strength: string; plate: string };
const SALT = "salt:";
const FRESH = {
  name: "",
  bridge: "paper",
  left: { what: `${SALT}zinc-sulfate`, strength: "1", plate: "zinc" } as Side,
  right: { what: `${SALT}copper-sulfate`, strength: "1", plate: "copper" } as Side,
};

const strengthOf = (side: Side) => Number(side.strength.replace(",", "."));
const sideOf = (side: Side): Schemas["SideIn"] =>
  side.what.startsWith(SALT)
    ? { liquid: "", salt: side.what.slice(SALT.length), mol_per_l: strengthOf(side) }
    : { liquid: side.what, salt: "", mol_per_l: 1 };

type SideProps = {
  title: string;
  side: Side;
  materials: Schemas["MaterialsOut"];
  change: (change: Partial<Side>) => void;
};

/** One cup: what is in it, how strong, and which plate stands in it. */
function OneSide({ title, side, materials, change }: SideProps) {
  const salts = materials.additions.filter((addition) => addition.metal);
  const liquids = materials.electrolytes.filter((electrolyte) => electrolyte.pours && !electrolyte.retired);
  return (
    <div role="group" aria-label={title} style={{ display: "grid", gap: "0.8rem", padding: "0.6rem" }}>
      <h3>{title}</h3>
      <Select
        label={t`In it`}
        options={[
          ...salts.map(({ key, name }) => ({ key: SALT + key, name })),
          ...liquids.map(({ key, name }) => ({ key, name })),
        ]}
        value={side.what}
        onChange={(what) => {
          const metal = salts.find((salt) => SALT + salt.key === what)?.metal;
          change({ what, ...(metal && !side.plate.startsWith(metal) ? { plate: metal } : {}) });
        }}
      />
      {side.what.startsWith(SALT) && (
        <TextField
          label="mol/L"
          value={side.strength}
          onChange={(strength) => change({ strength })}
          inputMode="decimal"
          maxLength={8}
        />
      )}
      <Select
        label={t`Plate`}
        options={materials.electrodes.filter((electrode) => !electrode.retired).map(({ key, name }) => ({ key, name }))}
        value={side.plate}
        onChange={(plate) => change({ plate })}
      />
    </div>
  );
}

/** A cell of two solutions: both cups and the bridge, what they would give or why they cannot be. */
export function TwoSolutions({ materials, done }: { materials: Schemas["MaterialsOut"]; done: (key: string) => void }) {
  const add = useAddTwo();
  const [typed, setTyped, forget] = useKept("two-solutions", FRESH);
  const set = (change: Partial<typeof FRESH>) => setTyped((before) => ({ ...before, ...change }));
  const sound = [typed.left, typed.right].every((side) => !side.what.startsWith(SALT) || strengthOf(side) > 0);
  const body: Schemas["TwoIn"] = {
    name: typed.name,
    negative_side: sideOf(typed.left),
    positive_side: sideOf(typed.right),
    bridge: typed.bridge,
    negative: typed.left.plate,
    positive: typed.right.plate,
    replaces: "",
  };
  const preview = useTwoPreview(sound ? { ...body, name: "" } : null);
  const found = sound && !preview.error ? preview.data : undefined;
  const symbol = (key: string) => materials.electrodes.find((electrode) => electrode.key === key)?.symbol ?? key;
  const bridge = materials.bridges.find((one) => one.key === typed.bridge);
  const words = (side: Side) =>
    side.what.startsWith(SALT)
      ? t`${materials.additions.find((addition) => SALT + addition.key === side.what)?.name ?? ""} ${side.strength} mol/L`
      : (materials.electrolytes.find((electrolyte) => electrolyte.key === side.what)?.name ?? "");
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        if (!sound || found?.refusal) return;
        add.mutate(body, {
          onSuccess: ({ key }) => {
            setTyped(FRESH);
            forget();
            done(key);
          },
        });
      }}
    >
      <Columns $left="minmax(0, 1fr)">
        <OneSide
          title={t`Left cup`}
          side={typed.left}
          materials={materials}
          change={(change) => set({ left: { ...typed.left, ...change } })}
        />
        <OneSide
          title={t`Right cup`}
          side={typed.right}
          materials={materials}
          change={(change) => set({ right: { ...typed.right, ...change } })}
        />
      </Columns>
      <Select
        label={t`Joined by`}
        options={materials.bridges}
        value={typed.bridge}
        onChange={(key) => set({ bridge: key })}
      />
      <div style={{ maxWidth: "24rem" }}>
        <CellDrawing
          left={{ key: typed.left.plate, symbol: symbol(typed.left.plate) }}
          right={{ key: typed.right.plate, symbol: symbol(typed.right.plate) }}
          liquid={{ key: "", name: bridge?.name ?? "" }}
          cups={{ left: words(typed.left), right: words(typed.right), joined: typed.bridge }}
          redOnLeft={false}
        />
      </div>
      {found && (
        <Overtaken by={preview.isPlaceholderData}>
          <div role="status" aria-label={t`What it would give`}>
            {found.refusal ? (
              <p>
                <strong>
                  <Trans>This cannot be:</Trans>
                </strong>{" "}
                {found.refusal}
              </p>
            ) : (
              found.foretold && (
                <p>
                  <Trans>
                    {found.foretold.short}: <Num>{volts(found.foretold.volts_v, 3)}</Num> ±{" "}
                    {number(found.foretold.u_v ?? 0, 3)}, shorted
                  </Trans>
                  {found.foretold.oxidant && t` at least`} <Num>{current(found.foretold.short_a)}</Num>.{" "}
                  {found.table_v !== null && t`The table’s difference is ${volts(found.table_v, 3)}. `}
                  <Trans>
                    The bridge adds <Num>{number(1000 * found.junction_v, 1, true)}</Num> mV.
                  </Trans>
                </p>
              )
            )}
          </div>
        </Overtaken>
      )}
      {!sound && (
        <p role="alert">
          <Trans>A strength is a number above zero. What you typed is still here.</Trans>
        </p>
      )}
      <ProblemNote problem={sound ? preview.error : null} />
      <TextField
        label={t`Name`}
        hint={found && !preview.isPlaceholderData ? t`Empty: ${found.name}` : undefined}
        value={typed.name}
        onChange={(name) => set({ name })}
        maxLength={60}
      />
      <ProblemNote problem={preview.error ? null : add.error} />
      <Row>
        <Button type="submit" isDisabled={!sound || Boolean(found?.refusal)}>
          <Trans>Keep these two solutions</Trans>
        </Button>
        <Soft>
          <Trans>It then stands among the liquids of a plan; its solutions are made as the kit says.</Trans>
        </Soft>
      </Row>
    </Form>
  );
}
