/** Layers are told apart by texture and tone: one SVG pattern per layer. */

interface TextureProps {
  id: string;
  texture: string;
  tone: string;
  /** Marks alone, to lie over another layer. */
  overlay?: boolean;
}

const SIZE = 12;

/** A pattern to fill a layer with. */
export function Texture({ id, texture, tone, overlay = false }: TextureProps) {
  const dark = `color-mix(in oklab, ${tone}, black 22%)`;
  const light = `color-mix(in oklab, ${tone}, white 35%)`;
  return (
    <pattern
      id={id}
      width={SIZE}
      height={SIZE}
      patternUnits="userSpaceOnUse"
      patternTransform={overlay ? "scale(2.2) rotate(20)" : undefined}
    >
      {!overlay && <rect width={SIZE} height={SIZE} fill={tone} />}
      {marks(texture, dark, light)}
    </pattern>
  );
}

function marks(texture: string, dark: string, light: string) {
  switch (texture) {
    case "glossy":
      return <path d="M0 4h12M0 10h12" stroke={light} strokeWidth="0.7" opacity="0.55" />;
    case "sheets":
      return (
        <g stroke={dark} strokeWidth="0.8" opacity="0.65">
          <path d="M0 3h12M0 9h12" />
          <path d="M3 3v6M9 9v6M9 -3v6" strokeDasharray="2 1.5" />
        </g>
      );
    case "flecked":
      return (
        <g fill={dark} opacity="0.55">
          <circle cx="2" cy="3" r="0.9" />
          <circle cx="8" cy="1.6" r="0.6" />
          <circle cx="6" cy="8" r="1" />
          <circle cx="10.5" cy="10" r="0.7" />
        </g>
      );
    case "crumbly":
      return (
        <g fill={dark} opacity="0.5">
          <path d="M1 2l2 1-1 2zM7 1l2 0 0 2zM5 7l2 1-2 2zM10 8l1 2-2 0z" />
        </g>
      );
    case "whipped":
    case "bubbled":
      return (
        <g fill="none" stroke={dark} strokeWidth="0.7" opacity="0.5">
          <circle cx="3" cy="3" r="1.6" />
          <circle cx="9" cy="8" r="2" />
          <circle cx="3" cy="10" r="0.8" />
        </g>
      );
    case "grain":
      return (
        <g fill={dark} opacity="0.45">
          <circle cx="2" cy="2" r="0.5" />
          <circle cx="6" cy="5" r="0.5" />
          <circle cx="10" cy="2" r="0.5" />
          <circle cx="3" cy="9" r="0.5" />
          <circle cx="9" cy="10" r="0.5" />
        </g>
      );
    case "shards":
      return <path d="M1 3l4-2M7 5l4 1M2 8l3 3M8 10l3-2" stroke={dark} strokeWidth="1.1" opacity="0.55" />;
    case "pieces":
      return <ellipse cx="6" cy="6" rx="4" ry="2.8" fill={light} stroke={dark} strokeWidth="0.8" />;
    default:
      return null;
  }
}
