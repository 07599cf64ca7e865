import type { ComponentProps } from "react";
import { useBench, useLooking } from "../../bench/context";
import { Fitted } from "./Fitted";
import { Overlay } from "./Overlay";
import { viewAddress } from "./Picture";
import { Planned } from "./Planned";

/** The plan in paint, as large as fits, with its zones to be pointed at. Space shows the reference in exactly the same frame. */
export function Plan({ vivid, ...props }: Omit<ComponentProps<typeof Planned>, "view"> & { vivid?: boolean }) {
  const { view } = useBench();
  const { peek } = useLooking();
  const { reference } = view.piece;
  return (
    <Fitted>
      {(width, height) => (
        <>
          <Planned view={view} {...props} />
          {peek === "reference" && reference && (
            <img
              src={viewAddress(
                view.id,
                `${reference.digest.slice(0, 12)}${JSON.stringify(reference.frame)}`,
                "as-it-is",
                null,
              )}
              alt={`Reference ${reference.file_name}`}
              style={{ position: "absolute", inset: 0 }}
            />
          )}
          <Overlay width={width} height={height} vivid={vivid} />
        </>
      )}
    </Fitted>
  );
}
