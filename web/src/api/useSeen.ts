import { useState } from "react";

/**
 * A record that is edited as a whole: the version its fields were filled from goes along with the change, so that what another window
 * wrote meanwhile is not written over.
 */
export function useSeen(now: string) {
  const [seen, took] = useState(now);
  return { seen, took, elsewhere: now !== seen };
}
