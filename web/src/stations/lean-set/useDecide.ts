import type { Wish } from "../../api/client";
import { useBench } from "../../bench/context";

/** Changes what the search goes by, and searches anew where it was searched before. */
export function useDecide() {
  const { view, changes, work } = useBench();
  return (wish: Wish) =>
    changes
      .wish(wish)
      .then(() => {
        if (view.piece.search) work.search();
      })
      .catch(() => {});
}
