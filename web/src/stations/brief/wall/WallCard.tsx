import { useBench } from "../../../bench/context";
import { Acts, Card } from "../../../kit/Section";
import { figure, said } from "../../../room/figures";
import { KnownLength } from "./KnownLength";
import { useWall } from "./useWall";
import { WaysToHang } from "./WaysToHang";

/** What was measured, the ways to hang it, and what the wall says. */
export function WallCard() {
  const { view, changes } = useBench();
  const { wall, set } = useWall();
  if (!wall) {
    return (
      <Card>
        <h2>The wall</h2>
        <p>The place a piece will hang often decides its size and how loud it may be.</p>
      </Card>
    );
  }
  const reading = wall.reading;
  return (
    <Card>
      <h2>The wall</h2>
      <p>
        Value <span className="figures">{figure(reading.value, 1)}</span>,{" "}
        {Math.abs(reading.temperature) < 3 ? "neutral" : reading.temperature > 0 ? "warm" : "cool"}; its pattern is{" "}
        {reading.loudness < 0.25 ? "quiet" : reading.loudness < 0.5 ? "moderate" : "loud"}.{" "}
        {said(view.derived.light.on_the_wall ?? "")}
      </p>
      {view.derived.light.room && <p>{view.derived.light.room}</p>}
      <Acts>
        {(
          [
            ["quiet", "low contrast wanted"],
            ["speaks-up", "high contrast wanted"],
          ] as const
        ).map(([heard, label]) => (
          <button
            key={heard}
            type="button"
            className="act"
            aria-pressed={wall.heard === heard}
            onClick={() => set({ heard: wall.heard === heard ? null : heard })}
          >
            {wall.heard === heard ? `✓ ${label}` : label}
          </button>
        ))}
      </Acts>
      <hr />
      <KnownLength />
      {wall.measure && <WaysToHang wall={wall} />}
      <hr />
      <button type="button" className="act" onClick={() => changes.request({ do: "remove-wall" })}>
        Take the photo away
      </button>
    </Card>
  );
}
