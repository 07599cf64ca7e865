import { Outlet } from "react-router";
import { useRoom } from "./useRoom";

/** Every page stands in the room of the screen. */
export function InRoom() {
  useRoom();
  return <Outlet />;
}
