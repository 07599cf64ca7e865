import { useMap } from "../../../api/useMap";
import { seen, useBench, useLooking } from "../../../bench/context";
import { paintedPlan } from "../../../lenses/picture/Planned";

export type Point = [number, number];

/** One panel in the photo, filled with its part of the plan. */
export function Panel({ points, n, of, id }: { points: Point[]; n: number; of: number; id: string }) {
  const { view } = useBench();
  const { look, flat } = useLooking();
  const map = useMap(view.derived.map);
  const [gw, gh] = [map.width, map.height];
  const { shapes } = view.derived;
  const [a, b, , d] = points;
  const clip = points.map((p) => p.join(",")).join(" ");
  if (!shapes.length || !gw) return <polygon points={clip} fill="#d8d7d3" />;
  // Close enough to the projection for a sketch; the printed mock-up is exact.
  const part = gw / of;
  const m = [(b[0] - a[0]) / part, (b[1] - a[1]) / part, (d[0] - a[0]) / gh, (d[1] - a[1]) / gh, a[0], a[1]];
  return (
    <g aria-hidden="true">
      <clipPath id={id}>
        <polygon points={clip} />
      </clipPath>
      <g clipPath={`url(#${id})`}>
        <g transform={`matrix(${m.join(" ")}) translate(${-n * part} 0)`}>
          {shapes.map((s) => (
            <path
              key={s.zone}
              d={map.of.get(s.zone)?.path}
              fillRule="evenodd"
              fill={seen(s.target, look)}
              stroke={seen(s.target, look)}
            />
          ))}
          {look === "as-it-is" && !flat && (
            <image href={paintedPlan(view, 480)} width={gw} height={gh} preserveAspectRatio="none" />
          )}
        </g>
      </g>
    </g>
  );
}
