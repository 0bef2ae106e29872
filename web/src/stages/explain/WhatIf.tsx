import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useEffect, useRef, useState } from "react";
import { Label, Slider, SliderOutput, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useWhatIf } from "../../api/findings";
import { current, number, volts } from "../../format";
import { Button } from "../../ui/Button";
import { Tick } from "../../ui/controls";
import { Soft } from "../../ui/layout";
import { Overtaken } from "../../ui/Overtaken";
import { ProblemNote } from "../../ui/ProblemNote";
import { colour, font } from "../../ui/theme";

const Fields = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(14rem, 1fr));
  gap: 0.3rem 1.6rem;
  margin-top: 0.6rem;
`;

const Slide = styled(Slider)`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0.1rem 0.6rem;
  output {
    font-family: ${font.numbers};
  }
`;

const Track = styled(SliderTrack)`
  grid-column: 1 / -1;
  position: relative;
  height: 44px;
  &::before {
    content: "";
    position: absolute;
    inset: 20px 0 auto;
    height: 4px;
    border-radius: 2px;
    background: ${colour.hairline};
  }
`;

const Thumb = styled(SliderThumb)`
  top: 50%;
  width: 18px;
  height: 28px;
  border: 2px solid ${colour.ink};
  border-radius: 4px;
  background: ${colour.white};
  &[data-focus-visible] {
    outline: 3px solid ${colour.table};
    outline-offset: 2px;
  }
`;

const Result = styled.dl`
  display: grid;
  grid-template-columns: auto auto auto minmax(0, 1fr);
  gap: 0.15rem 1.1rem;
  dt,
  dd {
    border-bottom: 1px solid ${colour.bench};
  }
  dd {
    font-family: ${font.numbers};
    text-align: right;
  }
`;

type Values = {
  ph: number;
  ions: number;
  oxygen: number;
  celsius: number;
  area: number;
  gap: number;
  meter: number;
  pairs: number;
  chloride: number;
  kappa: number;
  stir: number;
  scratched: boolean;
  dull: boolean;
};

const USUAL = {
  ions: -9,
  oxygen: 1,
  celsius: 25,
  area: 4,
  gap: 2,
  meter: 7,
  pairs: 1,
  stir: 1,
  scratched: false,
  dull: false,
};
const SHORTEST_MS = 60;
const ohms = (value: number) =>
  value >= 1e6
    ? `${number(value / 1e6, 1)}\u202fMΩ`
    : value >= 1e3
      ? `${number(value / 1e3, 1)}\u202fkΩ`
      : `${number(value, 0)}\u202fΩ`;

type FieldProps = {
  label: string;
  shown: string;
  spoken?: string;
  value: number;
  low: number;
  high: number;
  step: number;
  change: (value: number) => void;
};

function Field({ label, shown, spoken = shown, value, low, high, step, change }: FieldProps) {
  const input = useRef<HTMLInputElement>(null);
  // What the slider means, in place of its bare number, for who hears it.
  useEffect(() => input.current?.setAttribute("aria-valuetext", spoken));
  return (
    <Slide value={value} minValue={low} maxValue={high} step={step} onChange={(next) => change(next as number)}>
      <Label>{label}</Label>
      <SliderOutput>{shown}</SliderOutput>
      <Track>
        <Thumb inputRef={input} />
      </Track>
    </Slide>
  );
}

/** One thing different about a cell: what the rest-potential model says would happen. */
export function WhatIf({ cell, positive }: { cell: Schemas["CellIO"]; positive: string }) {
  const [values, setValues] = useState<Partial<Values>>({});
  const [asked, setAsked] = useState<Partial<Values>>({});
  useEffect(() => {
    const timer = setTimeout(() => setAsked(values), SHORTEST_MS);
    return () => clearTimeout(timer);
  }, [values]);
  const body: Schemas["WhatIfIn"] = {
    cell,
    ph: asked.ph ?? null,
    ions_mol_per_l: asked.ions === undefined || asked.ions <= USUAL.ions ? null : 10 ** asked.ions,
    oxygen: asked.oxygen ?? USUAL.oxygen,
    stir: asked.stir ?? USUAL.stir,
    celsius: asked.celsius ?? USUAL.celsius,
    area_cm2: asked.area ?? USUAL.area,
    gap_cm: asked.gap ?? USUAL.gap,
    pairs: asked.pairs ?? USUAL.pairs,
    chloride_mol_per_l: asked.chloride === undefined ? null : 10 ** asked.chloride,
    conductivity_s_per_m: asked.kappa === undefined ? null : 10 ** asked.kappa,
    meter_ohm: 10 ** (asked.meter ?? USUAL.meter),
    scratched: asked.scratched ?? false,
    dull: asked.dull ?? false,
  };
  const answer = useWhatIf(body);
  const found = answer.data;
  // Where the liquid itself says a number, nothing stands until it has been asked.
  const known = (own: number | undefined) => found !== undefined || own !== undefined;
  const set = (change: Partial<Values>) => setValues((now) => ({ ...now, ...change }));
  const ph = values.ph ?? found?.ph ?? 7;
  const ions = values.ions ?? USUAL.ions;
  const meter = values.meter ?? USUAL.meter;
  const chloride = values.chloride ?? Math.log10(found?.chloride_mol_per_l ?? 0.01);
  const kappa = values.kappa ?? Math.log10(found?.conductivity_s_per_m ?? 0.5);
  const rows: [string, (one: Schemas["OutcomeOut"]) => string][] = [
    [t`the meter shows`, (one) => volts(one.shown_v, 3)],
    [t`short-circuit current, first seconds`, (one) => current(one.short_a)],
    [t`the same when it is steady`, (one) => current(one.steady_a)],
    [
      t`resistance inside, at ${current(found?.inside_a ?? 0)}`,
      (one) => (one.internal_ohm === null ? t`cannot give it` : ohms(one.internal_ohm)),
    ],
    [t`table difference`, (one) => (one.table_v === null ? t`no entry` : volts(one.table_v, 3))],
  ];
  return (
    <section aria-label={t`What if`}>
      <h2>
        <Trans>What if …</Trans>
      </h2>
      <Soft>
        <Trans>
          The rest-potential model with one thing different. It counts what each plate can take up: oxides are soon used
          up, oxygen and acid come only as fast as they drift through the liquid.
        </Trans>
      </Soft>
      <Fields>
        <Field
          label={t`pH`}
          shown={known(values.ph) ? number(ph, 1) : "…"}
          value={ph}
          low={0}
          high={14}
          step={0.1}
          change={(next) => set({ ph: next })}
        />
        <Field
          label={t`${positive} ions in the liquid, mol/L`}
          shown={ions <= USUAL.ions ? t`as it is` : `10^${number(ions, 1)}`}
          spoken={ions <= USUAL.ions ? t`as it is` : t`10 to the power of ${number(ions, 1)} moles per litre`}
          value={ions}
          low={-9}
          high={0}
          step={0.5}
          change={(next) => set({ ions: next })}
        />
        <Field
          label={t`Oxygen`}
          shown={`${number(values.oxygen ?? 1, 1)} ×`}
          spoken={t`${number(values.oxygen ?? 1, 1)} times what air gives`}
          value={values.oxygen ?? 1}
          low={0}
          high={4}
          step={0.1}
          change={(next) => set({ oxygen: next })}
        />
        <Field
          label={t`Temperature`}
          shown={`${number(values.celsius ?? 25, 0)} °C`}
          value={values.celsius ?? 25}
          low={5}
          high={60}
          step={1}
          change={(next) => set({ celsius: next })}
        />
        <Field
          label={t`Stirring`}
          shown={`${number(values.stir ?? 1, 1)} ×`}
          spoken={t`still layer ${number(values.stir ?? 1, 1)} times thinner`}
          value={values.stir ?? 1}
          low={1}
          high={10}
          step={0.5}
          change={(next) => set({ stir: next })}
        />
        <Field
          label={t`Chloride, mol/L`}
          shown={known(values.chloride) ? number(10 ** chloride, 4) : "…"}
          value={chloride}
          low={-4}
          high={0.5}
          step={0.1}
          change={(next) => set({ chloride: next })}
        />
        <Field
          label={t`Conductivity, S/m`}
          shown={known(values.kappa) ? number(10 ** kappa, 3) : "…"}
          value={kappa}
          low={-3}
          high={1.5}
          step={0.1}
          change={(next) => set({ kappa: next })}
        />
        <Field
          label={t`Plate in the liquid`}
          shown={`${number(values.area ?? 4, 1)} cm²`}
          value={values.area ?? 4}
          low={0.5}
          high={40}
          step={0.5}
          change={(next) => set({ area: next })}
        />
        <Field
          label={t`Distance of the plates`}
          shown={`${number(values.gap ?? 2, 1)} cm`}
          value={values.gap ?? 2}
          low={0.5}
          high={20}
          step={0.5}
          change={(next) => set({ gap: next })}
        />
        <Field
          label={t`Pairs of plates in the cup`}
          shown={number(values.pairs ?? 1, 0)}
          value={values.pairs ?? 1}
          low={1}
          high={6}
          step={1}
          change={(next) => set({ pairs: next })}
        />
        <Field
          label={t`Resistance of the meter`}
          shown={ohms(10 ** meter)}
          value={meter}
          low={3}
          high={9}
          step={0.5}
          change={(next) => set({ meter: next })}
        />
        <Tick isSelected={values.scratched ?? false} onChange={(scratched) => set({ scratched })}>
          <Trans>Films scratched off</Trans>
        </Tick>
        <Tick isSelected={values.dull ?? false} onChange={(dull) => set({ dull })}>
          <Trans>Not rubbed: dull plates</Trans>
        </Tick>
      </Fields>
      <ProblemNote problem={answer.error} />
      {found && (
        <Overtaken by={answer.isPlaceholderData}>
          <Result aria-live="polite">
            <dt />
            <dd>
              <Trans>as it is</Trans>
            </dd>
            <dd>
              <strong>
                <Trans>changed</Trans>
              </strong>
            </dd>
            <dd />
            {rows.flatMap(([name, show]) => [
              <dt key={name}>{name}</dt>,
              <dd key={`${name}-usual`}>{show(found.usual)}</dd>,
              <dd key={`${name}-changed`}>
                <strong>{show(found.changed)}</strong>
              </dd>,
              <dd key={`${name}-end`} />,
            ])}
          </Result>
        </Overtaken>
      )}
      <p>
        <Button onPress={() => setValues({})}>
          <Trans>As it is</Trans>
        </Button>
      </p>
    </section>
  );
}
