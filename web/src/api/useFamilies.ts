import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useBench } from "../bench/context";
import { answer, api } from "./client";

/** The sets last found, by their families. */
export function useFamilies() {
  const { view } = useBench();
  const { search } = view.piece;
  return useQuery({
    queryKey: ["families", view.id, search?.basis, search?.sizes.map((s) => s.pigments)],
    queryFn: () => answer(api.GET("/api/pieces/{id}/families", { params: { path: { id: view.id } } })),
    enabled: !!search?.sizes.length,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });
}
