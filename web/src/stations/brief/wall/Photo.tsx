import { useRef, useState } from "react";
import type { Schemas } from "../../../api/client";
import { useBench } from "../../../bench/context";
import { Hung } from "./Hung";
import { MeasureMarks } from "./MeasureMarks";
import { type Place, useWall, type Wall } from "./useWall";
import { useWallTool } from "./useWallTool";

/** The photo with what hangs in it; while something is measured, the line or the corners are set on it. */
export function Photo({ wall, w, h }: { wall: Wall; w: number; h: number }) {
  const { view } = useBench();
  const { set } = useWall();
  const tool = useWallTool();
  const frame = useRef<SVGSVGElement>(null);
  const [line, setLine] = useState<[Place, Place] | null>(null);
  const place = (e: React.PointerEvent): Place => {
    const r = frame.current?.getBoundingClientRect();
    const clamp = (v: number) => Math.min(1, Math.max(0, v));
    return { x: clamp((e.clientX - (r?.left ?? 0)) / w), y: clamp((e.clientY - (r?.top ?? 0)) / h) };
  };
  const measured = (m: Schemas["Measure"]) => {
    tool.take(null);
    set({ measure: m });
  };
  const corner = (p: Place) => {
    const corners = [...tool.corners, p];
    tool.setCorners(corners);
    if (corners.length === 4) {
      measured({ by: "corners", corners, width: tool.width, height: tool.height });
      tool.setCorners([]);
    }
  };
  const chosen = wall.taken ?? 0;
  return (
    <svg
      ref={frame}
      width={w}
      height={h}
      role="group"
      aria-label="The wall"
      data-measuring={!!tool.now}
      onPointerDown={(e) => {
        if (tool.now === "line") {
          e.currentTarget.setPointerCapture(e.pointerId);
          setLine([place(e), place(e)]);
        } else if (tool.now === "corners") corner(place(e));
      }}
      onPointerMove={(e) => line && setLine([line[0], place(e)])}
      onPointerUp={() => {
        if (line) {
          const [from, to] = line;
          measured({ by: "line", from, to, length: tool.length });
          setLine(null);
        }
      }}
    >
      <image href={`/api/pieces/${view.id}/wall/view?of=${wall.digest.slice(0, 12)}`} width={w} height={h} />
      {wall.candidates.map((c, i) =>
        i === chosen || !tool.now ? <Hung key={i} candidate={c} i={i} chosen={i === chosen} w={w} h={h} /> : null,
      )}
      <MeasureMarks wall={wall} line={line} corners={tool.corners} w={w} h={h} />
    </svg>
  );
}
