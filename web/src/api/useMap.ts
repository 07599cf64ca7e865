import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, api, type Schemas } from "./client";

export type PlaceShape = Schemas["PlaceView"];

/** The shapes of a map of places or masses. A digest always names the same map, so it is fetched once. */
export type Shapes = {
  width: number;
  height: number;
  places: PlaceShape[];
  /** All places of each zone (or mass) in one path, and its largest place. */
  of: Map<number, { path: string; largest: PlaceShape; places: PlaceShape[] }>;
};

const NOTHING: Shapes = { width: 0, height: 0, places: [], of: new Map() };

function shapes(map: Schemas["MapView"]): Shapes {
  const of: Shapes["of"] = new Map();
  for (const p of map.places) {
    const known = of.get(p.of);
    if (known) {
      known.path += p.path;
      known.places.push(p);
    } else of.set(p.of, { path: p.path, largest: p, places: [p] });
  }
  return { ...map, of };
}

/** The map with this digest; while another is on its way, the one before. */
export function useMap(line: Schemas["MapLine"] | null | undefined): Shapes {
  const query = useQuery({
    queryKey: ["map", line?.digest],
    queryFn: () =>
      answer(api.GET("/api/maps/{digest}", { params: { path: { digest: line?.digest ?? "" } } })).then(shapes),
    enabled: !!line,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  });
  return line ? (query.data ?? NOTHING) : NOTHING;
}
