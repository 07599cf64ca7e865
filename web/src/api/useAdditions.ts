import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useBench } from "../bench/context";
import { answer, api } from "./client";

/** What one more pigment would be worth to the set in use. */
export function useAdditions() {
  const { view } = useBench();
  const { chosen, excluded } = view.piece;
  return useQuery({
    queryKey: ["additions", view.id, view.derived.basis, chosen.pigments, excluded],
    queryFn: () => answer(api.GET("/api/pieces/{id}/additions", { params: { path: { id: view.id } } })),
    enabled: chosen.pigments.length > 0 && view.piece.zones.length > 0,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });
}
