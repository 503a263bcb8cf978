import { useOutletContext } from "react-router";
import type { Frame, Ready, StudyOut } from "../api/types";
import type { EstimateState } from "../estimate/estimateApi";
import type { StudyChange } from "../study/studyApi";

/** What every step of a match works with. Which layer is pointed at is not here: pointing renders no step (frame/pointing). */
export interface MatchContext {
  matchId: string;
  frame: Frame;
  /** As typed (edits not yet answered included) and as last read by the core. */
  study: StudyOut;
  change: (change: StudyChange) => void;
  estimate: Ready | null;
  estimateState: EstimateState;
  /** The layer that the step is about. */
  picked: string | null;
  pick: (layerId: string | null) => void;
}

/** The match that the page is about. */
export const useMatch = () => useOutletContext<MatchContext>();
