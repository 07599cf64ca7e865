import { Outlet } from "react-router";
import { BreaksAlone } from "../bench/Broken";
import { useRoom } from "./useRoom";

/** Every page stands in the room of the screen. */
export function InRoom() {
  useRoom();
  return (
    <BreaksAlone>
      <Outlet />
    </BreaksAlone>
  );
}
