import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useAddMade, useMadePreview } from "../../api/materials";
import { current, number, volts } from "../../format";
import { Button, TextButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Form, Num, Row, Soft, Table } from "../../ui/layout";
import { Scroll } from "../../ui/Scroll";
import { Overtaken } from "../../ui/Overtaken";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";
import { useKept } from "../../ui/useKept";

type Unit = Schemas["StepIn"]["unit"];
type Step = { what: string; amount: string; unit: Unit };

const UNITS: Record<"g" | "mL", { key: Unit; name: string }[]> = {
  g: [
    { key: "g", name: t`g in 100 mL` },
    { key: "mol/L", name: "mol/L" },
    { key: "mass %", name: t`% by mass` },
    { key: "parts", name: t`parts` },
  ],
  mL: [
    { key: "mL", name: t`mL in 100 mL` },
    { key: "volume %", name: t`% by volume` },
    { key: "parts", name: t`parts` },
  ],
};
const STEP: Step = { what: "table-salt", amount: "2", unit: "g" };
const FRESH = { name: "", base: "lemon-juice", parts: "100", steps: [STEP], negative: "zinc", positive: "copper" };

const asNumber = (text: string) => Number(text.replace(",", "."));

/** A liquid made from another: what is stirred in, and what that does to its numbers and to a pair of plates. */
export function MakeLiquid({ materials, done }: { materials: Schemas["MaterialsOut"]; done: (key: string) => void }) {
  const add = useAddMade();
  const [typed, setTyped, forget] = useKept("made-liquid", FRESH);
  const [wrong, setWrong] = useState(false);
  const set = (change: Partial<typeof FRESH>) => setTyped((before) => ({ ...before, ...change }));
  const setStep = (at: number, change: Partial<Step>) =>
    set({ steps: typed.steps.map((step, index) => (index === at ? { ...step, ...change } : step)) });
  const single = materials.electrolytes.filter((electrolyte) => electrolyte.sides === null && !electrolyte.retired);
  const unitOf = (what: string) =>
    materials.additions.find((addition) => addition.key === what)?.unit === "g" ? "g" : "mL";
  const addable = [
    ...materials.additions.map(({ key, name }) => ({ key, name })),
    ...single.filter(({ pours }) => pours).map(({ key, name }) => ({ key, name: t`${name} (poured)` })),
  ];
  const parts = typed.steps.some((step) => step.unit === "parts");
  const steps = typed.steps.map((step) => ({ ...step, amount: asNumber(step.amount) }));
  const sound = steps.every((step) => step.amount > 0) && asNumber(typed.parts) > 0;
  const body: Schemas["MadeIn"] = {
    name: typed.name,
    base: typed.base,
    base_parts: asNumber(typed.parts),
    steps,
    negative: typed.negative,
    positive: typed.positive,
    replaces: "",
  };
  const preview = useMadePreview(sound ? { ...body, name: "" } : null);
  const hazards = [
    ...new Set(typed.steps.flatMap((step) => materials.additions.find(({ key }) => key === step.what)?.hazard || [])),
  ];
  const plates = materials.electrodes.filter((electrode) => !electrode.retired).map(({ key, name }) => ({ key, name }));
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        setWrong(!sound);
        if (!sound) return;
        add.mutate(body, {
          onSuccess: ({ key }) => {
            setTyped(FRESH);
            forget();
            done(key);
          },
        });
      }}
    >
      <Row>
        <Select
          label={t`Start with 100 mL of`}
          options={[{ key: "water", name: t`distilled water` }, ...single]}
          value={typed.base}
          onChange={(base) => set({ base })}
        />
        {parts && (
          <TextField
            label={t`Parts of it`}
            value={typed.parts}
            onChange={(text) => set({ parts: text })}
            inputMode="decimal"
            maxLength={6}
          />
        )}
      </Row>
      {typed.steps.map((step, at) => (
        <Row key={at} style={{ alignItems: "end" }}>
          <Select
            label={at === 0 ? t`Stir in` : t`and`}
            options={addable}
            value={step.what}
            onChange={(what) => setStep(at, { what, unit: unitOf(what) })}
          />
          <TextField
            label={t`How much`}
            value={step.amount}
            onChange={(amount) => setStep(at, { amount })}
            inputMode="decimal"
            maxLength={8}
          />
          <Select
            label={t`measured in`}
            options={UNITS[unitOf(step.what)]}
            value={step.unit}
            onChange={(unit) => setStep(at, { unit: unit as Unit })}
          />
          {typed.steps.length > 1 && (
            <TextButton onPress={() => set({ steps: typed.steps.filter((_, index) => index !== at) })}>
              <Trans>Leave it out</Trans>
            </TextButton>
          )}
        </Row>
      ))}
      {typed.steps.length < 6 && (
        <p>
          <TextButton onPress={() => set({ steps: [...typed.steps, { ...STEP, what: "citric-acid" }] })}>
            <Trans>Something more</Trans>
          </TextButton>
        </p>
      )}
      <Row>
        <Select label={t`Between`} options={plates} value={typed.negative} onChange={(negative) => set({ negative })} />
        <Select label={t`and`} options={plates} value={typed.positive} onChange={(positive) => set({ positive })} />
      </Row>
      {preview.data && sound && !preview.error && (
        <Overtaken by={preview.isPlaceholderData}>
          <Comes preview={preview.data} />
        </Overtaken>
      )}
      <ProblemNote problem={sound ? preview.error : null} />
      {hazards.map((hazard) => (
        <p key={hazard}>{hazard}</p>
      ))}
      <TextField
        label={t`Name`}
        hint={preview.data && !preview.isPlaceholderData ? t`Empty: ${preview.data.name}` : undefined}
        value={typed.name}
        onChange={(name) => set({ name })}
        maxLength={60}
      />
      {wrong && !sound && (
        <p role="alert">
          <Trans>An amount is a number above zero. What you typed is still here.</Trans>
        </p>
      )}
      <ProblemNote problem={preview.error ? null : add.error} />
      <Row>
        <Button type="submit">
          <Trans>Keep this liquid</Trans>
        </Button>
      </Row>
    </Form>
  );
}

function Comes({ preview }: { preview: Schemas["MadePreview"] }) {
  return (
    <div role="status" aria-label={t`What it comes to`}>
      <p>
        <Trans>
          {preview.described}: pH <Num>{number(preview.ph, 1)}</Num>,{" "}
          <Num>{number(preview.conductivity_s_per_m, 2)}</Num> S/m, chloride{" "}
          <Num>{number(1000 * preview.chloride_mol_per_l, 1)}</Num> mmol/L.
        </Trans>
        {preview.foam_ml > 1 && t` It foams: about ${number(preview.foam_ml, 0)} mL of carbon dioxide; use a tall cup.`}
      </p>
      {preview.oxidant && <p>{preview.oxidant}</p>}
      {preview.foretold.length > 0 && (
        <Scroll>
          <Table>
            <thead>
              <tr>
                <th scope="col">{preview.foretold[0]?.short}</th>
                <th scope="col" data-number>
                  <Trans>open</Trans>
                </th>
                <th scope="col" data-number>
                  <Trans>shorted</Trans>
                </th>
              </tr>
            </thead>
            <tbody>
              {preview.foretold.map((one) => (
                <tr key={one.when}>
                  <th scope="row">{one.when}</th>
                  <td data-number>
                    {volts(one.volts_v, 2)} ± {number(one.u_v ?? 0, 2)}
                  </td>
                  <td data-number>
                    {one.oxidant && t`at least `}
                    {current(one.short_a)}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        </Scroll>
      )}
      <Soft>
        {preview.oxidant
          ? t`Foretold, one standard uncertainty; the oxidant’s own current is not in it.`
          : t`Foretold, one standard uncertainty; from before to after it is surer than that.`}
      </Soft>
    </div>
  );
}
