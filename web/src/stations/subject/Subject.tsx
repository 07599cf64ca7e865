import { Station } from "../../bench/Bench";
import { useBench } from "../../bench/context";
import { Rooms, useRoom } from "../../bench/Rooms";
import { ChartCard, ChartRoom } from "./Chart";
import { CompositionsCard, CompositionsRoom } from "./Compositions";
import { MassesRoom } from "./Masses";
import { PictureRoom } from "./PictureRoom";
import { ReferencesCard, ReferencesRoom } from "./References";
import { usePaste } from "./usePaste";
import { Working } from "./Working";

const ROOMS = [
  ["picture", "the picture"],
  ["masses", "masses"],
  ["chart", "colour chart"],
  ["references", "references"],
  ["compositions", "compositions"],
] as const;

/** Look, simplify, measure: the reference, its values and its big shapes. */
export function Subject() {
  const room = useRoom(ROOMS);
  usePaste(useBench().work.takeIn);
  const rooms = <Rooms rooms={ROOMS} />;
  if (room === "picture") return <PictureRoom rooms={rooms} />;
  if (room === "masses") return <MassesRoom rooms={rooms} />;
  const [surface, card] = {
    chart: [<ChartRoom key="r" />, <ChartCard key="c" />],
    references: [<ReferencesRoom key="r" />, <ReferencesCard key="c" />],
    compositions: [<CompositionsRoom key="r" />, <CompositionsCard key="c" />],
  }[room];
  return (
    <Station
      name="Subject"
      surface={
        <>
          {rooms}
          {surface}
          <Working />
        </>
      }
      card={card}
    />
  );
}
