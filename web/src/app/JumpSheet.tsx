import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import type { MatchSummary, StudyOut } from "../api/types";
import { matchesQuery } from "../matches/matchesApi";
import { Choice, type Option } from "../ui/Choice";
import { Sheet } from "../ui/Sheet";

interface JumpSheetProps {
  matchId: string;
  study: StudyOut;
  open: boolean;
  onClose: () => void;
  onPick: (layerId: string) => void;
}

/** Anything by name: steps, parts, layers, ingredients, the kitchen, other matches. */
export function JumpSheet({ matchId, study, open, onClose, onPick }: JumpSheetProps) {
  const navigate = useNavigate();
  const { data: matches } = useQuery({ ...matchesQuery, enabled: open });
  const others = (matches ?? []).filter((match) => match.id !== matchId);
  return (
    <Sheet title="Jump to" open={open} onClose={onClose}>
      <Choice
        label="Jump to, by name"
        placeholder="a step, a layer, an ingredient …"
        options={[...places(study), ...others.map(matchPlace)]}
        value={null}
        onChoose={(id) => {
          const [kind, rest = ""] = id.split(/:(.*)/s);
          if (kind === "layer") onPick(rest);
          void navigate(
            kind === "match" ? `/m/${rest}` : `/m/${matchId}/${kind === "layer" ? "estimate" : rest}`,
          );
          onClose();
        }}
      />
      <div className="h-72" />
    </Sheet>
  );
}

const matchPlace = (match: MatchSummary): Option => ({
  id: `match:${match.id}`,
  name: `Match: ${match.name || "unnamed"}`,
});

function places(study: StudyOut): Option[] {
  const fixed: Option[] = [
    { id: "page:study?part=label", name: "Study: label" },
    { id: "page:study?part=statement", name: "Study: ingredients" },
    { id: "page:study?part=layers", name: "Study: layers" },
    { id: "page:study?part=weighings", name: "Study: weighings" },
    { id: "page:estimate", name: "Estimate" },
    { id: "page:estimate?side=label", name: "Estimate: label" },
    { id: "page:batch", name: "Batch" },
    { id: "page:kitchen", name: "Kitchen" },
  ];
  const layers = (study.study.layers ?? []).map((layer) => ({
    id: `layer:${layer.id}`,
    name: `Layer: ${layer.name}`,
  }));
  const names = study.reading.statement
    .filter((item) => !item.is_compound)
    .map((item) => ({
      id: `page:study?part=statement&item=${encodeURIComponent(item.key)}`,
      name: `Ingredient: ${item.key}`,
    }));
  return [...fixed, ...layers, ...names];
}
