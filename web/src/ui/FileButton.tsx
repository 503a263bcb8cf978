import { useRef } from "react";
import { Button } from "./Parts";

/** A button that asks for a file; the same file can be chosen again after it was mended. */
export function FileButton({
  label,
  children,
  onChoose,
  accept = ".json,application/json",
}: {
  /** Of the hidden file field. */
  label: string;
  children: string;
  onChoose: (file: File) => void;
  /** Which files; match files without. */
  accept?: string;
}) {
  const field = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button look="bare" onClick={() => field.current?.click()}>
        {children}
      </Button>
      <input
        ref={field}
        type="file"
        accept={accept}
        aria-label={label}
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen) onChoose(chosen);
          event.target.value = "";
        }}
      />
    </>
  );
}
