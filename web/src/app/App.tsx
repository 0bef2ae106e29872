import { type ReactNode, Suspense, lazy, useEffect } from "react";
import { BrowserRouter, Navigate, Route, Routes, useParams } from "react-router";
import { hasLeft } from "../api/leaving";
import { keepForOffline } from "../api/offline";
import { useWho } from "../api/who";
import { Column, Soft } from "../ui/layout";
import { ButtonLink } from "../ui/Button";
import { Broken } from "./Broken";
import { Frame } from "../ui/Frame";
import { JoinPage } from "./JoinPage";
import { SignInPage } from "./SignInPage";
import { Waiting } from "../ui/Waiting";

const LabsPage = lazy(async () => ({ default: (await import("../stages/labs/LabsPage")).LabsPage }));
const ImportPage = lazy(async () => ({ default: (await import("../stages/labs/ImportPage")).ImportPage }));
const AccountPage = lazy(async () => ({ default: (await import("../stages/labs/AccountPage")).AccountPage }));
const SchoolPage = lazy(async () => ({ default: (await import("../stages/school/SchoolPage")).SchoolPage }));
const FirstPage = lazy(async () => ({ default: (await import("../stages/school/FirstPage")).FirstPage }));
const LinkPage = lazy(async () => ({ default: (await import("../stages/school/LinkPage")).LinkPage }));
const CheckPage = lazy(async () => ({ default: (await import("../stages/school/CheckPage")).CheckPage }));
const YearsPage = lazy(async () => ({ default: (await import("../stages/labs/YearsPage")).YearsPage }));
const NewLabPage = lazy(async () => ({ default: (await import("../stages/plan/SetupPage")).NewLabPage }));
const SetupPage = lazy(async () => ({ default: (await import("../stages/plan/SetupPage")).SetupPage }));
const KitPage = lazy(async () => ({ default: (await import("../stages/plan/SheetPages")).KitPage }));
const SafetyPage = lazy(async () => ({ default: (await import("../stages/plan/SheetPages")).SafetyPage }));
const CardsPage = lazy(async () => ({ default: (await import("../stages/plan/SheetPages")).CardsPage }));
const PrintPage = lazy(async () => ({ default: (await import("../stages/plan/SheetPages")).PrintPage }));
const PredictionsPage = lazy(async () => ({
  default: (await import("../stages/predict/PredictionsPage")).PredictionsPage,
}));
const MaterialsPage = lazy(async () => ({
  default: (await import("../stages/materials/MaterialsPage")).MaterialsPage,
}));
const PlanPage = lazy(async () => ({ default: (await import("../stages/plan/PlanPage")).PlanPage }));
const BoardPage = lazy(async () => ({ default: (await import("../stages/measure/BoardPage")).BoardPage }));
const BoardProjector = lazy(async () => ({
  default: (await import("../stages/measure/BoardProjector")).BoardProjector,
}));
const CompareProjector = lazy(async () => ({
  default: (await import("../stages/compare/CompareProjector")).CompareProjector,
}));
const packsPage = async () => ({ default: (await import("../stages/power/BenchPacks")).BenchPacks });
const BenchPacks = lazy(packsPage);
const practisePage = async () => ({ default: (await import("../stages/practise/PractisePage")).PractisePage });
const PractisePage = lazy(practisePage);
const notebookPage = async () => ({ default: (await import("../stages/report/BenchNotebook")).BenchNotebook });
const BenchNotebook = lazy(notebookPage);
const ReportPage = lazy(async () => ({ default: (await import("../stages/report/ReportPage")).ReportPage }));
const HomeworkPage = lazy(async () => ({ default: (await import("../stages/practise/HomeworkPage")).HomeworkPage }));
const ClassNotebook = lazy(async () => ({ default: (await import("../stages/report/ClassNotebook")).ClassNotebook }));
const GroupNotebook = lazy(async () => ({ default: (await import("../stages/report/GroupNotebook")).GroupNotebook }));
const PowerPage = lazy(async () => ({ default: (await import("../stages/power/PowerPage")).PowerPage }));
const ChainProjector = lazy(async () => ({
  default: (await import("../stages/power/ChainProjector")).ChainProjector,
}));
const ExplainPage = lazy(async () => ({ default: (await import("../stages/explain/ExplainPage")).ExplainPage }));
const ClaimsPage = lazy(async () => ({ default: (await import("../stages/explain/ClaimsPage")).ClaimsPage }));
const ExplainProjector = lazy(async () => ({
  default: (await import("../stages/explain/ExplainProjector")).ExplainProjector,
}));
const BenchClaims = lazy(async () => ({ default: (await import("../stages/explain/BenchClaims")).BenchClaims }));
const BenchCompare = lazy(async () => ({ default: (await import("../stages/compare/BenchCompare")).BenchCompare }));
const BenchExplain = lazy(async () => ({ default: (await import("../stages/explain/BenchExplain")).BenchExplain }));
const BenchPage = lazy(async () => ({ default: (await import("../stages/measure/BenchPage")).BenchPage }));
const ComparePage = lazy(async () => ({ default: (await import("../stages/compare/ComparePage")).ComparePage }));

/** Where each kind of visitor starts. */
function Start() {
  const who = useWho();
  if (!who.data) return <Waiting title="Start" error={who.error} />;
  if (who.data.teacher) return <Navigate to="/labs" replace />;
  if (who.data.group) return <Navigate to="/bench" replace />;
  if (who.data.first) return <Navigate to="/first" replace />;
  return <JoinPage />;
}

/** A page for teachers: who is not signed in is asked to, and comes back here. */
function Teachers({ children }: { children: ReactNode }) {
  const who = useWho();
  if (!who.data) return <Waiting title="Pipette" error={who.error} />;
  return who.data.teacher ? children : <SignInPage />;
}

/** The page of one lab, by the id in the address. */
function OfLab({ page: Page }: { page: (props: { id: string }) => ReactNode }) {
  const { id } = useParams();
  return <Teachers>{id && <Page id={id} key={id} />}</Teachers>;
}

/** A group's bench; the pages of packs, notebook and practice are fetched beside, so that they are there when the network goes away. */
function Bench() {
  useEffect(() => {
    const kept = async () => {
      await Promise.all([packsPage(), notebookPage(), practisePage()]);
      if (!hasLeft()) await keepForOffline(); // it may have come after the bench was put by for offline use
    };
    void kept().catch(() => null);
  }, []);
  return <BenchPage />;
}

function Nowhere() {
  return (
    <Frame title="Not found">
      <Column>
        <h1>There is no page here</h1>
        <Soft>The address may be mistyped. Nothing is lost.</Soft>
        <p>
          <ButtonLink to="/">To the start</ButtonLink>
        </p>
      </Column>
    </Frame>
  );
}

export function App() {
  return (
    <BrowserRouter>
      <Broken>
        <Suspense fallback={<Waiting title="Pipette" error={null} />}>
          <Routes>
            <Route path="/" element={<Start />} />
            <Route path="/join" element={<JoinPage />} />
            <Route path="/sign-in" element={<SignInPage />} />
            <Route path="/first" element={<FirstPage />} />
            <Route path="/check" element={<CheckPage />} />
            <Route path="/link" element={<LinkPage />} />
            <Route path="/practise" element={<PractisePage />} />
            <Route path="/bench" element={<Bench />} />
            <Route path="/bench/claims" element={<BenchClaims />} />
            <Route path="/bench/results" element={<BenchCompare />} />
            <Route path="/bench/explain" element={<BenchExplain />} />
            <Route path="/bench/packs" element={<BenchPacks />} />
            <Route path="/bench/packs/:pack" element={<BenchPacks />} />
            <Route path="/bench/notebook" element={<BenchNotebook />} />
            <Route path="/bench/:number" element={<Bench />} />
            <Route
              path="/labs"
              element={
                <Teachers>
                  <LabsPage />
                </Teachers>
              }
            />
            <Route
              path="/labs/new"
              element={
                <Teachers>
                  <NewLabPage />
                </Teachers>
              }
            />
            <Route
              path="/labs/import"
              element={
                <Teachers>
                  <ImportPage />
                </Teachers>
              }
            />
            <Route
              path="/account"
              element={
                <Teachers>
                  <AccountPage />
                </Teachers>
              }
            />
            <Route
              path="/school"
              element={
                <Teachers>
                  <SchoolPage />
                </Teachers>
              }
            />
            <Route
              path="/years"
              element={
                <Teachers>
                  <YearsPage />
                </Teachers>
              }
            />
            <Route
              path="/materials"
              element={
                <Teachers>
                  <MaterialsPage />
                </Teachers>
              }
            />
            <Route path="/labs/:id/setup" element={<OfLab page={SetupPage} />} />
            <Route path="/labs/:id/plan" element={<OfLab page={PlanPage} />} />
            <Route path="/labs/:id/kit" element={<OfLab page={KitPage} />} />
            <Route path="/labs/:id/safety" element={<OfLab page={SafetyPage} />} />
            <Route path="/labs/:id/cards" element={<OfLab page={CardsPage} />} />
            <Route path="/labs/:id/print" element={<OfLab page={PrintPage} />} />
            <Route path="/labs/:id/predict" element={<OfLab page={PredictionsPage} />} />
            <Route path="/labs/:id/board" element={<OfLab page={BoardPage} />} />
            <Route path="/labs/:id/board/projector" element={<OfLab page={BoardProjector} />} />
            <Route path="/labs/:id/compare" element={<OfLab page={ComparePage} />} />
            <Route path="/labs/:id/compare/projector" element={<OfLab page={CompareProjector} />} />
            <Route path="/labs/:id/explain" element={<OfLab page={ExplainPage} />} />
            <Route path="/labs/:id/report" element={<OfLab page={ReportPage} />} />
            <Route path="/labs/:id/notebook" element={<OfLab page={ClassNotebook} />} />
            <Route path="/labs/:id/notebook/:group" element={<OfLab page={GroupNotebook} />} />
            <Route path="/labs/:id/practise" element={<OfLab page={HomeworkPage} />} />
            <Route path="/labs/:id/power" element={<OfLab page={PowerPage} />} />
            <Route path="/labs/:id/power/projector" element={<OfLab page={ChainProjector} />} />
            <Route path="/labs/:id/claims" element={<OfLab page={ClaimsPage} />} />
            <Route path="/labs/:id/explain/projector" element={<OfLab page={ExplainProjector} />} />
            <Route path="*" element={<Nowhere />} />
          </Routes>
        </Suspense>
      </Broken>
    </BrowserRouter>
  );
}
