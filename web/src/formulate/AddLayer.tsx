import { useQuery } from "@tanstack/react-query";
import type { VersionView } from "../api/types";
import { useMatch } from "../app/match";
import { useAct } from "../app/act";
import { familiesQuery } from "../study/studyApi";
import { Choice } from "../ui/Choice";
import { Notice } from "../ui/Parts";
import { addLayer } from "./formulateApi";

/** A further layer by its family's working ratio; it opens, to be typed into. */
export function AddLayer({ view }: { view: VersionView }) {
  const { matchId, pick } = useMatch();
  const { data: families } = useQuery(familiesQuery);
  const adding = useAct(
    matchId,
    (revision, family: string) => addLayer(matchId, view.version.id, revision, family),
    { then: (changed) => pick(changed.layers[changed.layers.length - 1]?.layer_id ?? null) },
  );
  return (
    <div className="w-64">
      <Choice
        label="Add a layer"
        placeholder={adding.isPending ? "Adding …" : "Add a layer"}
        value={null}
        options={(families ?? []).map((family) => ({
          id: family.id,
          name: family.name,
          note: family.note,
          also: family.also,
        }))}
        onChoose={(family) => adding.mutate(family)}
      />
      {adding.error && (
        <div role="alert" className="mt-2">
          <Notice>{adding.error.message}</Notice>
        </div>
      )}
    </div>
  );
}
