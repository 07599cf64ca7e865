import { useQuery } from "@tanstack/react-query";
import { useBench } from "../bench/context";
import { answer, api } from "./client";

/** What the brief offers to choose from in the medium of the piece: moods, schools, games. */
export function useChoices() {
  const { view } = useBench();
  const medium = view.piece.brief.medium;
  return useQuery({
    queryKey: ["choices", medium],
    queryFn: () => answer(api.GET("/api/choices", { params: { query: { medium } } })),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
}
