import { useOutletContext } from "react-router";
import type { Estimate, StudyOut } from "../api/types";
import type { EstimateState } from "../estimate/estimateApi";
import type { StudyChange } from "../study/studyApi";

/** What every step of a match works with. */
export interface MatchContext {
  matchId: string;
  /** As typed (edits not yet answered included) and as last read by the core. */
  study: StudyOut;
  change: (change: StudyChange) => void;
  estimate: Estimate | null;
  estimateState: EstimateState;
  /** The layer that is pointed at anywhere, and the one picked. */
  pointed: string | null;
  point: (layerId: string | null) => void;
  picked: string | null;
  pick: (layerId: string | null) => void;
}

/** The match that the page is about. */
export const useMatch = () => useOutletContext<MatchContext>();
