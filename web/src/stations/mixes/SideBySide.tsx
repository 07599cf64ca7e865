import { Link } from "react-router";
import { useBench } from "../../bench/context";

const WORKED = {
  siblings: "each place in a mix of its own",
  variation: "relatives that drift across it",
  broken: "broken colour, dabs side by side",
};

/** The several mixes a zone is laid in, where it is. */
export function SideBySide({ zone }: { zone: number }) {
  const { view } = useBench();
  const surface = view.piece.zones.find((z) => z.id === zone)?.surface;
  if (!surface) return null;
  const set = view.piece.chosen.pigments;
  const waits = surface.set.length !== set.length || surface.set.some((id) => !set.includes(id));
  return (
    <p>
      {waits ? "It was laid in " : "It is laid in "}
      {surface.mixes.length} mixes: {WORKED[surface.worked]}.{waits && " They are of another set, and wait for it."}{" "}
      <Link to={`/pieces/${view.id}/piece?room=surfaces&zone=${zone}`}>See them</Link>
    </p>
  );
}
