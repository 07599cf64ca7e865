import { useQuery } from "@tanstack/react-query";
import { answer, api } from "../../api/client";
import { useBench } from "../../bench/context";

export const useStudio = () =>
  useQuery({
    queryKey: ["studio"],
    queryFn: () => answer(api.GET("/api/studio")),
    // A demo studio is looked at while it is still being filled.
    refetchInterval: (query) => {
      const filling = query.state.data?.filling;
      return filling && !filling.problem ? 1000 : false;
    },
  });

/** Screen colour of the ground of the piece on the bench. */
export function useGround(): string {
  return useBench().view.ground.hex;
}
