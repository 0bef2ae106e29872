import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type ReactNode, Suspense, useEffect } from "react";
import { BrowserRouter, Navigate, Route, Routes, useLocation, useParams } from "react-router";
import { hasLeft } from "../api/leaving";
import { keepForOffline } from "../api/offline";
import { useWho } from "../api/who";
import { Column, Soft } from "../ui/layout";
import { ButtonLink } from "../ui/Button";
import { Broken } from "./Broken";
import { Frame } from "../ui/Frame";
import {
  AccountPage,
  AnswerPage,
  AskPage,
  AskProjector,
  BasicsProjector,
  BenchBasics,
  BenchClaims,
  BenchCompare,
  BenchExplain,
  BenchNotebook,
  BenchPacks,
  BenchPage,
  BoardPage,
  BoardProjector,
  CardsPage,
  ChainProjector,
  CheckPage,
  ClaimsPage,
  ClassNotebook,
  ComparePage,
  CompareProjector,
  ExplainPage,
  ExplainProjector,
  FirstPage,
  HandoutPage,
  GroupNotebook,
  HomeworkPage,
  ImportPage,
  KitPage,
  LabsPage,
  LinkPage,
  MaterialsPage,
  NewLabPage,
  PlanPage,
  PowerPage,
  PractisePage,
  PredictionsPage,
  PrintPage,
  ReportPage,
  SafetyPage,
  SchoolPage,
  SetupPage,
  YearsPage,
  fetchForBench,
} from "./pages";
import { JoinPage } from "./JoinPage";
import { SignInPage } from "./SignInPage";
import { Waiting } from "../ui/Waiting";
import { borrowed } from "../language";

const OF_THE_CLASS = /^\/labs\/[^/]+\/(cards|print|compare\/handout|(\w+\/)?projector)\/?$/;

/** Sheets and walls speak the lab's language; every other page comes in its reader's own again. */
function OwnLanguage() {
  const { pathname } = useLocation();
  const back = borrowed && !OF_THE_CLASS.test(pathname);
  useEffect(() => {
    if (back) window.location.reload();
  }, [back]);
  return null;
}

/** Where each kind of visitor starts. */
function Start() {
  const who = useWho();
  if (!who.data) return <Waiting title={t`Start`} error={who.error} />;
  if (who.data.teacher) return <Navigate to="/labs" replace />;
  if (who.data.group) return <Navigate to="/bench" replace />;
  if (who.data.first) return <Navigate to="/first" replace />;
  return <JoinPage />;
}

/** A page for teachers: who is not signed in is asked to, and comes back here. */
function Teachers({ children }: { children: ReactNode }) {
  const who = useWho();
  if (!who.data) return <Waiting title={t`Pipette`} error={who.error} />;
  return who.data.teacher ? children : <SignInPage />;
}

/** The page of one lab, by the id in the address. */
function OfLab({ page: Page }: { page: (props: { id: string }) => ReactNode }) {
  const { id } = useParams();
  return <Teachers>{id && <Page id={id} key={id} />}</Teachers>;
}

/** A group's bench; once it stands, the pages of packs, notebook and practice are fetched too, so that they are there when the
 * network goes away. */
function Bench() {
  return <BenchPage stands={keepBench} />;
}

const keepBench = () => {
  if (hasLeft()) return;
  const kept = async () => {
    await keepForOffline(); // the bench itself first
    await fetchForBench();
    if (!hasLeft()) await keepForOffline();
  };
  void kept().catch(() => null);
};

function Nowhere() {
  return (
    <Frame title={t`Not found`}>
      <Column>
        <h1>
          <Trans>There is no page here</Trans>
        </h1>
        <Soft>
          <Trans>The address may be mistyped. Nothing is lost.</Trans>
        </Soft>
        <p>
          <ButtonLink to="/">
            <Trans>To the start</Trans>
          </ButtonLink>
        </p>
      </Column>
    </Frame>
  );
}

export function App() {
  return (
    <BrowserRouter>
      <OwnLanguage />
      <Broken>
        <Suspense fallback={<Waiting title={t`Pipette`} error={null} />}>
          <Routes>
            <Route path="/" element={<Start />} />
            <Route path="/join" element={<JoinPage />} />
            <Route path="/sign-in" element={<SignInPage />} />
            <Route path="/first" element={<FirstPage />} />
            <Route path="/check" element={<CheckPage />} />
            <Route path="/link" element={<LinkPage />} />
            <Route path="/answer" element={<AnswerPage />} />
            <Route path="/practise" element={<PractisePage />} />
            <Route path="/bench" element={<Bench />} />
            <Route path="/bench/claims" element={<BenchClaims />} />
            <Route path="/bench/results" element={<BenchCompare />} />
            <Route path="/bench/basics" element={<BenchBasics />} />
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
            <Route path="/labs/:id/compare/handout" element={<OfLab page={HandoutPage} />} />
            <Route path="/labs/:id/compare/projector" element={<OfLab page={CompareProjector} />} />
            <Route path="/labs/:id/explain" element={<OfLab page={ExplainPage} />} />
            <Route path="/labs/:id/report" element={<OfLab page={ReportPage} />} />
            <Route path="/labs/:id/notebook" element={<OfLab page={ClassNotebook} />} />
            <Route path="/labs/:id/notebook/:group" element={<OfLab page={GroupNotebook} />} />
            <Route path="/labs/:id/ask" element={<OfLab page={AskPage} />} />
            <Route path="/labs/:id/ask/projector" element={<OfLab page={AskProjector} />} />
            <Route path="/labs/:id/practise" element={<OfLab page={HomeworkPage} />} />
            <Route path="/labs/:id/power" element={<OfLab page={PowerPage} />} />
            <Route path="/labs/:id/power/projector" element={<OfLab page={ChainProjector} />} />
            <Route path="/labs/:id/claims" element={<OfLab page={ClaimsPage} />} />
            <Route path="/labs/:id/basics/projector" element={<OfLab page={BasicsProjector} />} />
            <Route path="/labs/:id/explain/projector" element={<OfLab page={ExplainProjector} />} />
            <Route path="*" element={<Nowhere />} />
          </Routes>
        </Suspense>
      </Broken>
    </BrowserRouter>
  );
}
