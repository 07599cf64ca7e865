import { useEasel } from "../../api/useEasel";
import { Station } from "../../bench/Bench";
import { useBench } from "../../bench/context";
import { Rooms, useRoom } from "../../bench/Rooms";
import { Missing } from "../missing/Missing";
import { HowCard } from "./how/HowCard";
import { HowRoom } from "./how/HowRoom";
import { LargeCard, LargeRoom } from "./large/LargeRoom";
import { LogCard } from "./log/LogCard";
import { NowCard } from "./now/NowCard";
import { NowRoom } from "./now/NowRoom";
import { PhotoCard, PhotoRoom } from "./photo/PhotoRoom";
import { SurfacesCard, SurfacesRoom } from "./surfaces/SurfacesRoom";

const ROOMS = [
  ["now", "the piece now"],
  ["how", "how it is built"],
  ["photo", "progress photo"],
  ["surfaces", "surfaces"],
  ["large", "enlarging"],
  ["log", "sessions"],
] as const;

/** The piece itself: what to do next, what it should look like, what was done. */
export function Piece() {
  const room = useRoom(ROOMS);
  const { view } = useBench();
  const easel = useEasel();
  const at = easel.data?.at;
  if (!view.derived.shapes.length) {
    return (
      <Station
        name="Piece"
        surface={<Missing why="What is laid, and in which order, follows from the zones of a picture." />}
        card={<p>The piece is carried out here, stage by stage.</p>}
      />
    );
  }
  if (easel.data && !at) {
    return (
      <Station
        name="Piece"
        surface={<Missing set why="What is laid, and in which order, follows from the mixes of a lean set." />}
        card={<LogCard at={null} />}
      />
    );
  }
  return (
    <Station
      name="Piece"
      surface={
        <>
          <Rooms rooms={ROOMS} />
          {at && room === "how" && <HowRoom />}
          {room === "photo" && <PhotoRoom />}
          {room === "surfaces" && <SurfacesRoom />}
          {room === "large" && <LargeRoom />}
          {at && (room === "now" || room === "log") && <NowRoom at={at} />}
        </>
      }
      card={
        at && room === "how" ? (
          <HowCard at={at} />
        ) : room === "photo" ? (
          <PhotoCard />
        ) : room === "surfaces" ? (
          <SurfacesCard />
        ) : room === "large" ? (
          <LargeCard />
        ) : room === "log" ? (
          <LogCard at={at ?? null} />
        ) : at ? (
          <NowCard at={at} follows={easel.data?.follows ?? null} />
        ) : null
      }
    />
  );
}
