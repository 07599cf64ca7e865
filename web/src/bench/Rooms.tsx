import { useSearchParams } from "react-router";
import styles from "./Rooms.module.css";

/** The room of a station that the address names; the first when it names none. */
export function useRoom<R extends string>(rooms: readonly (readonly [R, string])[]): R {
  const [search] = useSearchParams();
  return rooms.find(([r]) => r === search.get("room"))?.[0] ?? rooms[0][0];
}

/** Parts of a station side by side; the rest of the address stays. */
export function Rooms<R extends string>({ rooms }: { rooms: readonly (readonly [R, string])[] }) {
  const [, setSearch] = useSearchParams();
  const room = useRoom(rooms);
  const enter = (name: R) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        if (name === rooms[0][0]) next.delete("room");
        else next.set("room", name);
        return next;
      },
      { replace: true },
    );
  return (
    <nav className={styles.rooms} aria-label="At this station">
      {rooms.map(([name, label]) => (
        <button key={name} type="button" className="plain" aria-pressed={room === name} onClick={() => enter(name)}>
          {label}
        </button>
      ))}
    </nav>
  );
}
