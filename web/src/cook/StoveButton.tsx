import type { ComponentProps } from "react";

type Look = "main" | "quiet" | "dark";
const LOOKS: Record<Look, string> = {
  main: "bg-fern-700 text-white hover:bg-fern-900 font-semibold text-lg px-6",
  quiet: "border border-line bg-card hover:border-fern-600 px-4",
  dark: "border border-white/40 text-white hover:bg-fern-950 px-4",
};

/** A button that a finger finds. */
export function StoveButton({
  look = "quiet",
  className = "",
  ...rest
}: ComponentProps<"button"> & { look?: Look }) {
  return (
    <button
      type="button"
      className={`min-h-11 rounded-lg py-2 disabled:opacity-50 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}
