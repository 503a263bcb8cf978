import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Region } from "../api/types";
import { matchFromRecipe } from "../formulate/formulateApi";
import { RecipeSheet } from "../versions/RecipeSheet";
import { useTyping } from "../ui/typing";
import { FileButton } from "../ui/FileButton";
import { Button, Notice } from "../ui/Parts";
import { REGIONS } from "../ui/regions";
import { Select } from "../ui/Select";
import { createMatch, importMatch, matchesQuery } from "./matchesApi";

/** Starts a match from a name, or from a match file. */
export function NewMatch() {
  const name = useTyping("new name");
  const maker = useTyping("new maker");
  const [region, setRegion] = useState<Region>("EU");
  const [recipe, setRecipe] = useState(false);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const open = (match: { id: string }) => {
    void queries.invalidateQueries({ queryKey: matchesQuery.queryKey });
    void navigate(`/m/${match.id}/study`);
  };
  const creation = useMutation({
    mutationFn: () =>
      createMatch({ name: name.draft?.trim() ?? "", maker: maker.draft?.trim() ?? "", region }),
    onSuccess: (match) => {
      name.write(null);
      maker.write(null);
      open(match);
    },
  });
  const intake = useMutation({
    mutationFn: async (chosen: File) => importMatch(await chosen.text()),
    onSuccess: open,
  });
  return (
    <section aria-labelledby="new" className="self-start rounded-lg border border-line bg-linen px-5 py-4">
      <h2 id="new" tabIndex={-1} className="mb-3 text-lg focus:outline-none">
        New match
      </h2>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          creation.mutate();
        }}
      >
        <TextField label="Name of the original" value={name.draft ?? ""} onChange={name.write} required />
        <TextField label="Maker (if you like)" value={maker.draft ?? ""} onChange={maker.write} />
        <Select showLabel label="Label from" value={region} options={REGIONS} onChoose={setRegion} />
        <Button look="main" type="submit" disabled={creation.isPending || !name.draft?.trim()}>
          Start the match
        </Button>
        {creation.error && <Notice>{creation.error.message}</Notice>}
      </form>
      <div className="mt-5 space-y-2 border-t border-line pt-3">
        <p>
          <Button look="bare" onClick={() => setRecipe(true)}>
            Start from a recipe alone
          </Button>
        </p>
        <FileButton label="Match file to import" onChoose={(file) => intake.mutate(file)}>
          Import a match file
        </FileButton>
        {intake.error && (
          <div className="mt-2" role="alert">
            <Notice>{intake.error.message}</Notice>
          </div>
        )}
      </div>
      {recipe && (
        <RecipeSheet
          region={region}
          take={async (asked) => (await matchFromRecipe(asked, name.draft?.trim() ?? "", region)).id}
          onTaken={(id) => {
            void queries.invalidateQueries({ queryKey: matchesQuery.queryKey });
            void navigate(`/m/${id}/formulate`);
          }}
          onClose={() => setRecipe(false)}
        />
      )}
    </section>
  );
}

function TextField(props: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  required?: boolean;
}) {
  return (
    <label className="block">
      <span className="text-sm text-ink-2">{props.label}</span>
      <input
        className="block w-full rounded border border-line bg-card px-2 py-1"
        value={props.value}
        required={props.required}
        maxLength={120}
        onChange={(event) => props.onChange(event.target.value)}
      />
    </label>
  );
}
