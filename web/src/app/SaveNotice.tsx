import { Button, Notice } from "../ui/Parts";
import type { Saving } from "./saver";

interface SaveNoticeProps {
  saving: Saving;
  resolve: (keep: "mine" | "theirs") => void;
  drop: () => void;
}

/** Says so when an edit is not safe yet; silent when it is. */
export function SaveNotice({ saving, resolve, drop }: SaveNoticeProps) {
  if (saving.kind === "safe" || saving.kind === "sending") return null;
  return (
    <div className="no-print mb-4" role="alert">
      <Notice>
        <p>{saving.message}</p>
        {saving.kind === "conflict" && (
          <p className="mt-2 flex gap-2">
            <Button onClick={() => resolve("mine")}>Keep what I typed</Button>
            <Button onClick={() => resolve("theirs")}>Take the other window’s</Button>
          </p>
        )}
        {saving.kind === "refused" && (
          <p className="mt-2 flex items-center gap-2">
            <Button onClick={drop}>Drop it</Button>
            <span className="text-ink-2">or type something else there; everything else is saved.</span>
          </p>
        )}
      </Notice>
    </div>
  );
}
