import { useState } from "react";
import { Link, Outlet, useNavigate, useParams } from "react-router";
import { useEstimate } from "../estimate/estimateApi";
import { ChangesSheet } from "../history/ChangesSheet";
import { HistoryBar } from "../history/HistoryBar";
import { useHistory } from "../history/historyApi";
import { Path } from "../frame/Path";
import { Slice } from "../frame/Slice";
import { Strip } from "../frame/Strip";
import { useStudy } from "../study/studyApi";
import { Notice } from "../ui/Parts";
import { HelpSheet } from "./HelpSheet";
import { JumpSheet } from "./JumpSheet";
import { useKeys } from "./keys";
import type { MatchContext } from "./match";
import { SaveNotice } from "./SaveNotice";

/** The frame round every step of a match: path above, slice on the left, strip below. */
export function MatchShell() {
  const { matchId = "" } = useParams();
  const { study, error, change, saving, resolve } = useStudy(matchId);
  const { estimate, state } = useEstimate(matchId, study?.revision ?? null);
  const [pointed, point] = useState<string | null>(null);
  const [picked, pick] = useState<string | null>(null);
  const [sheet, setSheet] = useState<"changes" | "jump" | "help" | null>(null);
  const close = () => setSheet(null);
  const history = useHistory(matchId);
  const navigate = useNavigate();
  useKeys({
    goTo: (number) => {
      const step = study?.path[number - 1];
      if (step) void navigate(`/m/${matchId}/${step.step}`);
    },
    undo: () => history.mutate({ kind: "undo" }),
    redo: () => history.mutate({ kind: "redo" }),
    changes: () => setSheet("changes"),
    jump: () => setSheet("jump"),
    kitchen: () => void navigate(`/m/${matchId}/kitchen`),
    help: () => setSheet("help"),
  });
  if (error) {
    return (
      <main className="mx-auto max-w-xl p-8">
        <Notice>{error.message}</Notice>
        <p className="mt-4">
          <Link to="/" className="text-fern-700 underline">
            All matches
          </Link>
        </p>
      </main>
    );
  }
  if (!study) return <p className="p-8 text-ink-2">Opening the match …</p>;
  const context: MatchContext = {
    matchId,
    study,
    change,
    estimate,
    estimateState: state,
    pointed,
    point,
    picked,
    pick,
  };
  return (
    <div className="print-flow flex h-dvh min-w-[1024px] flex-col">
      <Path study={study} estimate={estimate}>
        <HistoryBar
          study={study}
          busy={history.isPending || saving.kind === "sending"}
          onStep={(step) => history.mutate(step)}
          onShow={() => setSheet("changes")}
        />
      </Path>
      <div className="print-flow flex min-h-0 flex-1">
        <Slice {...context} />
        <main className="print-flow min-w-0 flex-1 overflow-auto px-6 py-4" id="main">
          {history.error && (
            <div className="no-print mb-4" role="alert">
              <Notice>{history.error.message}</Notice>
            </div>
          )}
          <SaveNotice saving={saving} resolve={resolve} />
          <Outlet context={context} />
        </main>
      </div>
      <ChangesSheet
        matchId={matchId}
        revision={study.revision}
        open={sheet === "changes"}
        onClose={close}
        onStep={(step) => {
          history.mutate(step);
          close();
        }}
      />
      <JumpSheet matchId={matchId} study={study} open={sheet === "jump"} onClose={close} onPick={pick} />
      <HelpSheet open={sheet === "help"} onClose={close} />
      <Strip study={study} estimate={estimate} computing={state.kind === "computing"} />
    </div>
  );
}
