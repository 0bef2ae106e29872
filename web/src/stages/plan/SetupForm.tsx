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
import { type MarginNote, Notes } from "../../ui/Notes";
import { StepFields } from "./StepFields";
import { type Typed, settingsFor, withTemplate } from "./setup";

/** Asked for most; the others stand in the list behind. */
const OFTEN: { key: Typed["varies"]; name: string }[] = [
  { key: "pairs", name: "the plates" },
  { key: "electrolyte", name: "the liquid" },
  { key: "spacing", name: "spacing" },
  { key: "depth", name: "depth" },
  { key: "surface", name: "the surface" },
  { key: "dilution", name: "dilution" },
  { key: "temperature", name: "temperature" },
];
const OTHER = "other";
const AGES: { key: Typed["age"]; name: string }[] = [
  { key: "11-13", name: "11 to 13" },
  { key: "14-15", name: "14 to 15" },
  { key: "16-18", name: "16 to 18" },
];
const HINTS: Partial<Record<Typed["varies"], string>> = {
  surface: "“freshly rubbed” and “as it was”, for example: each gets plates of its own, marked so.",
  dilution: "“undiluted”, “1 part in 10” or “20 %”: the kit says how each is mixed.",
};

const Narrow = styled.div`
  max-width: 11rem;
`;

/** Under plates and liquids; what stops the plan stays at the foot of the screen while a long list is gone through. */
const Safety = styled.div<{ $stop: boolean }>`
  position: ${({ $stop }) => ($stop ? "sticky" : "static")};
  z-index: 1;
  bottom: 0;
  max-height: 30vh;
  overflow-y: auto;
  background: ${colour.page};
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
  const chosen = materials.electrodes.filter(({ key }) => typed.plates.includes(key));
  const often = OFTEN.some((one) => one.key === typed.varies);
  const others = start.variables.filter((one) => OFTEN.every((usual) => usual.key !== one.varies));
  const variable = start.variables.find((one) => one.varies === typed.varies);
  /** Another variable brings its own usual settings; words that somebody typed stay. */
  const vary = (varies: Typed["varies"]) => {
    const usual = settingsFor(typed.varies, start) ?? "";
    const own = typed.conditions.trim() !== "" && typed.conditions.trim() !== usual.trim();
    change({ varies, conditions: own ? typed.conditions : (settingsFor(varies, start) ?? "") });
  };
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        onSubmit();
      }}
    >
      {fresh && (
        <Picks
          label="Start from"
          hint={
            start.templates.find((template) => template.key === typed.template)?.about ??
            "Fills the form; you change what you like."
          }
          options={start.templates}
          value={typed.template}
          onChange={(key) => {
            const template = start.templates.find((one) => one.key === key);
            if (template) change(withTemplate(typed, template, start.templates));
          }}
        />
      )}
      <TextField label="Title" value={typed.title} onChange={(title) => change({ title })} isRequired maxLength={120} />
      <Row>
        <TextField label="Date" type="date" value={typed.date} onChange={(date) => change({ date })} isRequired />
        <Narrow>
          <TextField
            label="Minutes"
            value={typed.minutes}
            onChange={(minutes) => change({ minutes })}
            inputMode="numeric"
            isRequired
            maxLength={3}
          />
        </Narrow>
      </Row>
      <TextField
        label="The question"
        value={typed.question}
        onChange={(question) => change({ question })}
        maxLength={200}
      />
      <Picks
        label="What you change on purpose"
        options={[...OFTEN, { key: OTHER, name: "something else" }]}
        value={often ? typed.varies : OTHER}
        onChange={(key) => vary(key === OTHER ? (others[0]?.varies ?? "own") : (key as Typed["varies"]))}
      />
      {!often && (
        <Select
          label="What else"
          options={[
            ...others.map((other) => ({ key: other.varies, name: other.name })),
            { key: "own", name: "in your own words" },
          ]}
          value={typed.varies}
          onChange={(key) => vary(key as Typed["varies"])}
        />
      )}
      {settingsFor(typed.varies, start) !== undefined ? (
        <TextField
          label="Settings to compare, one a line"
          hint={HINTS[typed.varies] ?? variable?.set_up}
          value={typed.conditions}
          onChange={(conditions) => change({ conditions })}
          rows={3}
        />
      ) : (
        <TextField
          label="At which settings, one a line (empty: none)"
          hint="“spacing 2 cm” for all cells, for example; two lines measure every cell at both."
          value={typed.conditions}
          onChange={(conditions) => change({ conditions })}
          rows={1}
        />
      )}
      <TextField
        label="What stays the same"
        hint="A fair test changes one thing."
        value={typed.kept}
        onChange={(kept) => change({ kept })}
        maxLength={300}
      />
      <Choices
        label="Plates"
        options={materials.electrodes
          .filter(({ key, retired }) => !retired || typed.plates.includes(key))
          .map(({ key, symbol, name, table_v, usual, shelf }) => ({
            key,
            name: shelf.count === null ? name : `${name} (${shelf.count} there)`,
            symbol,
            usual,
            detail: table_v === null ? "not listed" : number(table_v, 2, true),
          }))}
        value={typed.plates}
        onChange={(plates) => change({ plates })}
        hint="The number is the table’s, in volts against hydrogen."
      />
      <Choices
        label="Liquids"
        hint="The range is the pH."
        options={materials.electrolytes
          .filter(({ key, retired }) => !retired || typed.liquids.includes(key))
          .map(({ key, name, ph_low, ph_high, usual }) => ({
            key,
            name,
            usual,
            detail: `${number(ph_low, 1)}–${number(ph_high, 1)}`,
          }))}
        value={typed.liquids}
        onChange={(liquids) => change({ liquids })}
      />
      <Safety role="status" aria-label="Safety of what is chosen" $stop={safety.some((note) => note.tone === "wrong")}>
        {safety.length > 0 && <h2>Safety of what is chosen</h2>}
        <Notes notes={safety} />
      </Safety>
      <GroupFields names={typed.names} change={(names) => change({ names })} />
      <Picks
        label="Age of the students"
        options={AGES}
        value={typed.age}
        onChange={(age) => change({ age: age as Typed["age"] })}
      />
      <Disclosure title="More choices" detail="minutes of the steps, repeats, predictions, what else goes on">
        <Form as="div">
          <Row>
            <TextField
              label="Groups for each cell"
              value={typed.repeats}
              onChange={(repeats) => change({ repeats })}
              inputMode="numeric"
              maxLength={2}
            />
            <TextField
              label="Cup, mL"
              value={typed.cup}
              onChange={(cup) => change({ cup })}
              inputMode="decimal"
              maxLength={5}
            />
            <TextField
              label="Scatter between groups, V"
              value={typed.scatter}
              onChange={(scatter) => change({ scatter })}
              inputMode="decimal"
              maxLength={6}
            />
          </Row>
          {chosen.length > 2 && (
            <Picks
              label="Which pairs"
              options={[
                { key: "", name: "all pairs" },
                ...chosen.map(({ key, name }) => ({ key, name: `only against ${name}` })),
              ]}
              value={typed.against}
              onChange={(against) => change({ against })}
            />
          )}
          <div role="group" aria-label="Steps of the period">
            <StepFields
              typed={typed.steps}
              change={(name, text) => change({ steps: { ...typed.steps, [name]: text } })}
            />
          </div>
          <Tick isSelected={typed.predict} onChange={(predict) => change({ predict })}>
            Groups predict before they measure
          </Tick>
          <Tick isSelected={typed.short} onChange={(short) => change({ short })}>
            Groups also measure the short-circuit current, for seconds only
          </Tick>
          <Tick isSelected={typed.packs} onChange={(packs) => change({ packs })}>
            Groups also build packs: cells in a row until something runs
          </Tick>
          <TextField
            label="Also the voltage across a resistor of, Ω (empty: no)"
            value={typed.load}
            onChange={(load) => change({ load })}
            inputMode="decimal"
            maxLength={8}
          />
          <div role="group" aria-label="What else goes on in the room">
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
                Also: {name}
              </Tick>
            ))}
          </div>
        </Form>
      </Disclosure>
      {children}
    </Form>
  );
}
