import type { ReactElement } from "react";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { AdaptPage } from "../adapt/AdaptPage";
import { BatchPage } from "../batch/BatchPage";
import { CookPage } from "../cook/CookPage";
import { StovePage } from "../cook/StovePage";
import { EstimatePage } from "../estimate/EstimatePage";
import { FormulatePage } from "../formulate/FormulatePage";
import { KitchenAlone, KitchenPage } from "../kitchen/KitchenPage";
import { MatchesPage } from "../matches/MatchesPage";
import { PantryAlone, PantryPage } from "../pantry/PantryPage";
import { StudyPage } from "../study/StudyPage";
import { TasterPage } from "../trials/TasterPage";
import { TrialsPage } from "../trials/TrialsPage";
import { useKeptFocus } from "./focus";
import { MatchShell } from "./MatchShell";
import { STEPS } from "./steps";

const PAGES: Record<string, ReactElement> = {
  study: <StudyPage />,
  estimate: <EstimatePage />,
  formulate: <FormulatePage />,
  adapt: <AdaptPage />,
  batch: <BatchPage />,
  cook: <CookPage />,
  trials: <TrialsPage />,
};

/** Every page and its address. */
export function App() {
  useKeptFocus();
  return (
    <BrowserRouter>
      <Routes>
        <Route path="/" element={<MatchesPage />} />
        <Route path="/kitchen" element={<KitchenAlone />} />
        <Route path="/pantry" element={<PantryAlone />} />
        <Route path="/m/:matchId" element={<MatchShell />}>
          <Route index element={<Navigate to={STEPS[0]?.id ?? ""} replace />} />
          {STEPS.map((step) => (
            <Route key={step.id} path={step.id} element={PAGES[step.id]} />
          ))}
          <Route path="kitchen" element={<KitchenPage />} />
          <Route path="pantry" element={<PantryPage />} />
        </Route>
        <Route path="/m/:matchId/stove/:cookId" element={<StovePage />} />
        <Route path="/taste/:matchId/:trialId/:token" element={<TasterPage />} />
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </BrowserRouter>
  );
}
