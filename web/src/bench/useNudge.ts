import { useCallback, useRef } from "react";
import { useBench, useSelection } from "./context";

/** Temperature units that an arrow moves for a tenth of a step. */
const SIDEWAYS = 1;

/** Moves the selected mark by a tenth of a step (Shift: half). Presses made while one is being saved are added up, none is lost. */
export function useNudge() {
  const waiting = useRef<{ zone: number; value: number; temperature: number } | null>(null);
  const sending = useRef(false);
  const { changes } = useBench();
  const { zone } = useSelection();

  const send = useCallback(async () => {
    if (sending.current) return;
    sending.current = true;
    try {
      while (waiting.current) {
        const { zone, value, temperature } = waiting.current;
        waiting.current = null;
        const target = changes.current()?.derived.shapes.find((s) => s.zone === zone)?.target;
        if (!target) break;
        const v = Math.min(10, Math.max(0, target.value + value));
        const kept = await changes.move(zone, {
          value: value ? v : undefined,
          temperature: temperature ? target.temperature + temperature : undefined,
        });
        // What was still waiting was meant for a state that is gone.
        if (!kept) waiting.current = null;
      }
    } finally {
      sending.current = false;
    }
  }, [changes]);

  return useCallback(
    (key: string, half: boolean): boolean => {
      if (zone === null) return false;
      const size = half ? 5 : 1;
      const by = {
        value: key === "ArrowUp" ? 0.1 * size : key === "ArrowDown" ? -0.1 * size : 0,
        temperature: key === "ArrowRight" ? SIDEWAYS * size : key === "ArrowLeft" ? -SIDEWAYS * size : 0,
      };
      const old = waiting.current?.zone === zone ? waiting.current : { value: 0, temperature: 0 };
      waiting.current = { zone, value: old.value + by.value, temperature: old.temperature + by.temperature };
      void send();
      return true;
    },
    [zone, send],
  );
}
