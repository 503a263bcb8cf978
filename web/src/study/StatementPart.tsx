import { useMatch } from "../app/match";
import type { StatementLists } from "../api/types";
import { useTyping } from "../ui/typing";
import { Cell } from "../ui/Cell";
import { withSentence, withStatement } from "./edits";
import { NamesTable } from "./NamesTable";

/** The ingredient statement: pasted, read into names, each name with its ingredient and its layers. */
export function StatementPart() {
  const { study } = useMatch();
  return (
    <>
      <Sentence />
      <StatementText />
      {study.reading.lists.tongue !== "English" && (
        <p className="mb-3 text-sm text-ink-2">
          Read as {study.reading.lists.tongue}; each name is shown in English, with what is printed beside it.
        </p>
      )}
      {study.reading.statement.length > 0 && <NamesTable />}
      <Beside lists={study.reading.lists} />
    </>
  );
}

/** What the pack says it is, in its own words: layers are proposed from it. */
function Sentence() {
  const { study, change } = useMatch();
  return (
    <div className="mb-3 max-w-4xl">
      <span className="mb-0.5 block text-sm text-ink-2">
        What the pack says it is, such as “nougat and caramel in milk chocolate”; builds are proposed from it
      </span>
      <Cell
        label="What the pack says it is"
        value={study.study.sentence}
        placeholder={study.reading.lists.says && `as the list begins: ${study.reading.lists.says}`}
        onCommit={(typed) => change((old) => withSentence(old, typed))}
      />
    </div>
  );
}

function StatementText() {
  const { study, change } = useMatch();
  const { draft, latest, write } = useTyping("statement");
  const commit = () => {
    const typed = latest.current;
    if (typed !== null && typed !== study.study.statement) change((old) => withStatement(old, typed));
    write(null);
  };
  return (
    <label className="mb-5 block max-w-4xl">
      <span className="mb-0.5 block text-sm text-ink-2">
        Ingredient statement, pasted as it stands, with all that is printed after it
      </span>
      <textarea
        className="block min-h-20 w-full rounded border border-line bg-card px-2 py-1.5"
        rows={4}
        maxLength={20000}
        value={draft ?? study.study.statement}
        onChange={(event) => write(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter" && !event.shiftKey) {
            event.preventDefault();
            commit();
          }
        }}
      />
    </label>
  );
}

/** What stands beside the list on the pack: kept, and used where it says something about amounts. */
function Beside({ lists }: { lists: StatementLists }) {
  const lines: [string, string[]][] = [
    ["Contains", lists.contains],
    ["May contain", lists.may_contain],
    ["Least contents, used as evidence", lists.minima],
    ["Kept as text", lists.notes],
    ["Not read", lists.unread],
  ];
  const told = lines.filter(([, items]) => items.length > 0);
  if (told.length === 0) return null;
  return (
    <dl className="mt-5 grid max-w-4xl grid-cols-[14rem_1fr] gap-x-4 gap-y-1 border-t border-line pt-3">
      {told.map(([title, items]) => (
        <div key={title} className="contents">
          <dt className="text-ink-2">{title}</dt>
          <dd className={title === "Not read" ? "text-amber-ink" : ""}>
            {items.join(title === "Kept as text" || title === "Not read" ? ". " : ", ")}
          </dd>
        </div>
      ))}
    </dl>
  );
}
