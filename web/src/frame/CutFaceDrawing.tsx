import type { CutFace, StudyReading } from "../api/types";
import { Texture } from "./textures";

type Look = StudyReading["layers"][number];

interface CutFaceDrawingProps {
  face: CutFace;
  looks: Map<string, Look>;
  /** Layers that lie in another: inclusion’s id to its host’s. */
  inside: Map<string, string>;
  pointed: string | null;
  picked: string | null;
  onPoint: (layerId: string | null) => void;
  onPick: (layerId: string | null) => void;
}

const WIDTH = 250;
const CORNER = 9;

/** The cut face: bands from the core in millimetres, drawn to scale; soft edges are the ranges of thickness. */
export function CutFaceDrawing({
  face,
  looks,
  inside,
  pointed,
  picked,
  onPoint,
  onPick,
}: CutFaceDrawingProps) {
  const scale = WIDTH / face.width_mm;
  const height = face.height_mm * scale;
  const shown = face.bands.find((band) => band.id === (pointed ?? picked));
  const names = face.bands.map((band) => looks.get(band.id)?.family_name ?? band.id).join(", ");
  return (
    <figure>
      <svg
        width={WIDTH}
        height={height + 4}
        viewBox={`-1 -1 ${WIDTH + 2} ${height + 4}`}
        role="img"
        aria-label={`Cut face, from outside in and from bottom to top: ${names}`}
        className="drop-shadow"
      >
        <defs>
          {face.bands.map((band) => (
            <Texture
              key={band.id}
              id={`texture-${band.id}`}
              texture={looks.get(band.id)?.texture ?? "smooth"}
              tone={looks.get(band.id)?.tone ?? "#c9bda8"}
            />
          ))}
          {[...inside.keys()].map((id) => (
            <Texture
              key={id}
              id={`texture-${id}`}
              texture="pieces"
              tone={looks.get(id)?.tone ?? "#c9bda8"}
              overlay
            />
          ))}
          <clipPath id="outline">
            <rect width={WIDTH} height={height} rx={CORNER} />
          </clipPath>
        </defs>
        <g clipPath="url(#outline)">
          {face.bands.map((band) => {
            const top = height - (band.y_mm + band.height_mm) * scale;
            const soft = ((band.thickness_high_mm - band.thickness_low_mm) / 2) * scale;
            const stacked = band.thickness_mm === band.height_mm;
            return (
              <g
                key={band.id}
                onPointerEnter={() => onPoint(band.id)}
                onPointerLeave={() => onPoint(null)}
                onClick={() => onPick(picked === band.id ? null : band.id)}
                className="cursor-pointer"
              >
                <rect
                  x={band.x_mm * scale}
                  y={top}
                  width={band.width_mm * scale}
                  height={band.height_mm * scale}
                  fill={`url(#texture-${band.id})`}
                />
                {[...inside].map(
                  ([inclusion, host]) =>
                    host === band.id && (
                      <rect
                        key={inclusion}
                        x={band.x_mm * scale}
                        y={top}
                        width={band.width_mm * scale}
                        height={band.height_mm * scale}
                        fill={`url(#texture-${inclusion})`}
                      />
                    ),
                )}
                {stacked && (
                  <rect
                    x={band.x_mm * scale}
                    y={top - soft / 2}
                    width={band.width_mm * scale}
                    height={soft}
                    fill={looks.get(band.id)?.tone}
                    opacity="0.45"
                  />
                )}
              </g>
            );
          })}
        </g>
        {face.bands
          .filter((band) => band.id === (pointed ?? picked))
          .map((band) => (
            <rect
              key={band.id}
              x={band.x_mm * scale + 1}
              y={height - (band.y_mm + band.height_mm) * scale + 1}
              width={band.width_mm * scale - 2}
              height={Math.max(2, band.height_mm * scale - 2)}
              rx={band.thickness_mm === band.height_mm ? 1 : CORNER - 1}
              className="pointer-events-none fill-none stroke-white"
              strokeWidth="2"
            />
          ))}
      </svg>
      <figcaption className="mt-1 text-center text-sm text-ink-2">
        {face.width} wide{face.size_assumed ? " if it is " : ", "}
        {face.length} long
        {shown && `; ${looks.get(shown.id)?.family_name?.toLowerCase() ?? "layer"} ${shown.thickness}`}
      </figcaption>
    </figure>
  );
}
