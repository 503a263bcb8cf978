import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { expect, it } from "vitest";

const files = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? files(join(folder, entry.name)) : [join(folder, entry.name)],
  );

it("every key of the cache begins with a match or the house", () => {
  const found = files(join(import.meta.dirname, ".."))
    .filter((path) => /\.tsx?$/.test(path) && !path.includes("generated") && !path.includes(".test."))
    .flatMap((path) =>
      [...readFileSync(path, "utf8").matchAll(/queryKey:\s*([^\n]*)/g)].map((key) => key[1] ?? ""),
    );
  expect(found.length).toBeGreaterThan(15);
  const strange = found.filter(
    (key) => !/^(matchKey\(|houseKey\(|\["match"|\w*[qQ]uery(\.|\()|string|readonly)/.test(key.trim()),
  );
  expect(strange).toEqual([]);
});

it("whatever changes a match does so through an act, which waits for what was typed and which going back waits for", () => {
  const changes = files(join(import.meta.dirname, ".."))
    .filter((path) => /\.tsx?$/.test(path) && !path.includes(".test.") && !path.endsWith("app/act.ts"))
    .flatMap((path) => readFileSync(path, "utf8").split("useMutation({").slice(1))
    .map((rest) => rest.slice(0, rest.search(/\n\s*\}\);/)))
    .filter((block) => block.includes("matchId"))
    // Reading a pasted panel changes nothing, a component is the house's, a taster has no revision, and the history goes one by
    // one of itself.
    .filter((block) => !/readPanel|keepComponent|answerPlate|scope: \{ id: `history/.test(block));
  expect(changes).toEqual([]);
});
