/** Edits that the estimate makes to the study, as pure functions. */
import type { Study } from "../api/types";

/** A piece of evidence switched on or off. */
export const withDoubt = (study: Study, evidenceId: string, doubted: boolean): Study => {
  const others = study.doubted.filter((id) => id !== evidenceId);
  return { ...study, doubted: doubted ? [...others, evidenceId] : others };
};
