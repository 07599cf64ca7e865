import { useLocalStorage } from "@mantine/hooks";
import { useCallback, useEffect } from "react";

const ROOMS = ["middle", "dark", "light"] as const;
export type Room = (typeof ROOMS)[number];

/** The grey of the surround. Kept by the browser: it belongs to the screen, not to the piece. */
export function useRoom(): [Room, () => void] {
  const [room, setRoom] = useLocalStorage<Room>({
    key: "room",
    defaultValue: "middle",
    getInitialValueInEffect: false,
  });
  useEffect(() => {
    document.documentElement.dataset.room = room;
  }, [room]);
  const next = useCallback(() => setRoom((r) => ROOMS[(ROOMS.indexOf(r) + 1) % ROOMS.length]), [setRoom]);
  return [room, next];
}
