import { t } from "@lingui/core/macro";
import { Picks } from "../../ui/controls";
import type { Typed } from "./setup";

/** With the level that is usual at that age. */
const AGES: { key: Typed["age"]; name: string; level: Typed["level"] }[] = [
  { key: "11-13", name: t`11 to 13`, level: "first" },
  { key: "14-15", name: t`14 to 15`, level: "middle" },
  { key: "16-18", name: t`16 to 18`, level: "upper" },
];
const LEVELS: { key: Typed["level"]; name: string; has: string }[] = [
  { key: "first", name: t`first`, has: t`Order, sign and what is seen; no equations, no logarithms.` },
  { key: "middle", name: t`middle`, has: t`Half-equations and differences of E°; no logarithms.` },
  {
    key: "upper",
    name: t`upper`,
    has: t`Nernst, what the liquid does to each plate, and how uncertain each value is.`,
  },
];
/** Another age brings its usual level, unless another level was chosen. */
function ofAge(typed: Typed, age: Typed["age"]): Partial<Typed> {
  const usual = (of: Typed["age"]) => AGES.find((one) => one.key === of)?.level ?? typed.level;
  return { age, level: typed.level === usual(typed.age) ? usual(age) : typed.level };
}

type Props = { typed: Typed; change: (change: Partial<Typed>) => void };

/** How old the class is, and how far its pages go. */
export function HowFar({ typed, change }: Props) {
  return (
    <>
      <Picks
        label={t`Age of the students`}
        options={AGES}
        value={typed.age}
        onChange={(age) => change(ofAge(typed, age as Typed["age"]))}
      />
      <Picks
        label={t`How far groups’ pages go`}
        hint={LEVELS.find((level) => level.key === typed.level)?.has}
        options={LEVELS}
        value={typed.level}
        onChange={(level) => change({ level: level as Typed["level"] })}
      />
    </>
  );
}
