import { useQuery } from "@tanstack/react-query";
import { answer, api } from "../../api/client";
import { useBench } from "../../bench/context";

export const useStudio = () => useQuery({ queryKey: ["studio"], queryFn: () => answer(api.GET("/api/studio")) });

/** Screen colour of the ground of the piece on the bench. */
export function useGround(): string {
  return useBench().view.ground.hex;
}
