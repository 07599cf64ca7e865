import { useSearchParams } from "react-router";
import { Station } from "../../bench/Bench";
import { useBench, useSelection } from "../../bench/context";
import { Rooms, useRoom } from "../../bench/Rooms";
import { BoxCard } from "./BoxCard";
import { FromPhotoCard, FromPhotoRoom, useFromPhoto } from "./FromPhoto";
import { GroundCard, GroundsRoom } from "./GroundsRoom";
import { OwnedRoom } from "./OwnedRoom";
import { PigmentCard } from "./PigmentCard";
import { ReadCard } from "./ReadCard";
import { ReadingsRoom } from "./ReadingsRoom";
import { StartBox } from "./StartBox";
import { StringsCard, StringsRoom } from "./StringsRoom";

const ROOMS = [
  ["owned", "paints"],
  ["readings", "readings"],
  ["strings", "strings and greys"],
  ["grounds", "grounds"],
  ["photo", "from a photo"],
] as const;

/** What is owned, what was read of it, and what goes together. */
export function BoxStation() {
  const { box: drawnOn, boxComes } = useBench();
  const { pigment } = useSelection();
  const room = useRoom(ROOMS);
  const [, setSearch] = useSearchParams();
  const coming = useFromPhoto();
  // What the piece takes from a second Box is kept there.
  const box = drawnOn && { ...drawnOn, pigments: drawnOn.pigments.filter((p) => !p.second) };
  if (!box) {
    return (
      <Station
        name="Box"
        surface={boxComes ? <p aria-busy="true" /> : <StartBox />}
        card={<p>A Box holds all the pigments you own in one medium.</p>}
      />
    );
  }
  const chosen = box.pigments.find((p) => p.id === pigment);
  return (
    <Station
      name="Box"
      surface={
        <>
          <Rooms rooms={ROOMS} />
          {room === "owned" && <OwnedRoom box={box} />}
          {room === "readings" && <ReadingsRoom box={box} />}
          {room === "strings" && <StringsRoom box={box} />}
          {room === "grounds" && <GroundsRoom />}
          {room === "photo" && <FromPhotoRoom coming={coming} />}
        </>
      }
      card={
        room === "readings" ? (
          <ReadCard box={box} />
        ) : room === "strings" ? (
          <StringsCard box={box} />
        ) : room === "grounds" ? (
          <GroundCard />
        ) : room === "photo" ? (
          <FromPhotoCard box={box} coming={coming} onDone={() => setSearch({}, { replace: true })} />
        ) : chosen ? (
          <PigmentCard key={chosen.id} box={box} p={chosen} />
        ) : (
          <BoxCard box={box} />
        )
      }
    />
  );
}
