import { useMatch } from "../app/match";
import { Cell, told } from "../ui/Cell";

/** How the original tastes, on lines from 0 to 10: what a copy is compared with where nobody has both at once. */
export function SensesPart() {
  const { study, change } = useMatch();
  const marks = study.study.senses ?? {};
  const mark = (id: string, typed: string) =>
    change((old) => {
      const others = Object.entries(old.senses ?? {}).filter(([key]) => key !== id);
      return { ...old, senses: Object.fromEntries(typed.trim() ? [...others, [id, typed]] : others) };
    });
  return (
    <div className="max-w-3xl">
      <p className="mb-3 text-ink-2">
        Taste it now, while there is one. A copy tasted beside an original later is told apart more surely;
        these marks stand in where nobody kept a piece, with the doubt that memory has.
      </p>
      <table className="w-full border-collapse">
        <thead className="text-left text-sm text-ink-2">
          <tr className="border-b border-line">
            <th className="py-1 font-normal">Line</th>
            <th className="py-1 font-normal">At 0</th>
            <th className="py-1 font-normal">At 10</th>
            <th className="w-28 py-1 font-normal">Mark</th>
          </tr>
        </thead>
        <tbody>
          {study.reading.senses.map((sense) => (
            <tr key={sense.id} className="border-b border-line/60">
              <th scope="row" className="py-1 pr-2 text-left font-normal">
                {sense.title}
              </th>
              <td className="py-1 pr-2 text-sm text-ink-2">{sense.low}</td>
              <td className="py-1 pr-2 text-sm text-ink-2">{sense.high}</td>
              <td className="py-0.5">
                <Cell
                  label={`${sense.title}, original`}
                  value={marks[sense.id] ?? ""}
                  align="right"
                  onCommit={(typed) => mark(sense.id, typed)}
                  {...told(sense.mark)}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
