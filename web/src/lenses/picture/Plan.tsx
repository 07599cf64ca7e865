import type { ComponentProps } from "react";
import type { Schemas } from "../../api/client";
import { useBench, useLooking } from "../../bench/context";
import { Fitted } from "./Fitted";
import { Overlay } from "./Overlay";
import { viewAddress } from "./Picture";
import { Planned } from "./Planned";

type Props = Omit<ComponentProps<typeof Planned>, "view"> & {
  vivid?: boolean;
  /** The reference beside it, where there is room, with these words under the plan. */
  beside?: string;
};

/** The plan in paint, as large as fits, with its zones to be pointed at. Space shows the reference in exactly the same frame. */
export function Plan({ vivid, beside, ...props }: Props) {
  const { view } = useBench();
  const { peek } = useLooking();
  const { reference } = view.piece;
  return (
    <Fitted
      beside={
        beside && reference
          ? { own: beside, words: "the reference", show: <Reference reference={reference} /> }
          : undefined
      }
    >
      {(width, height) => (
        <>
          <Planned view={view} {...props} />
          {peek === "reference" && reference && <Reference reference={reference} over />}
          <Overlay width={width} height={height} vivid={vivid} />
        </>
      )}
    </Fitted>
  );
}

/** The reference as it is, in the frame of the piece; over what else lies there. */
function Reference({ reference, over }: { reference: Schemas["Reference"]; over?: boolean }) {
  const { view } = useBench();
  const digest = `${reference.digest.slice(0, 12)}${JSON.stringify(reference.frame)}`;
  return (
    <img
      src={viewAddress(view.id, digest, "as-it-is", null)}
      alt={`Reference ${reference.file_name}`}
      style={over ? { position: "absolute", inset: 0 } : undefined}
    />
  );
}
