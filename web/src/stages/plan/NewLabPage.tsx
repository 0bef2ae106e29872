import { useDeferredValue, useMemo } from "react";
import { useNavigate } from "react-router";
import { Problem, type Schemas } from "../../api/client";
import { useCreateLab, useMaterials, usePreview } from "../../api/queries";
import { Frame } from "../../app/Frame";
import { Waiting } from "../../app/Waiting";
import { number, today } from "../../format";
import { MainButton } from "../../ui/Button";
import { Choices } from "../../ui/Choices";
import { TextField } from "../../ui/fields";
import { Column, Columns, Form, Row, Soft } from "../../ui/layout";
import { Notes } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";
import { useKept } from "../../ui/useKept";
import { Lanes } from "./Lanes";
import { useNames } from "./useNames";

const EIGHT_BENCHES = Array.from({ length: 8 }, (_, index) => `Bench ${index + 1}`).join("\n");

type Typed = { title: string; date: string; minutes: string; plates: string[]; liquids: string[]; names: string };

const empty = (): Typed => ({ title: "", date: today(), minutes: "60", plates: [], liquids: [], names: EIGHT_BENCHES });

/** The plan as typed; null while a number is not one yet. */
function planOf(typed: Typed): Schemas["LabIn"] | null {
  const minutes = Number(typed.minutes);
  if (!Number.isInteger(minutes) || !typed.date) return null;
  return {
    title: typed.title.trim() || "Untitled",
    date: typed.date,
    minutes,
    electrodes: typed.plates,
    electrolytes: typed.liquids,
    groups: typed.names.split("\n").filter((name) => name.trim()),
  };
}

/** Choose materials, groups and minutes, and see at once who measures what and whether it fits. */
export function NewLabPage() {
  const materials = useMaterials();
  const names = useNames();
  const [typed, setTyped, forget] = useKept("new-lab", empty);
  const { title, date, minutes, plates, liquids, names: groupNames } = typed;
  const set = (change: Partial<Typed>) => setTyped((before) => ({ ...before, ...change }));
  const plan = useMemo(() => planOf(typed), [typed]);
  const complete = plan !== null && plates.length >= 2 && liquids.length >= 1 && plan.groups.length >= 1;
  const preview = usePreview(useDeferredValue(complete ? { ...(plan as Schemas["LabIn"]), title: "Preview" } : null));
  const create = useCreateLab();
  const navigate = useNavigate();
  if (!materials.data) return <Waiting title="Plan a lab" error={materials.error} />;
  const refused = preview.error instanceof Problem ? preview.error : null;
  const shown = complete && preview.data && !refused ? preview.data : null;
  return (
    <Frame
      title="Plan a lab"
      lab="New lab"
      about="draft, not open to groups"
      margin={
        shown ? <Notes notes={shown.notes} /> : <Soft>Choose two plates and one liquid to see whether it fits.</Soft>
      }
    >
      <Columns $left="minmax(0, 31rem)">
        <Column>
          <h1>Plan a lab</h1>
          <Form
            onSubmit={(event) => {
              event.preventDefault();
              if (plan)
                create.mutate(
                  { ...plan, title },
                  {
                    onSuccess: (lab) => {
                      navigate(`/labs/${lab.id}/plan`);
                      setTimeout(forget);
                    },
                  },
                );
            }}
          >
            <TextField label="Title" value={title} onChange={(title) => set({ title })} isRequired maxLength={120} />
            <Row>
              <TextField label="Date" type="date" value={date} onChange={(date) => set({ date })} isRequired />
              <TextField
                label="Minutes"
                value={minutes}
                onChange={(minutes) => set({ minutes })}
                inputMode="numeric"
                isRequired
                maxLength={3}
              />
            </Row>
            <Choices
              label="Plates"
              options={materials.data.electrodes.map(({ key, symbol, name, table_v, usual }) => ({
                key,
                name,
                symbol,
                usual,
                detail: table_v === null ? "not listed" : number(table_v, 2, true),
              }))}
              value={plates}
              onChange={(plates) => set({ plates })}
              hint="The number is the table’s, in volts against hydrogen."
            />
            <Choices
              label="Liquids"
              hint="The range is the pH."
              options={materials.data.electrolytes.map(({ key, name, ph_low, ph_high, usual }) => ({
                key,
                name,
                usual,
                detail: `${number(ph_low, 1)}–${number(ph_high, 1)}`,
              }))}
              value={liquids}
              onChange={(liquids) => set({ liquids })}
            />
            <TextField
              label="Groups, one name a line"
              hint="Bench names only. Nothing personal is kept."
              value={groupNames}
              onChange={(names) => set({ names })}
              rows={8}
            />
            <ProblemNote problem={create.error ?? refused} />
            <MainButton type="submit" isDisabled={!complete}>
              {create.isPending ? "One moment…" : "Keep this plan"}
            </MainButton>
          </Form>
        </Column>
        <Column>
          <h2>Who measures what</h2>
          {shown && plan ? (
            <>
              <Soft>The bold cell is shared: every group measures it first, so groups can be compared.</Soft>
              <Lanes
                lanes={shown.hands.map((cells, index) => ({ name: plan.groups[index] ?? `Group ${index + 1}`, cells }))}
                liquid={names.liquid}
              />
            </>
          ) : (
            <Soft>The cells of each group appear here as soon as there are plates, a liquid and a group.</Soft>
          )}
        </Column>
      </Columns>
    </Frame>
  );
}
