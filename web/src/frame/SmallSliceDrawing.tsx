import { useId } from "react";
import type { SmallSlice } from "../api/types";
import { Texture } from "./textures";

const WIDTH = 112;
const CORNER = 5;

/** A piece by its look, for lists: paler where it is drawn from usual proportions. */
export function SmallSliceDrawing({ slice, name }: { slice: SmallSlice | null; name: string }) {
  const id = useId();
  if (!slice) {
    return (
      <span className="flex h-16 w-28 items-center justify-center rounded border border-dashed border-ink-2/40 text-sm text-ink-2">
        no layers yet
      </span>
    );
  }
  const height = slice.height * WIDTH;
  return (
    <svg
      width={WIDTH}
      height={height}
      viewBox={`0 0 ${WIDTH} ${height}`}
      role="img"
      aria-label={`Slice of ${name}${slice.rough ? ", in usual proportions" : ""}`}
      className={slice.rough ? "opacity-60" : ""}
    >
      <defs>
        {slice.bands.map((band, at) => (
          <Texture key={at} id={`${id}-${at}`} texture={band.texture} tone={band.tone} />
        ))}
        <clipPath id={`${id}-outline`}>
          <rect width={WIDTH} height={height} rx={CORNER} />
        </clipPath>
      </defs>
      <g clipPath={`url(#${id}-outline)`}>
        {slice.bands.map((band, at) => (
          <rect
            key={at}
            x={band.x * WIDTH}
            y={height - (band.y + band.height) * WIDTH}
            width={band.width * WIDTH}
            height={band.height * WIDTH}
            fill={`url(#${id}-${at})`}
          />
        ))}
      </g>
    </svg>
  );
}
