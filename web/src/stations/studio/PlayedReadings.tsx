import { useQueryClient } from "@tanstack/react-query";
import { answer, api, type Schemas } from "../../api/client";
import { useNotice } from "../../bench/notice";
import { Act } from "../../kit/Act";
import styles from "./Studio.module.css";

/** Boxes with readings that the simulated meter of an earlier version made up, until they are set aside. */
export function PlayedReadings({ of }: { of: Schemas["PlayedReadings"][] }) {
  const queries = useQueryClient();
  const { say, tell } = useNotice();
  const setAside = (box: string) =>
    answer(api.POST("/api/boxes/{id}/readings/played/aside", { params: { path: { id: box } } })).then(() => {
      queries.invalidateQueries();
      say("They are set aside: kept with the Box, and they teach nothing.");
    }, tell);
  return of.map((b) => (
    <p key={b.paint_box} className={styles.visiting} role="alert">
      <span>
        {b.name} holds {b.readings} readings that a simulated colour meter made up. Colours learned from them are not
        those of your paints.
      </span>
      <Act onDo={() => setAside(b.paint_box)}>Set them aside</Act>
    </p>
  ));
}
