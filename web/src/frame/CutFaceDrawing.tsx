import { useId } from "react";
import type { CutFace, FrameLayer } from "../api/types";
import { point, usePointed } from "./pointing";
import { Texture } from "./textures";

interface CutFaceDrawingProps {
  face: CutFace;
  layers: readonly FrameLayer[];
  picked: string | null;
  onPick: (layerId: string | null) => void;
  /** One half of it only, to stand beside the half of another. */
  half?: "left" | "right";
}

type Band = CutFace["bands"][number];

const WIDTH = 250;
const CORNER = 9;

/** The cut face: bands from the core in millimetres, drawn to scale; soft edges are the ranges of thickness. */
export function CutFaceDrawing({ face, layers, picked, onPick, half }: CutFaceDrawingProps) {
  const id = useId();
  const pointed = usePointed();
  const scale = WIDTH / face.width_mm;
  const height = face.height_mm * scale;
  const looks = new Map(layers.map((layer, at) => [layer.layer_id, { ...layer, fill: `${id}-${at}` }]));
  const shown = face.bands.find((band) => band.id === (pointed ?? picked));
  const names = face.bands.map((band) => looks.get(band.id)?.family_name ?? "layer").join(", ");
  const box = (band: Band) => ({
    x: band.x_mm * scale,
    y: height - (band.y_mm + band.height_mm) * scale,
    width: band.width_mm * scale,
    height: band.height_mm * scale,
  });
  return (
    <figure>
      <svg
        width={half ? WIDTH / 2 : WIDTH}
        height={height + 4}
        viewBox={`${half === "right" ? WIDTH / 2 : -1} -1 ${half ? WIDTH / 2 + 1 : WIDTH + 2} ${height + 4}`}
        role="img"
        aria-label={`Cut face, from outside in and from bottom to top: ${names}`}
        className="drop-shadow"
      >
        <defs>
          {layers.map((layer) => (
            <Texture
              key={layer.layer_id}
              id={looks.get(layer.layer_id)?.fill ?? ""}
              texture={layer.host ? "pieces" : layer.texture}
              tone={layer.tone}
              overlay={layer.host !== null}
            />
          ))}
          <clipPath id={`${id}-outline`}>
            <rect width={WIDTH} height={height} rx={CORNER} />
          </clipPath>
        </defs>
        <g clipPath={`url(#${id}-outline)`}>
          {face.bands.map((band) => (
            <g
              key={band.id}
              onPointerEnter={() => point(band.id)}
              onPointerLeave={() => point(null)}
              onClick={() => onPick(picked === band.id ? null : band.id)}
              className="cursor-pointer"
            >
              <rect {...box(band)} fill={`url(#${looks.get(band.id)?.fill})`} />
              {layers.map(
                (layer) =>
                  layer.host === band.id && (
                    <rect
                      key={layer.layer_id}
                      {...box(band)}
                      fill={`url(#${looks.get(layer.layer_id)?.fill})`}
                    />
                  ),
              )}
              <SoftEdge band={band} scale={scale} box={box(band)} tone={looks.get(band.id)?.tone} />
            </g>
          ))}
        </g>
        {shown && <Outline box={box(shown)} corner={isStacked(shown) ? 1 : CORNER - 1} />}
      </svg>
      {!half && (
        <figcaption className="mt-1 text-center text-sm text-ink-2">
          {face.width} wide{face.size_assumed ? " if it is " : ", "}
          {face.length} long
          {shown && `; ${looks.get(shown.id)?.family_name?.toLowerCase() ?? "layer"} ${shown.thickness}`}
        </figcaption>
      )}
    </figure>
  );
}

type Box = Record<"x" | "y" | "width" | "height", number>;

const isStacked = (band: Band) => band.thickness_mm === band.height_mm;

/** How far the upper edge of a stacked layer may lie elsewhere. */
function SoftEdge(props: { band: Band; scale: number; box: Box; tone: string | undefined }) {
  const { band, scale, box, tone } = props;
  if (!isStacked(band)) return null;
  const soft = ((band.thickness_high_mm - band.thickness_low_mm) / 2) * scale;
  return <rect x={box.x} y={box.y - soft / 2} width={box.width} height={soft} fill={tone} opacity="0.45" />;
}

function Outline({ box, corner }: { box: Box; corner: number }) {
  return (
    <rect
      x={box.x + 1}
      y={box.y + 1}
      width={box.width - 2}
      height={Math.max(2, box.height - 2)}
      rx={corner}
      className="pointer-events-none fill-none stroke-white"
      strokeWidth="2"
    />
  );
}
