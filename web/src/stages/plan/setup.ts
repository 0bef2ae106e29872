import type { Schemas } from "../../api/client";
import { today } from "../../format";
import { type TypedSteps, stepsOf, typedSteps } from "./StepFields";

export type LabIn = Schemas["LabIn"];
type Template = Schemas["TemplateOut"];

/** What is typed while a lab is set up; numbers stay text until they are one. */
export type Typed = {
  template: string;
  title: string;
  date: string;
  minutes: string;
  question: string;
  varies: LabIn["varies"];
  kept: string;
  conditions: string;
  against: string;
  plates: string[];
  liquids: string[];
  names: string;
  repeats: string;
  scatter: string;
  age: LabIn["age"];
  activities: string[];
  cup: string;
  predict: boolean;
  short: boolean;
  load: string;
  steps: TypedSteps;
};

const EIGHT_BENCHES = Array.from({ length: 8 }, (_, index) => `Bench ${index + 1}`).join("\n");

const USUAL_STEPS = {
  start: 6,
  prepare: 1,
  settle: 2,
  read: 2,
  rinse: 1,
  clear: 8,
  late: 0,
  pause_at: 0,
  pause: 0,
};

export const empty = (): Typed => ({
  template: "",
  title: "",
  date: today(),
  minutes: "60",
  question: "",
  varies: "pairs",
  kept: "",
  conditions: "",
  against: "",
  plates: [],
  liquids: [],
  names: EIGHT_BENCHES,
  repeats: "2",
  scatter: "0.05",
  age: "14-15",
  activities: [],
  cup: "40",
  predict: true,
  short: false,
  load: "",
  steps: typedSteps(USUAL_STEPS),
});

/** A template's choices over what is typed; title, class and time stay. */
export function withTemplate(typed: Typed, template: Template): Typed {
  return {
    ...typed,
    template: template.key,
    title: typed.title || template.name,
    question: template.question,
    varies: template.varies as LabIn["varies"],
    kept: template.kept,
    conditions: template.conditions.join("\n"),
    against: template.against,
    plates: template.electrodes,
    liquids: template.electrolytes,
  };
}

/** What a kept draft would look like typed. */
export function fromLab(lab: Schemas["LabOut"]): Typed {
  const { settings } = lab;
  return {
    template: "",
    title: lab.title,
    date: lab.date,
    minutes: String(settings.minutes),
    question: settings.question,
    varies: settings.varies as LabIn["varies"],
    kept: settings.kept,
    conditions: settings.conditions.filter(Boolean).join("\n"),
    against: settings.against,
    plates: settings.electrodes,
    liquids: settings.electrolytes,
    names: lab.groups.map((group) => group.name).join("\n"),
    repeats: String(settings.repeats),
    scatter: String(settings.scatter_v),
    age: settings.age as LabIn["age"],
    activities: settings.activities,
    cup: String(settings.cup_ml),
    predict: settings.predict,
    short: settings.short_circuit,
    load: settings.load_ohm === null ? "" : String(settings.load_ohm),
    steps: typedSteps(settings.steps),
  };
}

const lines = (text: string) => text.split("\n").filter((line) => line.trim());

/** The plan as typed; null while a number is not one yet. */
export function planOf(typed: Typed): LabIn | null {
  const [minutes, repeats, scatter_v, cup_ml] = [typed.minutes, typed.repeats, typed.scatter, typed.cup].map((text) =>
    text.trim() === "" ? NaN : Number(text.replace(",", ".")),
  ) as [number, number, number, number];
  const steps = stepsOf(typed.steps);
  if (!steps || !Number.isInteger(minutes) || !Number.isInteger(repeats) || !typed.date) return null;
  const load_ohm = typed.load.trim() === "" ? null : Number(typed.load.replace(",", "."));
  if (Number.isNaN(load_ohm)) return null;
  if (Number.isNaN(scatter_v) || Number.isNaN(cup_ml)) return null;
  return {
    title: typed.title.trim() || "Untitled",
    date: typed.date,
    minutes,
    electrodes: typed.plates,
    electrolytes: typed.liquids,
    groups: lines(typed.names),
    question: typed.question,
    varies: typed.varies,
    kept: typed.kept,
    conditions: lines(typed.conditions),
    against: typed.against,
    repeats,
    scatter_v,
    age: typed.age,
    activities: typed.activities,
    steps,
    cup_ml,
    predict: typed.predict,
    short_circuit: typed.short,
    load_ohm,
  };
}

/** Whether there is enough to plan anything from. */
export const isEnough = (plan: LabIn | null): plan is LabIn =>
  plan !== null && plan.electrodes.length >= 2 && plan.electrolytes.length >= 1 && plan.groups.length >= 1;
