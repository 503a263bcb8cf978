import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import type { MatchSummary, StudyOut } from "../api/types";
import { matchesQuery } from "../matches/matchesApi";
import { Finder, type Option } from "../ui/Choice";
import { Sheet } from "../ui/Sheet";
import { STEPS } from "./steps";

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
  const { data } = useQuery({ ...matchesQuery, enabled: open });
  const others = (data?.matches ?? []).filter((match) => match.id !== matchId);
  return (
    <Sheet title="Jump to" open={open} onClose={onClose}>
      <Finder
        label="Jump to, by name"
        placeholder="a step, a layer, an ingredient …"
        options={[...places(study), ...others.map(matchPlace)]}
        onChoose={(id) => {
          const [kind, rest = ""] = id.split(/:(.*)/s);
          if (kind === "layer") onPick(rest);
          void navigate(
            kind === "match" ? `/m/${rest}` : `/m/${matchId}/${kind === "layer" ? "estimate" : rest}`,
          );
          onClose();
        }}
      />
    </Sheet>
  );
}

const matchPlace = (match: MatchSummary): Option => ({
  id: `match:${match.id}`,
  name: `Match: ${match.name || "unnamed"}`,
});

function places(study: StudyOut): Option[] {
  const fixed = STEPS.flatMap((step): Option[] => [
    { id: `page:${step.id}`, name: step.title },
    ...step.places.map(({ search, name }) => ({
      id: `page:${step.id}${search}`,
      name: `${step.title}: ${name}`,
    })),
  ]);
  const layers = study.study.layers.map((layer) => ({
    id: `layer:${layer.id}`,
    name: `Layer: ${layer.name}`,
  }));
  const names = study.reading.statement
    .filter((item) => !item.is_compound)
    .map((item) => ({
      id: `page:study?part=statement&item=${encodeURIComponent(item.key)}`,
      name: `Ingredient: ${item.key}`,
    }));
  return [
    ...fixed,
    { id: "page:kitchen", name: "Kitchen" },
    { id: "page:pantry", name: "Pantry" },
    ...layers,
    ...names,
  ];
}
