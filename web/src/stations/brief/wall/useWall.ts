import type { Schemas } from "../../../api/client";
import { useBench } from "../../../bench/context";

export type Wall = Schemas["Wall"];
export type Candidate = Schemas["Candidate"];
export type Place = Schemas["Spot"];

/** The wall of the piece, and how to change what was said of it. */
export function useWall() {
  const { view, changes } = useBench();
  const wall = view.piece.wall ?? null;
  const set = (change: Partial<Wall>) =>
    changes.requestNow((v) => {
      if (!v.piece.wall) return null;
      const { measure, candidates, taken, heard } = { ...v.piece.wall, ...change };
      return { do: "set-wall", measure, candidates, taken, heard };
    });
  return { wall, set };
}
