import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useAddElectrode, useAddElectrolyte, type useOwnMaterials } from "../../api/materials";
import { Button, TextButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Form, Row, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";
import { useKept } from "../../ui/useKept";

type Kept<T> = T | null;
type Props<T> = { materials: Schemas["MaterialsOut"]; changes: Kept<T>; done: () => void };
type Plate = Schemas["OwnElectrodeOut"];
type Liquid = NonNullable<ReturnType<typeof useOwnMaterials>["data"]>["electrolytes"][number];

const NONE = "none";
const PLATE = { name: "", symbol: "", couple: "Zn2+/Zn", surface: "zinc", prepare: "" };
const LIQUID = {
  name: "",
  form: "juice",
  ph: ["", ""],
  conductivity: ["0.2", "0.8"],
  chloride: ["0.001", "0.03"],
  copper: "0",
  zinc: "0",
};

const texts = (values: number[]) => values.map(String);

const plateTyped = (plate: Plate | null): typeof PLATE =>
  plate
    ? {
        name: plate.name,
        symbol: plate.symbol,
        couple: plate.couple ?? NONE,
        surface: plate.surface,
        prepare: plate.prepare,
      }
    : PLATE;

const liquidTyped = (liquid: Liquid | null): typeof LIQUID =>
  liquid
    ? {
        name: liquid.name,
        form: liquid.form,
        ph: texts(liquid.ph),
        conductivity: texts(liquid.conductivity_s_per_m),
        chloride: texts(liquid.chloride_mol_per_l),
        copper: String(liquid.copper_mol_per_l),
        zinc: String(liquid.zinc_mol_per_l),
      }
    : LIQUID;

/** A plate of one's own: which couple it stands for and which surface it is like; a change makes a new one. */
export function OwnElectrode({ materials, changes, done }: Props<Plate>) {
  const add = useAddElectrode();
  const [typed, setTyped, forget] = useKept(`own-plate${changes ? `:${changes.key}` : ""}`, () => plateTyped(changes));
  const set = (change: Partial<typeof PLATE>) => setTyped((before) => ({ ...before, ...change }));
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        const couple = typed.couple === NONE ? null : typed.couple;
        add.mutate(
          { ...typed, couple, replaces: changes?.key ?? "" },
          {
            onSuccess: () => {
              setTyped(PLATE);
              forget();
              done();
            },
          },
        );
      }}
    >
      <Row>
        <TextField label={t`Name`} value={typed.name} onChange={(name) => set({ name })} isRequired maxLength={60} />
        <TextField
          label={t`Short sign`}
          value={typed.symbol}
          onChange={(symbol) => set({ symbol })}
          isRequired
          maxLength={8}
        />
      </Row>
      <Select
        label={t`Its line in the table`}
        options={[{ key: NONE, name: t`none: it does not dissolve` }, ...materials.couples]}
        value={typed.couple}
        onChange={(couple) => set({ couple })}
      />
      <Select
        label={t`What the liquid meets`}
        hint={t`Its kinetics are used for the rest potential: choose the metal at the surface.`}
        options={materials.surfaces}
        value={typed.surface}
        onChange={(surface) => set({ surface })}
      />
      <TextField
        label={t`How to prepare it`}
        value={typed.prepare}
        onChange={(prepare) => set({ prepare })}
        maxLength={200}
      />
      <ProblemNote problem={add.error} />
      <Row>
        <Button type="submit">{changes ? t`Keep the changed plate` : t`Keep this plate`}</Button>
        {changes && (
          <TextButton onPress={done}>
            <Trans>Leave it as it was</Trans>
          </TextButton>
        )}
      </Row>
    </Form>
  );
}

const span = ([low, high]: string[]): [number, number] => {
  const numbers = [low, high].map((text) => Number((text ?? "").replace(",", ".")));
  return [numbers[0] ?? NaN, numbers[1] ?? NaN];
};

type SpanProps = { label: string; value: string[]; onChange: (value: string[]) => void };

function Span({ label, value, onChange }: SpanProps) {
  const [low = "", high = ""] = value;
  return (
    <Row>
      <TextField
        label={t`${label}, from`}
        value={low}
        onChange={(text) => onChange([text, high])}
        inputMode="decimal"
        isRequired
        maxLength={8}
      />
      <TextField
        label={t`to`}
        aria-label={t`${label}, to`}
        value={high}
        onChange={(text) => onChange([low, text])}
        inputMode="decimal"
        isRequired
        maxLength={8}
      />
    </Row>
  );
}

/** A liquid of one's own, its numbers as ranges: what is not known exactly is said so. */
export function OwnElectrolyte({ materials, changes, done }: Props<Liquid>) {
  const add = useAddElectrolyte();
  const [typed, setTyped, forget] = useKept(`own-liquid${changes ? `:${changes.key}` : ""}`, () =>
    liquidTyped(changes),
  );
  const [wrong, setWrong] = useState(false);
  const set = (change: Partial<typeof LIQUID>) => setTyped((before) => ({ ...before, ...change }));
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        const [copper, zinc] = [typed.copper, typed.zinc].map((text) => Number(text.replace(",", "."))) as [
          number,
          number,
        ];
        const body = {
          name: typed.name,
          form: typed.form,
          ph: span(typed.ph),
          conductivity_s_per_m: span(typed.conductivity),
          chloride_mol_per_l: span(typed.chloride),
          copper_mol_per_l: copper,
          zinc_mol_per_l: zinc,
          replaces: changes?.key ?? "",
        };
        const numbers = [...body.ph, ...body.conductivity_s_per_m, ...body.chloride_mol_per_l, copper, zinc];
        setWrong(numbers.some(Number.isNaN));
        if (numbers.some(Number.isNaN)) return;
        add.mutate(body, {
          onSuccess: () => {
            setTyped(LIQUID);
            forget();
            done();
          },
        });
      }}
    >
      <TextField label={t`Name`} value={typed.name} onChange={(name) => set({ name })} isRequired maxLength={60} />
      <Select label={t`Form`} options={materials.forms} value={typed.form} onChange={(form) => set({ form })} />
      <Span label={t`pH`} value={typed.ph} onChange={(ph) => set({ ph })} />
      <Span
        label={t`Conductivity, S/m`}
        value={typed.conductivity}
        onChange={(conductivity) => set({ conductivity })}
      />
      <Span label={t`Chloride, mol/L`} value={typed.chloride} onChange={(chloride) => set({ chloride })} />
      <Row>
        <TextField
          label={t`Copper ions, mol/L`}
          value={typed.copper}
          onChange={(copper) => set({ copper })}
          inputMode="decimal"
          maxLength={6}
        />
        <TextField
          label={t`Zinc ions, mol/L`}
          value={typed.zinc}
          onChange={(zinc) => set({ zinc })}
          inputMode="decimal"
          maxLength={6}
        />
      </Row>
      <Soft>
        <Trans>A wide range is honest: it widens what the accounts predict.</Trans>
      </Soft>
      {wrong && (
        <p role="alert">
          <Trans>One of these is not a number. What you typed is still here.</Trans>
        </p>
      )}
      <ProblemNote problem={add.error} />
      <Row>
        <Button type="submit">{changes ? t`Keep the changed liquid` : t`Keep this liquid`}</Button>
        {changes && (
          <TextButton onPress={done}>
            <Trans>Leave it as it was</Trans>
          </TextButton>
        )}
      </Row>
    </Form>
  );
}
