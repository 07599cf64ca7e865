import { useSyncExternalStore } from "react";
import type { Schemas } from "../../../api/client";

type Tool = "line" | "corners" | null;
type State = { now: Tool; length: number; width: number; height: number; corners: Schemas["Spot"][] };

let state: State = { now: null, length: 1000, width: 900, height: 2000, corners: [] };
const listeners = new Set<() => void>();

function change(next: Partial<State>) {
  state = { ...state, ...next };
  for (const l of listeners) l();
}

/** What is being measured on the wall: shared by the photo and its card, gone when the page is left. */
export function useWallTool() {
  const now = useSyncExternalStore(
    (l) => {
      listeners.add(l);
      return () => listeners.delete(l);
    },
    () => state,
  );
  return {
    ...now,
    take: (tool: Tool) => change({ now: tool, corners: [] }),
    setLength: (length: number) => change({ length }),
    setWidth: (width: number) => change({ width }),
    setHeight: (height: number) => change({ height }),
    setCorners: (corners: Schemas["Spot"][]) => change({ corners }),
  };
}
