import { TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { answer, api, Refused } from "../../api/client";
import { seen } from "../../bench/context";
import { figure } from "../../room/figures";
import styles from "./Device.module.css";

/** What is in a Box, to be found with one thumb: in the shop, or in the field. */
export function DeviceBox() {
  const { id = "" } = useParams();
  const [find, setFind] = useState("");
  const box = useQuery({
    queryKey: ["device-box", id],
    queryFn: () => answer(api.GET("/api/boxes/{id}", { params: { path: { id } } })),
  });
  const fits = (text: string[]) => text.join(" ").toLowerCase().includes(find.trim().toLowerCase());
  const found = box.data?.pigments.filter((p) => fits([p.name, p.owned.label, ...p.colour_index])) ?? [];
  return (
    <main className={styles.device}>
      <Link to="/device">All</Link>
      {box.isError && (
        <p role="alert">{box.error instanceof Refused ? box.error.problem.detail : "The studio does not answer."}</p>
      )}
      {box.data && (
        <>
          <h1>{box.data.name}</h1>
          <TextInput
            label="Find"
            placeholder="name, label, PB29"
            value={find}
            onChange={(e) => setFind(e.currentTarget.value)}
          />
          <ul className={styles.pigments}>
            {found.map((p) => (
              <li key={p.id}>
                <span className={styles.swatch} style={{ background: seen(p.mark, "as-it-is") }} />
                <b>{p.name}</b>
                <span>
                  {[
                    p.colour_index.join(", "),
                    `value ${figure(p.mark.value, 1)}`,
                    p.owned.used_up ? "used up" : p.owned.lent_to && `lent to ${p.owned.lent_to}`,
                    p.hazard && `caution: ${p.hazard}`,
                  ]
                    .filter(Boolean)
                    .join(" · ")}
                </span>
              </li>
            ))}
          </ul>
          {found.length === 0 && <p>Nothing in this Box is called that.</p>}
        </>
      )}
    </main>
  );
}
