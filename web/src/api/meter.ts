import { t } from "@lingui/core/macro";
import { useEffect, useState } from "react";
import { language } from "../language";

export type Sample = {
  t_s: number;
  volts_v: number;
  text: string;
  simulated: boolean;
  steady: boolean;
  drift_mv: number | null;
  wait_s: number | null;
};
export type Meter = { sample: Sample | null; trace: [number, number][]; trouble: string | null };

const NONE: Meter = { sample: null, trace: [], trouble: null };
const KEPT = 180;

/** What the group's connected meter shows now, while the page is in view; nothing where there is none. */
export function useMeter(cell: string, connected: boolean): Meter {
  const [meter, setMeter] = useState<Meter>(NONE);
  useEffect(() => {
    if (!connected) return;
    let source: EventSource | null = null;
    const follow = () => {
      source?.close();
      source = null;
      setMeter(NONE);
      if (document.hidden) return;
      source = new EventSource(`/api/bench/cells/${cell}/meter?lang=${language}`);
      source.addEventListener("sample", (event: MessageEvent<string>) => {
        const sample = JSON.parse(event.data) as Sample;
        setMeter(({ trace }) => {
          const earlier = sample.t_s < (trace.at(-1)?.[0] ?? 0) ? [] : trace.slice(-KEPT);
          return { sample, trace: [...earlier, [sample.t_s, sample.volts_v]], trouble: null };
        });
      });
      source.addEventListener("trouble", (event: MessageEvent<string>) => {
        const { text } = JSON.parse(event.data) as { text: string };
        setMeter((before) => ({ ...before, sample: null, trouble: text }));
      });
      source.addEventListener("error", () =>
        setMeter((before) => ({
          ...before,
          sample: null,
          trouble: t`Pipette cannot reach the meter just now. Type the number meanwhile.`,
        })),
      );
    };
    follow();
    document.addEventListener("visibilitychange", follow);
    return () => {
      document.removeEventListener("visibilitychange", follow);
      source?.close();
    };
  }, [cell, connected]);
  return connected ? meter : NONE;
}
