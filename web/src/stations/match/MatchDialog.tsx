import { Modal, NativeSelect, TextInput } from "@mantine/core";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { answer, api, Refused, type Schemas } from "../../api/client";
import { capital, useBench, useSelection, useTargets, zoneName } from "../../bench/context";
import { useNotice } from "../../bench/notice";
import { Act } from "../../kit/Act";
import { viewAddress } from "../../lenses/picture/Picture";
import styles from "./Match.module.css";
import { MatchAnswer } from "./MatchAnswer";
import { SpotPicker } from "./SpotPicker";

const typed = (lab: Schemas["Lab"]) => [lab.l, lab.a, lab.b].map((n) => n.toFixed(1)).join(" ");

/** The colour the question begins with: the chosen cell of the chart, zone or pigment; nothing where none is chosen. */
function useAsked(): { lab?: Schemas["Lab"]; what: string } {
  const { view, box } = useBench();
  const { zone, pigment } = useSelection();
  const target = useTargets();
  const cell = useSearchParams()[0].get("cell");
  const ofCell = cell === null ? undefined : view.piece.chart?.cells[Number(cell)];
  if (ofCell) return { lab: ofCell.lab, what: "the chosen cell" };
  const ofZone = zone === null ? undefined : target(zone);
  if (ofZone && zone !== null) return { lab: ofZone.lab, what: zoneName(view, zone) };
  const own = box?.pigments.find((p) => p.id === pigment);
  return { lab: own?.mark.lab, what: own?.name ?? "" };
}

/** The pictures whose spots can be pressed: the reference, then the others. */
function usePictures() {
  const { view } = useBench();
  const { reference, others } = view.piece;
  const main = reference && [
    { value: viewAddress(view.id, reference.digest.slice(0, 12), "as-it-is", null), label: "the reference" },
  ];
  const rest = others.map((o) => ({
    value: `/api/pieces/${view.id}/pictures/${o.digest}`,
    label: o.purpose || o.file_name,
  }));
  return [...(main ?? []), ...rest];
}

/** Asks which of mine a colour is, or how it is mixed: for the cell, zone or pigment that is chosen, a spot of a picture, or a typed colour. */
export function MatchDialog({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  const { view, changes } = useBench();
  const selection = useSelection();
  const navigate = useNavigate();
  const { say } = useNotice();
  const { brief, chosen } = view.piece;
  const zone = selection.zone;
  const { lab, what } = useAsked();
  const pictures = usePictures();
  const [picture, setPicture] = useState("");
  const [colour, setColour] = useState("");
  // A dialog gives the focus back only if it was there, closed, before it was opened.
  const [there, setThere] = useState(false);
  useEffect(() => setThere(true), []);
  const asked = lab ? typed(lab) : "";
  const [openedFor, setOpenedFor] = useState("");
  if (opened && openedFor !== `${what} ${asked}`) {
    setOpenedFor(`${what} ${asked}`);
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
  const shown = pictures.some((p) => p.value === picture) ? picture : (pictures[0]?.value ?? "");
  const nearest = found.data?.nearest.near[0];
  const trial = () => {
    onClose();
    // Trials of a cell stand beside the chart.
    if (what !== "the chosen cell") navigate(`/pieces/${view.id}/mixes${zone === null ? "" : `?zone=${zone}`}`);
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
                label={what ? `Colour of ${what}` : "Colour"}
                description="dull blue green, #33aa66 or L a b"
                value={colour}
                onChange={(e) => setColour(e.currentTarget.value)}
                error={found.error instanceof Refused ? found.error.problem.detail : undefined}
              />
              {pictures.length > 0 && (
                <>
                  {pictures.length > 1 && (
                    <NativeSelect
                      label="Picture"
                      value={shown}
                      data={pictures}
                      onChange={(e) => setPicture(e.currentTarget.value)}
                    />
                  )}
                  <SpotPicker
                    src={shown}
                    alt={pictures.find((p) => p.value === shown)?.label ?? ""}
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
              <p className={styles.hint}>
                Choose a zone, a cell of the chart or a pigment before, press a spot, or type a colour.
              </p>
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
