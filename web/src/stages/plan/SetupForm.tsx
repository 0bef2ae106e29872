import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { ReactNode } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { number } from "../../format";
import { Choices } from "../../ui/Choices";
import { Disclosure, Picks, Tick } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Select } from "../../ui/Select";
import { Form, Row } from "../../ui/layout";
import { colour } from "../../ui/theme";
import { GroupFields } from "./GroupFields";
import { HowFar } from "./HowFar";
import { HowItGoes } from "./HowItGoes";
import { type MarginNote, Notes } from "../../ui/Notes";
import { StepFields } from "./StepFields";
import { type Typed, settingsFor, withTemplate, withVariable } from "./setup";
import { LANGUAGES, type Language } from "../../language";

/** Asked for most; the others stand in the list behind. */
const OFTEN: { key: Typed["varies"]; name: string }[] = [
  { key: "pairs", name: t`the plates` },
  { key: "electrolyte", name: t`the liquid` },
  { key: "spacing", name: t`spacing` },
  { key: "depth", name: t`depth` },
  { key: "surface", name: t`the surface` },
  { key: "dilution", name: t`dilution` },
  { key: "temperature", name: t`temperature` },
];
const OTHER = "other";
const HINTS: Partial<Record<Typed["varies"], string>> = {
  surface: t`“freshly rubbed” and “as it was”, for example: each gets plates of its own, marked so.`,
  dilution: t`“undiluted”, “1 part in 10” or “20 %”: the kit says how each is mixed.`,
};

const Narrow = styled.div`
  max-width: 11rem;
`;

/** Under plates and liquids; what stops the plan stays at the foot of the screen while a long list is gone through. */
const Safety = styled.div<{ $stop: boolean }>`
  position: ${({ $stop }) => ($stop ? "sticky" : "static")};
  z-index: 1;
  bottom: 4.4rem; /* above what keeps the plan */
  max-height: 30vh;
  overflow-y: auto;
  background: ${colour.page};
`;

type Material = Schemas["ElectrodeOut"] | Schemas["ElectrolyteOut"];
const isThere = ({ shelf, own }: Material) => (shelf.count ?? 0) > 0 || own;

/** Whether a teacher has said what stands on the shelf. */
const stocked = (all: Material[]) => all.some(({ shelf }) => (shelf.count ?? 0) > 0);

/** What can be chosen, what is on the shelf first; where anything is, that is what is usual here. */
function offered<M extends Material>(all: M[], chosen: string[]): M[] {
  const kept = all.filter(({ key, retired }) => !retired || chosen.includes(key));
  if (!stocked(all)) return kept;
  const here = kept.map((one) => ({ ...one, usual: isThere(one) }));
  return [...here.filter(isThere), ...here.filter((one) => !isThere(one))];
}

const Sides = styled.section`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 16rem), 1fr));
  gap: 0.4rem 1.6rem;
  p {
    grid-column: 1 / -1;
  }
  blockquote {
    margin: 0;
    padding-left: 0.8rem;
    border-left: 2px solid ${colour.hairline};
  }
`;

type Props = {
  typed: Typed;
  change: (change: Partial<Typed>) => void;
  materials: Schemas["MaterialsOut"];
  start: Schemas["StartOut"];
  fresh: boolean;
  safety: MarginNote[];
  onSubmit: () => void;
  children: ReactNode;
};

/** Everything a lab is made from, in the order a teacher thinks: question, materials, class, time, and what few need. */
export function SetupForm({ typed, change, materials, start, fresh, safety, onSubmit, children }: Props) {
  const template = start.templates.find((one) => one.key === typed.template);
  const lesson = template?.lesson;
  const chosen = materials.electrodes.filter(({ key }) => typed.plates.includes(key));
  const often = OFTEN.some((one) => one.key === typed.varies);
  const others = start.variables.filter((one) => OFTEN.every((usual) => usual.key !== one.varies));
  const variable = start.variables.find((one) => one.varies === typed.varies);
  const vary = (varies: Typed["varies"]) => change(withVariable(typed, varies, start));
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        onSubmit();
      }}
    >
      {fresh && (
        <Picks
          label={t`Start from`}
          hint={template?.about ?? t`Fills the form; you change what you like.`}
          options={start.templates}
          value={typed.template}
          onChange={(key) => {
            const next = start.templates.find((one) => one.key === key);
            if (next) change(withTemplate(typed, next, start));
          }}
        />
      )}
      {fresh && template && template.sides.length > 0 && (
        <Sides>
          <p>
            <Trans>Classes disagree here. This lab decides it for yours.</Trans>
          </p>
          {template.sides.map((side) => (
            <blockquote key={side}>{side}</blockquote>
          ))}
        </Sides>
      )}
      {fresh && lesson && <HowItGoes lesson={lesson} />}
      <TextField
        label={t`Title`}
        value={typed.title}
        onChange={(title) => change({ title })}
        isRequired
        maxLength={120}
      />
      <Row>
        <TextField label={t`Date`} type="date" value={typed.date} onChange={(date) => change({ date })} isRequired />
        <Narrow>
          <TextField
            label={t`Minutes`}
            value={typed.minutes}
            onChange={(minutes) => change({ minutes })}
            inputMode="numeric"
            isRequired
            maxLength={3}
          />
        </Narrow>
      </Row>
      <TextField
        label={t`The question`}
        value={typed.question}
        onChange={(question) => change({ question })}
        maxLength={200}
      />
      <Picks
        label={t`What you change on purpose`}
        options={[...OFTEN, { key: OTHER, name: t`something else` }]}
        value={often ? typed.varies : OTHER}
        onChange={(key) => vary(key === OTHER ? (others[0]?.varies ?? "own") : (key as Typed["varies"]))}
      />
      {!often && (
        <Select
          label={t`What else`}
          options={[
            ...others.map((other) => ({ key: other.varies, name: other.name })),
            { key: "own", name: t`in your own words` },
          ]}
          value={typed.varies}
          onChange={(key) => vary(key as Typed["varies"])}
        />
      )}
      {settingsFor(typed.varies, start) !== undefined ? (
        <TextField
          label={t`Settings to compare, one a line`}
          hint={HINTS[typed.varies] ?? variable?.set_up}
          value={typed.conditions}
          onChange={(conditions) => change({ conditions })}
          rows={3}
        />
      ) : (
        <TextField
          label={t`At which settings, one a line (empty: none)`}
          hint={t`“spacing 2 cm” for all cells, for example; two lines measure every cell at both.`}
          value={typed.conditions}
          onChange={(conditions) => change({ conditions })}
          rows={1}
        />
      )}
      <TextField
        label={t`What stays the same`}
        hint={t`A fair test changes one thing.`}
        value={typed.kept}
        onChange={(kept) => change({ kept })}
        maxLength={300}
      />
      <Choices
        label={t`Plates`}
        first={stocked(materials.electrodes) ? t`Show what is on your shelf` : undefined}
        options={offered(materials.electrodes, typed.plates).map(
          ({ key, symbol, name, synonyms, table_v, usual, shelf }) => ({
            key,
            name: shelf.count === null ? name : t`${name} (${shelf.count} there)`,
            symbol,
            called: synonyms,
            usual,
            detail: table_v === null ? t`not listed` : number(table_v, 2, true),
          }),
        )}
        value={typed.plates}
        onChange={(plates) => change({ plates })}
        hint={t`The number is the table’s, in volts against hydrogen.`}
      />
      <Choices
        label={t`Liquids`}
        hint={t`The range is the pH.`}
        first={stocked(materials.electrolytes) ? t`Show what is on your shelf` : undefined}
        options={offered(materials.electrolytes, typed.liquids).map(
          ({ key, name, synonyms, ph_low, ph_high, usual }) => ({
            key,
            name,
            called: synonyms,
            usual,
            detail: `${number(ph_low, 1)}–${number(ph_high, 1)}`,
          }),
        )}
        value={typed.liquids}
        onChange={(liquids) => change({ liquids })}
      />
      <Safety
        role="status"
        aria-label={t`Safety of what is chosen`}
        $stop={safety.some((note) => note.tone === "wrong")}
      >
        {safety.length > 0 && (
          <h2>
            <Trans>Safety of what is chosen</Trans>
          </h2>
        )}
        <Notes notes={safety} />
      </Safety>
      <GroupFields names={typed.names} change={(names) => change({ names })} />
      <Picks
        label={t`Language of cards and projector`}
        options={(Object.keys(LANGUAGES) as Language[]).map((key) => ({ key, name: LANGUAGES[key] }))}
        value={typed.language}
        onChange={(key) => change({ language: key as Language })}
      />
      <HowFar typed={typed} change={change} />
      <Disclosure title={t`More choices`} detail={t`minutes of the steps, repeats, predictions, what else goes on`}>
        <Form as="div">
          <Row>
            <TextField
              label={t`Groups for each cell`}
              value={typed.repeats}
              onChange={(repeats) => change({ repeats })}
              inputMode="numeric"
              maxLength={2}
            />
            <TextField
              label={t`Cup, mL`}
              value={typed.cup}
              onChange={(cup) => change({ cup })}
              inputMode="decimal"
              maxLength={5}
            />
            <TextField
              label={t`Scatter between groups, V`}
              value={typed.scatter}
              onChange={(scatter) => change({ scatter })}
              inputMode="decimal"
              maxLength={6}
            />
          </Row>
          {chosen.length > 2 && (
            <Picks
              label={t`Which pairs`}
              options={[
                { key: "", name: t`all pairs` },
                ...chosen.map(({ key, name }) => ({ key, name: t`only against ${name}` })),
              ]}
              value={typed.against}
              onChange={(against) => change({ against })}
            />
          )}
          <div role="group" aria-label={t`Steps of the period`}>
            <StepFields
              typed={typed.steps}
              change={(name, text) => change({ steps: { ...typed.steps, [name]: text } })}
            />
          </div>
          <Tick isSelected={typed.predict} onChange={(predict) => change({ predict })}>
            <Trans>Groups predict before they measure</Trans>
          </Tick>
          <Tick isSelected={typed.short} onChange={(short) => change({ short })}>
            <Trans>Groups also measure the short-circuit current, for seconds only</Trans>
          </Tick>
          <Tick isSelected={typed.packs} onChange={(packs) => change({ packs })}>
            <Trans>Groups also build packs: cells in a row until something runs</Trans>
          </Tick>
          <TextField
            label={t`Also the voltage across a resistor of, Ω (empty: no)`}
            value={typed.load}
            onChange={(load) => change({ load })}
            inputMode="decimal"
            maxLength={8}
          />
          <div role="group" aria-label={t`What else goes on in the room`}>
            {materials.activities.map(({ key, name }) => (
              <Tick
                key={key}
                isSelected={typed.activities.includes(key)}
                onChange={(on) =>
                  change({
                    activities: on
                      ? [...typed.activities, key]
                      : typed.activities.filter((activity) => activity !== key),
                  })
                }
              >
                <Trans>Also: {name}</Trans>
              </Tick>
            ))}
          </div>
        </Form>
      </Disclosure>
      {children}
    </Form>
  );
}
