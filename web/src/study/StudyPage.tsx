import { useSearchParams } from "react-router";
import { useMatch } from "../app/match";
import { Heading, Notice } from "../ui/Parts";
import { Tabs } from "../ui/Tabs";
import { LabelPart } from "./LabelPart";
import { LayersPart } from "./LayersPart";
import { SensesPart } from "./SensesPart";
import { StatementPart } from "./StatementPart";
import { WeighingsPart } from "./WeighingsPart";

const PARTS = ["label", "statement", "layers", "weighings", "senses"] as const;
type Part = (typeof PARTS)[number];

/** Study: write down what the original tells you, one part at a time. */
export function StudyPage() {
  const { study } = useMatch();
  const [search, setSearch] = useSearchParams();
  const wanted = search.get("part");
  const part: Part = PARTS.find((one) => one === wanted) ?? "label";
  const { reading } = study;
  const weighed = reading.weighings.filter((weighing) => weighing.mean_g !== null).length;
  const names = reading.statement.filter((item) => !item.is_compound && !item.closed).length;
  const rows = reading.rows.filter((row) => row.low !== null).length;
  const marks = reading.senses.filter((sense) => sense.mark.value !== null).length;
  const flags = reading.flags.filter((flag) => flag.where === part);
  return (
    <>
      <Heading title="What the original tells you">
        Copy, paste and weigh in any order. A missing fact widens the ranges; nothing here has to be complete.
      </Heading>
      <Tabs
        label="Parts of the study"
        chosen={part}
        onChoose={(id) => setSearch({ part: id }, { replace: true })}
        above={flags.length > 0 && <Flags sentences={flags.map((flag) => flag.sentence)} />}
        items={[
          { id: "label", title: "Label", note: rows ? `${rows} rows` : undefined, panel: <LabelPart /> },
          {
            id: "statement",
            title: "Ingredients",
            note: names ? `${names} names` : undefined,
            panel: <StatementPart />,
          },
          { id: "layers", title: "Layers", note: String(study.study.layers.length), panel: <LayersPart /> },
          {
            id: "weighings",
            title: "Weighings",
            note: weighed ? String(weighed) : undefined,
            panel: <WeighingsPart />,
          },
          {
            id: "senses",
            title: "Senses",
            note: marks ? String(marks) : undefined,
            panel: <SensesPart />,
          },
        ]}
      />
    </>
  );
}

const FEW = 6;

/** What does not fit together; of very many the first. */
function Flags({ sentences }: { sentences: string[] }) {
  return (
    <ul className="mb-4 space-y-1.5">
      {[...new Set(sentences)].slice(0, FEW).map((sentence) => (
        <li key={sentence}>
          <Notice>{sentence}</Notice>
        </li>
      ))}
      {sentences.length > FEW && (
        <li className="text-ink-2">and {sentences.length - FEW} more like these.</li>
      )}
    </ul>
  );
}
