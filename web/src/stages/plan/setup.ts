import { t } from "@lingui/core/macro";
import type { Schemas } from "../../api/client";
import { today } from "../../format";
import { stepsOf, typedSteps } from "./steps";
import { language } from "../../language";

export type NewLab = Schemas["NewLab"];
type Template = Schemas["TemplateOut"];

export const lines = (text: string) => text.split("\n").filter((line) => line.trim());

const EIGHT_BENCHES = Array.from({ length: 8 }, (_, index) => t`Bench ${index + 1}`).join("\n");

/** Settings as typed. */
const typedOf = (settings: Schemas["LabSettings"]) => ({
  minutes: String(settings.minutes),
  question: settings.question,
  varies: settings.varies,
  kept: settings.kept,
  conditions: settings.conditions.filter(Boolean).join("\n"),
  against: settings.against,
  plates: settings.electrodes,
  liquids: settings.electrolytes,
  repeats: String(settings.repeats),
  scatter: String(settings.scatter_v),
  age: settings.age,
  level: settings.level,
  activities: settings.activities,
  cup: String(settings.cup_ml),
  predict: settings.predict,
  language: settings.language,
  template: settings.template,
  short: settings.short_circuit,
  packs: settings.packs,
  load: settings.load_ohm === null ? "" : String(settings.load_ohm),
  steps: typedSteps(settings.steps),
});

/** What is typed while a lab is set up; numbers stay text until they are one. */
export type Typed = ReturnType<typeof typedOf> & {
  title: string;
  date: string;
  names: string;
  /** The mark of the draft that the form was opened with; none for a new lab. */
  seen?: string;
};

export const empty = (usual: Schemas["LabSettings"]): Typed => ({
  ...typedOf(usual),
  language,
  title: "",
  date: today(),
  names: EIGHT_BENCHES,
});

/** The first template that changes this on purpose; settings of one's own are nobody else's. */
const templateFor = (varies: Typed["varies"], start: Schemas["StartOut"]) =>
  varies === "own" ? undefined : start.templates.find((one) => one.varies === varies);

/** Settings to begin with for what is changed on purpose: those of the first template that changes it, else the usual levels. */
export function settingsFor(varies: Typed["varies"], start: Schemas["StartOut"]): string | undefined {
  if (varies === "own") return "";
  const ready = templateFor(varies, start)?.conditions ?? [];
  const usual = start.variables.find((variable) => variable.varies === varies)?.settings;
  return ready.length > 0 ? ready.join("\n") : usual?.join("\n");
}

const same = (one: string, other: string) => one.trim() === other.trim();

/** What a template asks for; else what is there, unless only the template before had asked for it. */
const ofTemplate = <T>(now: T, asked: T, askedBefore: T, usual: T): T =>
  asked ? asked : askedBefore && now === askedBefore ? usual : now;

type Start = Schemas["StartOut"];
type Words = Pick<Typed, "title" | "question" | "kept">;

const wordsOf = ({ name, question, kept }: Template): Words => ({ title: name, question, kept });

/** Whether words came with a template or a variable, or there are none: then those of the next take their place. */
const isOurs = (typed: Typed, name: keyof Words, { templates, variables }: Start) =>
  typed[name].trim() === "" || [...templates.map(wordsOf), ...variables].some((one) => same(one[name], typed[name]));

/** A template's choices over what is typed; words that somebody typed stay, those of another template go. */
export function withTemplate(typed: Typed, template: Template, start: Start): Typed {
  const all = start.templates;
  const words = (name: keyof Words) => (isOurs(typed, name, start) ? wordsOf(template)[name] : typed[name]);
  const settings = (one: Template) => one.conditions.join("\n");
  const usual = typed.conditions.trim() === "" || all.some((one) => same(typed.conditions, settings(one)));
  const before = all.find((one) => one.key === typed.template);
  const { varies } = template;
  return {
    ...typed,
    template: template.key,
    title: words("title"),
    question: words("question"),
    varies,
    kept: words("kept"),
    conditions:
      usual || (varies !== typed.varies && template.conditions.length > 0) ? settings(template) : typed.conditions,
    against: template.against,
    plates: template.electrodes,
    liquids: template.electrolytes,
    ...(typeof template.minutes === "number" && { minutes: String(template.minutes) }),
    names: ofTemplate(typed.names, template.groups.join("\n"), before?.groups.join("\n") ?? "", EIGHT_BENCHES),
    short: ofTemplate(typed.short, template.short_circuit, before?.short_circuit ?? false, false),
    packs: ofTemplate(typed.packs, template.packs, before?.packs ?? false, false),
  };
}

/** Another variable brings its own settings, title, question and what it keeps the same; what somebody typed stays. */
export function withVariable(typed: Typed, varies: Typed["varies"], start: Start): Typed {
  const own = typed.conditions.trim() !== "" && !same(typed.conditions, settingsFor(typed.varies, start) ?? "");
  const shortOf = (key: Typed["varies"]) => start.variables.find((one) => one.varies === key)?.short ?? false;
  const template = templateFor(varies, start);
  const next: Words | undefined = template ? wordsOf(template) : start.variables.find((one) => one.varies === varies);
  const words = (name: keyof Words) => (next && isOurs(typed, name, start) ? next[name] : typed[name]);
  return {
    ...typed,
    varies,
    conditions: own ? typed.conditions : (settingsFor(varies, start) ?? ""),
    title: words("title"),
    question: words("question"),
    kept: words("kept"),
    short: ofTemplate(typed.short, shortOf(varies), shortOf(typed.varies), false),
  };
}

/** What the form of a new lab opens with: the first template, filled in. */
export const begun = (start: Start): Typed =>
  start.templates[0] ? withTemplate(empty(start.usual), start.templates[0], start) : empty(start.usual);

/** As many groups as asked for: names that are there stay, from the first; new ones are numbered benches. */
export function withGroups(names: string, n: number): string {
  const there = lines(names).slice(0, n);
  const taken = new Set(there.map((name) => name.trim().toLowerCase()));
  for (let bench = 1; there.length < n; bench++)
    if (!taken.has(t`Bench ${bench}`.toLowerCase())) there.push(t`Bench ${bench}`);
  return there.join("\n");
}

/** What a kept draft would look like typed. */
export const fromLab = (lab: Schemas["LabOut"]): Typed => ({
  seen: lab.mark,
  ...typedOf(lab.settings),
  title: lab.title,
  date: lab.date,
  names: lab.groups.map((group) => group.name).join("\n"),
});

/** The plan as typed; null while a number is not one yet. */
export function planOf(typed: Typed): NewLab | null {
  const [minutes, repeats, scatter_v, cup_ml] = [typed.minutes, typed.repeats, typed.scatter, typed.cup].map((text) =>
    text.trim() === "" ? NaN : Number(text.replace(",", ".")),
  ) as [number, number, number, number];
  const steps = stepsOf(typed.steps);
  if (!steps || !Number.isInteger(minutes) || !Number.isInteger(repeats) || !typed.date) return null;
  const load_ohm = typed.load.trim() === "" ? null : Number(typed.load.replace(",", "."));
  if (Number.isNaN(load_ohm)) return null;
  if (Number.isNaN(scatter_v) || Number.isNaN(cup_ml)) return null;
  return {
    seen: "",
    title: typed.title.trim() || t`Untitled`,
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
    level: typed.level,
    activities: typed.activities,
    steps,
    cup_ml,
    predict: typed.predict,
    language: typed.language,
    template: typed.template,
    short_circuit: typed.short,
    packs: typed.packs,
    load_ohm,
  };
}

/** Whether there is enough to plan anything from. */
export const isEnough = (plan: NewLab | null): plan is NewLab =>
  plan !== null && plan.electrodes.length >= 2 && plan.electrolytes.length >= 1 && plan.groups.length >= 1;
