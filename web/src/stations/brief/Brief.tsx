import { Station } from "../../bench/Bench";
import { Rooms, useRoom } from "../../bench/Rooms";
import { BriefCard, BriefRoom } from "./BriefRoom";
import { RulesCard, RulesRoom } from "./Rules";
import { WallCard } from "./wall/WallCard";
import { WallRoom } from "./wall/WallRoom";

const ROOMS = [
  ["sheet", "the sheet"],
  ["rules", "moods, schools, games"],
  ["wall", "the wall"],
] as const;

/** What it is for, how large, on what, and by which rules. */
export function Brief() {
  const [surface, card] = {
    sheet: [<BriefRoom key="r" />, <BriefCard key="c" />],
    rules: [<RulesRoom key="r" />, <RulesCard key="c" />],
    wall: [<WallRoom key="r" />, <WallCard key="c" />],
  }[useRoom(ROOMS)];
  return (
    <Station
      name="Brief"
      surface={
        <>
          <Rooms rooms={ROOMS} />
          {surface}
        </>
      }
      card={card}
    />
  );
}
