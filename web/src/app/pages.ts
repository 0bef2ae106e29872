import { type ComponentType, lazy } from "react";
import { speakOf } from "./speak";

/** Pages, each fetched when it is first opened, after the sentences of its stage. */
const page = <P extends object>(stage: string, fetch: () => Promise<ComponentType<P>>) => {
  const fetched = async () => {
    await speakOf(stage);
    return { default: await fetch() };
  };
  return { Page: lazy(fetched), fetched };
};

export const LabsPage = page("labs", async () => (await import("../stages/labs/LabsPage")).LabsPage).Page;
export const ImportPage = page("labs", async () => (await import("../stages/labs/ImportPage")).ImportPage).Page;
export const AccountPage = page("labs", async () => (await import("../stages/labs/AccountPage")).AccountPage).Page;
export const SchoolPage = page("school", async () => (await import("../stages/school/SchoolPage")).SchoolPage).Page;
export const FirstPage = page("school", async () => (await import("../stages/school/FirstPage")).FirstPage).Page;
export const LinkPage = page("school", async () => (await import("../stages/school/LinkPage")).LinkPage).Page;
export const CheckPage = page("school", async () => (await import("../stages/school/CheckPage")).CheckPage).Page;
export const YearsPage = page("labs", async () => (await import("../stages/labs/YearsPage")).YearsPage).Page;
export const NewLabPage = page("plan", async () => (await import("../stages/plan/SetupPage")).NewLabPage).Page;
export const SetupPage = page("plan", async () => (await import("../stages/plan/SetupPage")).SetupPage).Page;
export const KitPage = page("plan", async () => (await import("../stages/plan/SheetPages")).KitPage).Page;
export const SafetyPage = page("plan", async () => (await import("../stages/plan/SheetPages")).SafetyPage).Page;
export const CardsPage = page("plan", async () => (await import("../stages/plan/SheetPages")).CardsPage).Page;
export const PrintPage = page("plan", async () => (await import("../stages/plan/SheetPages")).PrintPage).Page;
export const PredictionsPage = page(
  "predict",
  async () => (await import("../stages/predict/PredictionsPage")).PredictionsPage,
).Page;
export const MaterialsPage = page(
  "materials",
  async () => (await import("../stages/materials/MaterialsPage")).MaterialsPage,
).Page;
export const PlanPage = page("plan", async () => (await import("../stages/plan/PlanPage")).PlanPage).Page;
export const BoardPage = page("measure", async () => (await import("../stages/measure/BoardPage")).BoardPage).Page;
export const BoardProjector = page(
  "measure",
  async () => (await import("../stages/measure/BoardProjector")).BoardProjector,
).Page;
export const CompareProjector = page(
  "compare",
  async () => (await import("../stages/compare/CompareProjector")).CompareProjector,
).Page;
const packs = page("power", async () => (await import("../stages/power/BenchPacks")).BenchPacks);
export const BenchPacks = packs.Page;
const practise = page("practise", async () => (await import("../stages/practise/PractisePage")).PractisePage);
export const PractisePage = practise.Page;
const notebook = page("report", async () => (await import("../stages/report/BenchNotebook")).BenchNotebook);
export const BenchNotebook = notebook.Page;
export const ReportPage = page("report", async () => (await import("../stages/report/ReportPage")).ReportPage).Page;
export const HomeworkPage = page(
  "practise",
  async () => (await import("../stages/practise/HomeworkPage")).HomeworkPage,
).Page;
export const ClassNotebook = page(
  "report",
  async () => (await import("../stages/report/ClassNotebook")).ClassNotebook,
).Page;
export const GroupNotebook = page(
  "report",
  async () => (await import("../stages/report/GroupNotebook")).GroupNotebook,
).Page;
export const AskPage = page("ask", async () => (await import("../stages/ask/AskPage")).AskPage).Page;
export const AskProjector = page("ask", async () => (await import("../stages/ask/AskProjector")).AskProjector).Page;
export const AnswerPage = page("ask", async () => (await import("../stages/ask/AnswerPage")).AnswerPage).Page;
export const PowerPage = page("power", async () => (await import("../stages/power/PowerPage")).PowerPage).Page;
export const ChainProjector = page(
  "power",
  async () => (await import("../stages/power/ChainProjector")).ChainProjector,
).Page;
export const ExplainPage = page(
  "explain",
  async () => (await import("../stages/explain/ExplainPage")).ExplainPage,
).Page;
export const ClaimsPage = page("explain", async () => (await import("../stages/explain/ClaimsPage")).ClaimsPage).Page;
export const ExplainProjector = page(
  "explain",
  async () => (await import("../stages/explain/ExplainProjector")).ExplainProjector,
).Page;
export const BenchClaims = page(
  "explain",
  async () => (await import("../stages/explain/BenchClaims")).BenchClaims,
).Page;
export const BenchCompare = page(
  "compare",
  async () => (await import("../stages/compare/BenchCompare")).BenchCompare,
).Page;
export const BenchBasics = page("explain", async () => (await import("../stages/explain/Basics")).BenchBasics).Page;
export const BasicsProjector = page(
  "explain",
  async () => (await import("../stages/explain/Basics")).BasicsProjector,
).Page;
export const BenchExplain = page(
  "explain",
  async () => (await import("../stages/explain/BenchExplain")).BenchExplain,
).Page;
const bench = page("measure", async () => (await import("../stages/measure/BenchPage")).BenchPage);
export const BenchPage = bench.Page;
export const HandoutPage = page(
  "compare",
  async () => (await import("../stages/compare/HandoutPage")).HandoutPage,
).Page;
export const ComparePage = page(
  "compare",
  async () => (await import("../stages/compare/ComparePage")).ComparePage,
).Page;

/** The bench, before somebody goes there. */
export const fetchBench = bench.fetched;

/** What a bench may need while the network is away: fetched beside it. */
export const fetchForBench = () => Promise.all([packs.fetched(), notebook.fetched(), practise.fetched()]);
