import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { BatchPage } from "../batch/BatchPage";
import { EstimatePage } from "../estimate/EstimatePage";
import { KitchenAlone, KitchenPage } from "../kitchen/KitchenPage";
import { MatchesPage } from "../matches/MatchesPage";
import { StudyPage } from "../study/StudyPage";
import { MatchShell } from "./MatchShell";

/** Every page and its address. */
export function App() {
  return (
    <BrowserRouter>
      <Routes>
        <Route path="/" element={<MatchesPage />} />
        <Route path="/kitchen" element={<KitchenAlone />} />
        <Route path="/m/:matchId" element={<MatchShell />}>
          <Route index element={<Navigate to="study" replace />} />
          <Route path="study" element={<StudyPage />} />
          <Route path="estimate" element={<EstimatePage />} />
          <Route path="batch" element={<BatchPage />} />
          <Route path="kitchen" element={<KitchenPage />} />
        </Route>
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </BrowserRouter>
  );
}
