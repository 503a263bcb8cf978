import type { ComponentProps, ReactNode } from "react";

type Look = "main" | "quiet" | "bare";
const LOOKS: Record<Look, string> = {
  main: "bg-fern-700 text-white hover:bg-fern-900 disabled:bg-ink-2/40 px-3 py-1.5 font-semibold",
  quiet: "border border-line bg-card hover:border-fern-600 px-3 py-1.5",
  bare: "text-fern-700 underline decoration-fern-200 underline-offset-2 hover:decoration-fern-700",
};

/** A button in one of three looks; one main button a screen. */
export function Button({
  look = "quiet",
  className = "",
  ...rest
}: ComponentProps<"button"> & { look?: Look }) {
  return <button type="button" className={`rounded ${LOOKS[look]} ${className}`} {...rest} />;
}

/** A sentence that asks to be looked at. */
export function Notice({
  tone = "amber",
  children,
}: {
  tone?: "amber" | "berry" | "plain";
  children: ReactNode;
}) {
  const tones = {
    amber: "border-amber bg-amber-wash text-ink",
    berry: "border-berry bg-berry-wash text-ink",
    plain: "border-line bg-card text-ink-2",
  };
  return <div className={`rounded border-l-4 px-3 py-2 ${tones[tone]}`}>{children}</div>;
}

/** The head of a screen: what it is for, in one line, and its one action. */
export function Heading({
  title,
  children,
  action,
}: {
  title: string;
  children?: ReactNode;
  action?: ReactNode;
}) {
  return (
    <header className="mb-4 flex items-start justify-between gap-4">
      <div>
        <h1 className="text-2xl">{title}</h1>
        {children && <p className="max-w-3xl text-ink-2">{children}</p>}
      </div>
      {action && <div className="shrink-0">{action}</div>}
    </header>
  );
}
