import type { ReactNode } from "react";
import type { PieceView } from "../../api/client";
import { useBench, useLooking } from "../../bench/context";
import { Fitted } from "./Fitted";
import { Overlay, type OverlayProps } from "./Overlay";

/** Address of the reference in one of the ways of looking. The digest makes a new picture a new address. */
export function viewAddress(id: number, digest: string, look: string, groups: number | null): string {
  const query = new URLSearchParams({ look, of: digest });
  if (groups !== null && (look === "values" || look === "squint")) query.set("groups", String(groups));
  return `/api/pieces/${id}/reference/view?${query}`;
}

/** Address of the plan in one of the ways of looking. The revision makes a changed plan a new address. */
export function plannedAddress(id: number, revision: number, look: string, groups: number | null): string {
  const query = new URLSearchParams({ look, of: String(revision) });
  if (groups !== null && (look === "values" || look === "squint")) query.set("groups", String(groups));
  return `/api/pieces/${id}/planned/view?${query}`;
}

/** Width by height of what the zones of a piece lie on. */
export function aspectOf(view: PieceView): number {
  const { reference, brief } = view.piece;
  return reference ? reference.width / reference.height : brief.size.width / brief.size.height;
}

type Props = OverlayProps & {
  /** The plan instead of the reference. */
  planned?: boolean;
  /** Another picture of the reference than the ways of looking give. */
  address?: string;
  children?: ReactNode;
};

/** The reference as large as fits, with its zones to be pointed at. */
export function Picture({ planned, address, onPatch, children, ...over }: Props) {
  const bench = useBench();
  const looking = useLooking();
  const { view } = bench;
  const { look, groups, isolate } = looking;
  const reference = view.piece.reference;
  if (!reference && !view.derived.shapes.length) return null;
  const seenAs = looking.peek ? "as-it-is" : look;
  const digest = `${reference?.digest.slice(0, 12)}${JSON.stringify(reference?.frame ?? view.revision)}`;
  // Space shows the reference in the same frame, whatever lies there; with Shift the plan.
  const plan = looking.peek === "plan" ? view.derived.shapes.length > 0 : planned && !(looking.peek && reference);
  const src =
    (looking.peek === "plan" && plan ? null : address) ??
    (plan
      ? plannedAddress(view.id, view.revision, seenAs, groups)
      : viewAddress(view.id, seenAs === "neighbours" ? `${digest}${view.revision}` : digest, seenAs, groups));
  return (
    <Fitted>
      {(width, height) => (
        <>
          <img
            src={src}
            alt={`${plan ? "The plan" : `Reference ${reference?.file_name ?? "of planes"}`}, ${look.replaceAll("-", " ")}`}
            draggable={false}
          />
          <Overlay width={width} height={height} onPatch={isolate ? onPatch : undefined} {...over} />
          {children}
        </>
      )}
    </Fitted>
  );
}
