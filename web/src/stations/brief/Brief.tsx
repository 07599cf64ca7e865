import { useSearchParams } from "react-router";
import { Station } from "../../bench/Bench";
import styles from "./Brief.module.css";
import { BriefCard, BriefRoom } from "./BriefRoom";
import { RulesCard, RulesRoom } from "./Rules";
import { WallCard, WallRoom } from "./Wall";

const ROOMS = [
  ["sheet", "the sheet"],
  ["rules", "moods, schools, games"],
  ["wall", "the wall"],
] as const;

/** What it is for, how large, on what, and by which rules. */
export function Brief() {
  const [search, setSearch] = useSearchParams();
  const room = ROOMS.find(([r]) => r === search.get("room"))?.[0] ?? "sheet";
  const [surface, card] = {
    sheet: [<BriefRoom key="r" />, <BriefCard key="c" />],
    rules: [<RulesRoom key="r" />, <RulesCard key="c" />],
    wall: [<WallRoom key="r" />, <WallCard key="c" />],
  }[room];
  return (
    <Station
      name="Brief"
      surface={
        <>
          <nav className={styles.rooms} aria-label="At this station">
            {ROOMS.map(([name, label]) => (
              <button
                key={name}
                type="button"
                className="plain"
                aria-pressed={room === name}
                onClick={() => setSearch(name === "sheet" ? {} : { room: name }, { replace: true })}
              >
                {label}
              </button>
            ))}
          </nav>
          {surface}
        </>
      }
      card={card}
    />
  );
}
