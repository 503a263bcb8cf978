import { useIsMutating, useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, Outlet, useLocation, useNavigate, useParams } from "react-router";
import { useEstimate } from "../estimate/estimateApi";
import { useShownVersion } from "../formulate/formulateApi";
import { frameQuery } from "../frame/frameApi";
import { Path } from "../frame/Path";
import { Slice } from "../frame/Slice";
import { Strip } from "../frame/Strip";
import { ChangesSheet } from "../history/ChangesSheet";
import { HistoryBar } from "../history/HistoryBar";
import { useHistory, type HistoryStep } from "../history/historyApi";
import { useStudy } from "../study/studyApi";
import { Notice } from "../ui/Parts";
import { useArrival } from "./arrival";
import { HelpSheet } from "./HelpSheet";
import { JumpSheet } from "./JumpSheet";
import { useInTurn } from "./inTurn";
import { useKeys } from "./keys";
import { leftAt, useLeaving } from "./left";
import type { MatchContext } from "./match";
import { SaveNotice } from "./SaveNotice";
import { changing } from "./queries";
import { STEPS } from "./steps";
import { useUnderway } from "./underway";

type SheetName = "changes" | "jump" | "help";

/** The frame round every step of a match: path above, slice on the left, strip below. */
export function MatchShell() {
  const { matchId = "" } = useParams();
  const { data: frame, error } = useQuery(frameQuery(matchId));
  const { study, change, ...saver } = useStudy(matchId);
  const { estimate, state } = useEstimate(matchId);
  const [picked, pick] = useState<string | null>(null);
  const [sheet, setSheet] = useState<SheetName | null>(null);
  const history = useHistory(matchId);
  const copy = useShownVersion(matchId, estimate !== null);
  const main = useRef<HTMLElement>(null);
  const opened = Boolean(study && frame);
  const { pathname } = useLocation();
  useArrival(main, pathname, `${pathname} ${sheet ?? ""} ${opened}`);
  // While an edit is on its way, undoing would race with it and blame another window: it waits its turn.
  const changes = useIsMutating({ mutationKey: changing(matchId) });
  const busy = useUnderway() || changes > 0 || history.isPending;
  const go = useInTurn<HistoryStep>(busy, history.mutate);
  useLeaving(matchId);
  useMatchKeys(matchId, go, setSheet);
  if (error) return <CannotOpen message={error.message} />;
  if (!study || !frame) return <p className="p-8 text-ink-2">Opening the match …</p>;
  const close = () => setSheet(null);
  const context: MatchContext = {
    matchId,
    frame,
    study,
    change,
    estimate,
    estimateState: state,
    picked,
    pick,
  };
  return (
    <div className="print-flow flex h-dvh min-w-[360px] flex-col">
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:z-40 focus:m-2 focus:rounded focus:bg-card focus:px-3 focus:py-2 focus:text-fern-700"
        onClick={(event) => {
          event.preventDefault();
          main.current?.focus();
        }}
      >
        To the step
      </a>
      <Path matchId={matchId} frame={frame} estimate={estimate}>
        <HistoryBar undoState={frame.undo_state} busy={busy} onStep={go} onShow={() => setSheet("changes")} />
      </Path>
      <div className="print-flow flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
        <Slice
          frame={frame}
          estimate={estimate}
          computing={state.kind === "computing"}
          picked={picked}
          pick={pick}
          copy={copy}
        />
        <main
          ref={main}
          tabIndex={-1}
          className="print-flow min-w-0 flex-1 overflow-auto px-6 py-4 focus:outline-none"
          id="main"
        >
          {history.error && (
            <div className="no-print mb-4" role="alert">
              <Notice>{history.error.message}</Notice>
            </div>
          )}
          <SaveNotice {...saver} />
          <Outlet context={context} />
        </main>
      </div>
      <Strip frame={frame} estimate={estimate} computing={state.kind === "computing"} copy={copy} />
      <ChangesSheet
        matchId={matchId}
        revision={frame.revision}
        open={sheet === "changes"}
        onClose={close}
        onStep={(step) => {
          go(step);
          close();
        }}
      />
      <JumpSheet matchId={matchId} study={study} open={sheet === "jump"} onClose={close} onPick={pick} />
      <HelpSheet open={sheet === "help"} onClose={close} />
    </div>
  );
}

/** The keys of a match: to its steps, back and forth, and to its sheets. */
function useMatchKeys(matchId: string, go: (step: HistoryStep) => void, show: (sheet: SheetName) => void) {
  const navigate = useNavigate();
  useKeys({
    goTo: (number) => {
      const step = STEPS[number - 1];
      if (step) void navigate(`/m/${matchId}/${step.id}${leftAt(matchId, step.id)}`);
    },
    undo: () => go({ kind: "undo" }),
    redo: () => go({ kind: "redo" }),
    changes: () => show("changes"),
    jump: () => show("jump"),
    kitchen: () => void navigate(`/m/${matchId}/kitchen`),
    help: () => show("help"),
  });
}

function CannotOpen({ message }: { message: string }) {
  return (
    <main className="mx-auto max-w-xl p-8">
      <Notice>{message}</Notice>
      <p className="mt-4">
        <Link to="/" className="text-fern-700 underline">
          All matches
        </Link>
      </p>
    </main>
  );
}
