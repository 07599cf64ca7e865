import type { Request } from "../../api/client";
import { useBench } from "../../bench/context";

/** Changes what the search goes by, and searches anew where it was searched before. */
export function useDecide() {
  const { view, changes, work } = useBench();
  return (request: Request) =>
    changes.request(request).then((done) => {
      if (done && view.piece.search) work.search();
    });
}
