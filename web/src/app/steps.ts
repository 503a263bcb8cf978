/** The steps in their order: the one list of them in the interface. Its words come with the frame. */
export interface Step {
  id: string;
  title: string;
  /** Further places in it that one can jump to: the query of its address, and their names. */
  places: readonly { search: string; name: string }[];
}

export const STEPS: readonly Step[] = [
  {
    id: "study",
    title: "Study",
    places: [
      { search: "?part=label", name: "label" },
      { search: "?part=statement", name: "ingredients" },
      { search: "?part=layers", name: "layers" },
      { search: "?part=weighings", name: "weighings" },
      { search: "?part=senses", name: "senses" },
    ],
  },
  { id: "estimate", title: "Estimate", places: [{ search: "?side=label", name: "label" }] },
  {
    id: "formulate",
    title: "Formulate",
    places: [
      { search: "?side=balance", name: "balance" },
      { search: "?side=label", name: "label as it would print" },
      { search: "?side=measure", name: "measure out" },
    ],
  },
  { id: "adapt", title: "Adapt", places: [] },
  { id: "batch", title: "Batch", places: [] },
  { id: "cook", title: "Cook", places: [] },
  {
    id: "trials",
    title: "Trials",
    places: [
      { search: "?part=beside", name: "beside the original" },
      { search: "?part=wrong", name: "what is wrong" },
      { search: "?part=taste", name: "tasting" },
      { search: "?part=over-time", name: "over time" },
    ],
  },
];
