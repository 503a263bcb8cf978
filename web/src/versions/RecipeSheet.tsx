import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect, useId, useState } from "react";
import type { RecipeAsked, RecipeRead, Region } from "../api/types";
import { houseKey } from "../app/queries";
import { kitchenQuery } from "../kitchen/kitchenApi";
import { familiesQuery, pantryQuery } from "../study/studyApi";
import { Choice } from "../ui/Choice";
import { figure, range } from "../ui/figures";
import { Button, Notice } from "../ui/Parts";
import { Select } from "../ui/Select";
import { Sheet } from "../ui/Sheet";
import { useTyping } from "../ui/typing";
import { readRecipe } from "../formulate/formulateApi";

type Measures = NonNullable<RecipeAsked["measures"]>;
const COUNTRIES: readonly (readonly [Measures, string])[] = [
  ["metric", "metric cups and spoons"],
  ["US", "US cups and spoons"],
  ["UK", "UK cups and spoons"],
  ["AU", "Australian cups and spoons"],
];
const READ_AFTER_MS = 350;

interface RecipeSheetProps {
  take: (recipe: RecipeAsked) => Promise<string>;
  onTaken: (id: string) => void;
  onClose: () => void;
  /** Of the label, where it is not that of a match. */
  region?: Region;
}

/** A recipe typed or pasted, read line by line as one types; what is doubtful is asked beside its line. */
export function RecipeSheet({ take, onTaken, onClose, region }: RecipeSheetProps) {
  const typing = useTyping("recipe");
  const { data: kitchen } = useQuery(kitchenQuery);
  const [country, setCountry] = useState<Measures | null>(null);
  const [taken, setTaken] = useState<Record<string, string>>({});
  const [families, setFamilies] = useState<Record<string, string>>({});
  const [pieces, setPieces] = useState("");
  const piecesProblem = useId();
  const text = typing.draft ?? "";
  const asked: RecipeAsked = {
    text,
    measures: country,
    region: region ?? null,
    taken,
    families,
    pieces,
  };
  const settled = useSettled(JSON.stringify(asked));
  const { data: read, error } = useQuery({
    queryKey: houseKey("recipe", settled),
    queryFn: () => readRecipe(JSON.parse(settled) as RecipeAsked),
    enabled: text.trim() !== "",
    placeholderData: (before) => before,
  });
  const taking = useMutation({
    mutationFn: () => take(asked),
    onSuccess: (id) => {
      typing.write(null);
      onTaken(id);
    },
  });
  return (
    <Sheet title="From a recipe" open onClose={onClose} wide>
      <div className="grid gap-4 min-[1100px]:grid-cols-2">
        <div>
          <label className="block">
            <span className="mb-1 block text-sm text-ink-2">
              One ingredient a line, in any unit. A line that ends in a colon names a part: “Caramel:”.
            </span>
            <textarea
              className="h-80 w-full rounded border border-line bg-card px-3 py-2"
              value={text}
              maxLength={20000}
              onChange={(event) => typing.write(event.target.value)}
              placeholder={"Makes 24\nFor the base:\n250 g plain biscuits, crushed\n1 stick butter, melted"}
              spellCheck={false}
            />
          </label>
          <div className="mt-2 grid grid-cols-2 gap-3">
            <Select
              showLabel
              label="Its cups and spoons are"
              value={country ?? read?.measures ?? kitchen?.kitchen.measures ?? "metric"}
              options={COUNTRIES}
              onChoose={setCountry}
            />
            <label className="block">
              <span className="mb-0.5 block text-sm text-ink-2">Pieces it makes</span>
              <input
                className="w-full rounded border border-line bg-card px-2 py-1"
                value={pieces}
                placeholder={read ? `${read.pieces}${read.pieces_said ? "" : ", assumed"}` : "24, assumed"}
                maxLength={100}
                aria-invalid={Boolean(read?.pieces_problem)}
                aria-describedby={piecesProblem}
                onChange={(event) => setPieces(event.target.value)}
              />
              <span id={piecesProblem} className="block text-sm leading-snug text-amber-ink">
                {read?.pieces_problem}
              </span>
            </label>
          </div>
        </div>
        <div aria-live="polite">
          {error && <Notice>{error.message}</Notice>}
          {!read && !error && <p className="text-ink-2">What is read stands here, line by line.</p>}
          {read && (
            <Read
              read={read}
              onTake={(number, id) => setTaken({ ...taken, [number]: id })}
              onFamily={(part, id) => setFamilies({ ...families, [part]: id })}
            />
          )}
        </div>
      </div>
      {taking.error && (
        <div role="alert" className="mt-3">
          <Notice>{taking.error.message}</Notice>
        </div>
      )}
      <p className="mt-3 flex items-baseline gap-3">
        <Button look="main" disabled={!read || taking.isPending} onClick={() => taking.mutate()}>
          Take it as a version
        </Button>
        {read && (
          <span className="text-ink-2">
            {figure(read.piece_g, 1)} g a piece as added. Lines without an amount stay free.
          </span>
        )}
      </p>
    </Sheet>
  );
}

/** A value once it has not changed for a moment. */
function useSettled(value: string): string {
  const [settled, settle] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => settle(value), READ_AFTER_MS);
    return () => clearTimeout(timer);
  }, [value]);
  return settled;
}

interface ReadProps {
  read: RecipeRead;
  onTake: (number: number, ingredient: string) => void;
  onFamily: (part: number, family: string) => void;
}

function Read({ read, onTake, onFamily }: ReadProps) {
  const { data: families } = useQuery(familiesQuery);
  return (
    <div className="space-y-3">
      {read.doubts.map((doubt) => (
        <Notice key={doubt}>{doubt}</Notice>
      ))}
      {read.parts.map((part, at) => (
        <section key={`${part.name}-${at}`}>
          <div className="flex items-center gap-2">
            <h3 className="shrink-0 text-base">{part.name || "The recipe"}</h3>
            <div className="min-w-0 flex-1">
              <Choice
                label={`${part.name || "The recipe"} is a kind of`}
                value={part.family_id}
                options={(families ?? []).map((one) => ({ id: one.id, name: one.name, also: one.also }))}
                onChoose={(id) => onFamily(at, id)}
              />
            </div>
            <span className="text-ink-2">{figure(part.grams, 0)} g</span>
          </div>
          <ul className="mt-1">
            {part.lines.map((line) => (
              <li key={line.number} className="border-t border-line/60 py-1">
                <ReadLine line={line} onTake={onTake} />
              </li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}

function ReadLine({
  line,
  onTake,
}: {
  line: RecipeRead["parts"][number]["lines"][number];
  onTake: ReadProps["onTake"];
}) {
  const { data: pantry } = useQuery(pantryQuery);
  return (
    <>
      <div className="flex items-baseline justify-between gap-3">
        <span className="min-w-0 leading-tight">
          {line.ingredient ?? <em className="text-amber-ink">{line.line}</em>}
          {line.free && <span className="text-ink-2"> {line.free}</span>}
        </span>
        <span className="shrink-0 text-right whitespace-nowrap">
          {line.grams === null ? "–" : `${figure(line.grams)} g`}
          {line.wide && line.low_g !== null && line.high_g !== null && (
            <span className="ml-2 text-sm text-ink-2">{range(line.low_g, line.high_g)}</span>
          )}
        </span>
      </div>
      {line.problem && <p className="text-sm leading-snug text-amber-ink">{line.problem}</p>}
      {!line.problem && line.assumed.length > 0 && (
        <p className="text-sm leading-snug text-ink-2">{line.assumed.join("; ")}</p>
      )}
      {!line.sure && (
        <div className="mt-1 w-72">
          <Choice
            label={`${line.line}, taken for`}
            placeholder="choose the ingredient"
            value={line.ingredient_id}
            options={(pantry ?? []).map((food) => ({ id: food.id, name: food.name, also: food.also }))}
            onChoose={(id) => onTake(line.number, id)}
          />
        </div>
      )}
    </>
  );
}
