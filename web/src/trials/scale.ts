/** How wide pictures are drawn, so that a millimetre is as long in all of them whose scale is known. */

interface Scaled {
  photo: { id: string; width_px: number };
  mm_per_px: number | null;
}

/** By photo: its width on the page [px]. The one that shows most takes the most; one without a scale takes it as well. */
export function shownWidths(photos: readonly Scaled[], most: number): ReadonlyMap<string, number> {
  const wide = (one: Scaled) => (one.mm_per_px ?? 0) * one.photo.width_px;
  const widest = Math.max(0, ...photos.map(wide));
  return new Map(
    photos.map((one) => [
      one.photo.id,
      one.mm_per_px !== null && widest > 0 ? Math.max(24, Math.round((most * wide(one)) / widest)) : most,
    ]),
  );
}
