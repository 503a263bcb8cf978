import { Link } from "react-router";
import type { Frame } from "../api/types";
import type { HistoryStep } from "./historyApi";

interface HistoryBarProps {
  undoState: Frame["undo_state"];
  busy: boolean;
  onStep: (step: HistoryStep) => void;
  onShow: () => void;
}

/** Undo, redo, and what changed; each says what it would do. */
export function HistoryBar({ undoState, busy, onStep, onShow }: HistoryBarProps) {
  const { undo, redo } = undoState;
  return (
    <div className="ml-auto flex shrink-0 items-center px-2">
      <BarButton
        words={undo ? `Undo: ${undo}` : "Nothing to undo"}
        disabled={busy || !undo}
        onPress={() => onStep({ kind: "undo" })}
      >
        ↶
      </BarButton>
      <BarButton
        words={redo ? `Redo: ${redo}` : "Nothing to redo"}
        disabled={busy || !redo}
        onPress={() => onStep({ kind: "redo" })}
      >
        ↷
      </BarButton>
      <BarButton words="Changes to this match" disabled={false} onPress={onShow}>
        Changes
      </BarButton>
      <Link to="kitchen" className="rounded px-2 py-1.5 text-fern-100 hover:bg-fern-950 hover:text-white">
        Kitchen
      </Link>
      <Link to="pantry" className="rounded px-2 py-1.5 text-fern-100 hover:bg-fern-950 hover:text-white">
        Pantry
      </Link>
    </div>
  );
}

function BarButton(props: { words: string; disabled: boolean; onPress: () => void; children: string }) {
  return (
    <button
      type="button"
      aria-label={props.words}
      title={props.words}
      disabled={props.disabled}
      onClick={props.onPress}
      className="rounded px-2 py-1.5 text-fern-100 hover:bg-fern-950 hover:text-white disabled:opacity-45 disabled:hover:bg-transparent"
    >
      {props.children}
    </button>
  );
}
