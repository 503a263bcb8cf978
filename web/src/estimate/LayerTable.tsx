import { useMatch } from "../app/match";
import type { LayerEstimate, Ready } from "../api/types";
import { usePointable } from "../frame/pointing";
import { figure, percent, range } from "../ui/figures";
import { RangeBar } from "../ui/RangeBar";

/** The layers with their ranges; one open at a time, showing what is in it. */
export function LayerTable({ estimate }: { estimate: Ready }) {
  const { picked, frame } = useMatch();
  const most = Math.max(...estimate.layers.map((layer) => layer.grams.high)) * 1.04;
  const open = estimate.layers.some((layer) => layer.layer_id === picked) ? picked : estimate.least_certain;
  const tones = new Map(frame.layers.map((layer) => [layer.layer_id, layer.tone]));
  return (
    <table className="w-full table-fixed">
      <colgroup>
        <col />
        <col className="w-[68px]" />
        <col className="w-24" />
        <col className="w-14" />
        <col className="w-[25%]" />
      </colgroup>
      <thead>
        <tr className="border-b border-line text-sm text-ink-2">
          <th className="py-1 text-left font-normal">Layer, per piece</th>
          <th className="py-1 text-right font-normal">best</th>
          <th className="py-1 text-right font-normal">
            {estimate.fit === "fights" ? "range, unsure" : "90 % range"}
          </th>
          <th className="py-1 text-right font-normal">share</th>
          <th className="py-1 pr-2 pl-4 font-normal">
            <span className="flex justify-between">
              <span>0</span>
              <span>{figure(most, 0)} g</span>
            </span>
          </th>
        </tr>
      </thead>
      {estimate.layers.map((layer) => (
        <LayerRows
          key={layer.layer_id}
          layer={layer}
          most={most}
          open={layer.layer_id === open}
          tone={tones.get(layer.layer_id)}
        />
      ))}
    </table>
  );
}

interface LayerRowsProps {
  layer: LayerEstimate;
  most: number;
  open: boolean;
  tone: string | undefined;
}

function LayerRows({ layer, most, open, tone }: LayerRowsProps) {
  const { pick } = useMatch();
  const pointable = usePointable(layer.layer_id);
  const { grams } = layer;
  return (
    <tbody
      className={`border-b border-line data-pointed:bg-fern-100/50 ${open ? "outline-2 -outline-offset-1 outline-fern-600" : ""}`}
      {...pointable}
    >
      <tr>
        <th scope="rowgroup" className="py-2 pl-2 text-left">
          <button
            type="button"
            aria-expanded={open}
            onClick={() => pick(layer.layer_id)}
            className="flex items-center gap-2 text-left font-head text-base leading-tight font-semibold"
          >
            <span
              className="size-3.5 shrink-0 rounded-sm border border-ink/20"
              style={{ backgroundColor: tone }}
            />
            {layer.name}
          </button>
        </th>
        <Figures best={grams.best} low={grams.low} high={grams.high} strong />
        <td className="text-right">
          {percent(layer.share.best)} <span className="text-sm text-ink-2">%</span>
        </td>
        <td className="pr-2 pl-4">
          <RangeBar
            {...grams}
            most={most}
            label={`${layer.name}: ${figure(grams.best, 1)} g, probably ${range(grams.low, grams.high, 1)}`}
          />
        </td>
      </tr>
      {open && <Inside layer={layer} most={most} />}
      {!open && (
        <tr>
          <td colSpan={5} className="truncate pb-2 pl-8 text-sm text-ink-2">
            {layer.mainly}
          </td>
        </tr>
      )}
    </tbody>
  );
}

function Inside({ layer, most }: { layer: LayerEstimate; most: number }) {
  return (
    <>
      <tr>
        <td className="pt-1 pl-8 text-sm text-ink-2">as added</td>
      </tr>
      {layer.ingredients.map((one) => {
        const decimals = one.grams.high >= 1 ? 1 : 2;
        return (
          <tr key={`${one.ingredient_id}${one.role}${one.item}`} className="align-top">
            <td className="py-0.5 pl-8 leading-tight">
              {one.name}
              {one.remark && <span className="ml-2 text-sm text-ink-2">{one.remark}</span>}
            </td>
            <Figures best={one.grams.best} low={one.grams.low} high={one.grams.high} decimals={decimals} />
            <td className="py-0.5 text-right">
              {percent(one.share_of_layer)} <span className="text-sm text-ink-2">%</span>
            </td>
            <td className="py-1 pr-2 pl-4">
              <RangeBar
                {...one.grams}
                most={most}
                label={`${one.name}: ${figure(one.grams.best, decimals)} g`}
              />
            </td>
          </tr>
        );
      })}
      {layer.loses_water && (
        <tr className="text-ink-2">
          <td className="py-0.5 pb-2 pl-8">Water driven off</td>
          <td className="text-right">
            −{figure(layer.water_lost_g.best, 1)} <span className="text-sm">g</span>
          </td>
          <td className="text-right text-sm">{range(layer.water_lost_g.low, layer.water_lost_g.high, 1)}</td>
        </tr>
      )}
    </>
  );
}

interface FiguresProps {
  best: number;
  low: number;
  high: number;
  decimals?: number;
  strong?: boolean;
}

function Figures({ best, low, high, decimals = 1, strong = false }: FiguresProps) {
  return (
    <>
      <td className={`py-0.5 text-right ${strong ? "text-base font-semibold" : ""}`}>
        {figure(best, decimals)} <span className="text-sm font-normal text-ink-2">g</span>
      </td>
      <td className="py-0.5 text-right text-sm whitespace-nowrap text-ink-2">{range(low, high, decimals)}</td>
    </>
  );
}
