import type { CookStep, Run } from "../api/types";
import type { NewEntry } from "./runApi";
import { StoveButton } from "./StoveButton";

interface DevicePanelProps {
  step: CookStep;
  run: Run;
  log: (...entries: NewEntry[]) => void;
}

/** In a practice run: the simulated thermometer and scale, and the heat under the pan. */
export function DevicePanel({ step, run, log }: DevicePanelProps) {
  const boils = step.end_by !== "";
  if (!run.speed || !boils) return null;
  const device = run.device;
  const at = { step: step.id };
  const tones = { "": "border-line", near: "border-amber bg-amber-wash", past: "border-berry bg-berry-wash" };
  return (
    <section
      aria-label="Thermometer and scale"
      className={`rounded-lg border-2 px-4 py-3 ${tones[(device?.alarm ?? "") as keyof typeof tones]}`}
    >
      <div className="flex flex-wrap items-center gap-x-8 gap-y-2">
        {device && (
          <>
            <p className="font-head text-5xl font-semibold">{device.heat}</p>
            <p className="font-head text-3xl font-semibold">{device.mass}</p>
          </>
        )}
        <div className="flex flex-wrap gap-3">
          {device?.is_on ? (
            <StoveButton onClick={() => log({ kind: "heat off", ...at })}>Off the heat</StoveButton>
          ) : (
            <StoveButton onClick={() => log({ kind: "heat on", ...at })}>
              {device ? "From cold again" : "Heat on"}
            </StoveButton>
          )}
          {device && (
            <StoveButton
              onClick={() =>
                log(
                  { kind: "reading", ...at, of: "thermometer", value: device.temp_c, unit: "°C" },
                  { kind: "reading", ...at, of: "scale", value: device.mass_g, unit: "g" },
                )
              }
            >
              Log both
            </StoveButton>
          )}
        </div>
      </div>
      <p role="status" className="mt-1 text-lg font-semibold">
        {device?.warning}
      </p>
      <p className="text-sm text-ink-2">
        Simulated: the pan of a practice run, warmed and boiled by its water and sugar, faster than life.
      </p>
    </section>
  );
}
