import { Modal, TextInput } from "@mantine/core";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { answer, api, Refused, type Schemas } from "../../api/client";
import { capital, useBench, useSelection, useTargets, zoneName } from "../../bench/context";
import { useNotice } from "../../bench/notice";
import { Act } from "../../kit/Act";
import { viewAddress } from "../../lenses/picture/Picture";
import styles from "./Match.module.css";
import { MatchAnswer } from "./MatchAnswer";
import { SpotPicker } from "./SpotPicker";

const typed = (lab: Schemas["Lab"]) => [lab.l, lab.a, lab.b].map((n) => n.toFixed(1)).join(" ");

/** Which of mine is this, or how do I mix it: for the zone, a spot of the reference, or a typed colour. */
export function MatchDialog({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  const { view, changes } = useBench();
  const selection = useSelection();
  const target = useTargets();
  const navigate = useNavigate();
  const { say } = useNotice();
  const { brief, chosen, reference } = view.piece;
  const zone = selection.zone;
  const ofZone = zone === null ? undefined : target(zone);
  const [colour, setColour] = useState("");
  // A dialog gives the focus back only if it was there, closed, before it was opened.
  const [there, setThere] = useState(false);
  useEffect(() => setThere(true), []);
  const asked = ofZone ? typed(ofZone.lab) : "";
  const [openedFor, setOpenedFor] = useState("");
  if (opened && openedFor !== `${zone} ${asked}`) {
    setOpenedFor(`${zone} ${asked}`);
    setColour(asked);
  }
  const found = useQuery({
    queryKey: ["match", view.id, view.revision, colour],
    queryFn: () =>
      answer(
        api.GET("/api/pieces/{id}/match", { params: { path: { id: view.id }, query: { colour: colour.trim() } } }),
      ),
    enabled: opened && colour.trim() !== "",
    placeholderData: keepPreviousData,
    retry: false,
  });
  const mixes = brief.medium === "oil" || brief.medium === "watercolour";
  const question = mixes ? "How do I mix this?" : "Which of mine is this?";
  const put = async (id: string, name: string) => {
    if (chosen.pigments.includes(id)) return say(`${capital(name)} is in the set already.`);
    const done = await changes.request({ do: "choose-set", pigments: [...chosen.pigments, id] });
    if (done) say(`${capital(name)} is in the set.`);
  };
  const nearest = found.data?.nearest.near[0];
  const trial = () => {
    onClose();
    navigate(`/pieces/${view.id}/mixes${zone === null ? "" : `?zone=${zone}`}`);
  };
  return (
    <Modal.Root
      opened={opened && there}
      onClose={onClose}
      size={860}
      centered
      transitionProps={{ duration: 0 }}
      onKeyDown={(e) => {
        if (e.target instanceof HTMLInputElement || e.ctrlKey || e.metaKey || e.altKey) return;
        if (e.key === "a" && nearest) put(nearest.pigment, nearest.name);
        if (e.key === "t") trial();
      }}
    >
      <Modal.Overlay />
      <Modal.Content aria-label={question}>
        <Modal.Body>
          <div className={styles.head}>
            <h2>{question}</h2>
            <Act onDo={onClose}>Close</Act>
          </div>
          {/* Not the field: keys are to be pressed at once. */}
          <div className={styles.match} data-autofocus tabIndex={-1}>
            <div className={styles.asked}>
              <TextInput
                label={zone === null ? "Colour" : `Colour of ${zoneName(view, zone)}`}
                description="dull blue green, #33aa66 or L a b"
                value={colour}
                onChange={(e) => setColour(e.currentTarget.value)}
                error={found.error instanceof Refused ? found.error.problem.detail : undefined}
              />
              {reference && (
                <>
                  <SpotPicker
                    src={viewAddress(view.id, reference.digest.slice(0, 12), "as-it-is", null)}
                    alt="The reference"
                    onPick={setColour}
                  />
                  <p className={styles.hint}>Press any spot of the picture.</p>
                </>
              )}
            </div>
            {found.data && colour.trim() !== "" ? (
              <MatchAnswer
                found={found.data}
                mixes={mixes}
                inSet={(id) => chosen.pigments.includes(id)}
                act={(n) =>
                  chosen.pigments.includes(n.pigment) ? null : (
                    <Act onDo={() => put(n.pigment, n.name)}>Add to the set</Act>
                  )
                }
              />
            ) : (
              <p className={styles.hint}>Choose a zone before, press a spot, or type a colour.</p>
            )}
          </div>
          <p className={styles.keys}>
            <kbd>a</kbd> adds the nearest to the set · <kbd>t</kbd> goes on to a trial · <kbd>Esc</kbd> closes
          </p>
        </Modal.Body>
      </Modal.Content>
    </Modal.Root>
  );
}
