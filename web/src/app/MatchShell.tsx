import { useState } from "react";
import { Link, Outlet, useParams } from "react-router";
import { useEstimate } from "../estimate/estimateApi";
import { Path } from "../frame/Path";
import { Slice } from "../frame/Slice";
import { Strip } from "../frame/Strip";
import { useStudy } from "../study/studyApi";
import { Notice } from "../ui/Parts";
import type { MatchContext } from "./match";
import { SaveNotice } from "./SaveNotice";

/** The frame round every step of a match: path above, slice on the left, strip below. */
export function MatchShell() {
  const { matchId = "" } = useParams();
  const { study, error, change, saving, resolve } = useStudy(matchId);
  const { estimate, state } = useEstimate(matchId, study?.revision ?? null);
  const [pointed, point] = useState<string | null>(null);
  const [picked, pick] = useState<string | null>(null);
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
      <Path study={study} estimate={estimate} />
      <div className="print-flow flex min-h-0 flex-1">
        <Slice {...context} />
        <main className="print-flow min-w-0 flex-1 overflow-auto px-6 py-4" id="main">
          <SaveNotice saving={saving} resolve={resolve} />
          <Outlet context={context} />
        </main>
      </div>
      <Strip study={study} estimate={estimate} computing={state.kind === "computing"} />
    </div>
  );
}
