import { FileButton } from "@mantine/core";
import { useReadings } from "../../api/useBox";
import { Act } from "../../kit/Act";
import { Acts } from "../../kit/Section";
import { useStudio } from "../stroke/useGround";

/** A card of empty cells: printed, and read back from its photo. */
export function CardSheet({ box, query }: { box: string; query: URLSearchParams }) {
  const { takeCard } = useReadings(box);
  const { simulates } = useStudio().data ?? {};
  const base = `/api/boxes/${encodeURIComponent(box)}/card`;
  const simulated = async () => {
    const photo = await fetch(`${base}/photo?${query}`);
    if (photo.ok) takeCard(query, new File([await photo.blob()], "card.png"));
    else takeCard(query, new File([], "card.png"));
  };
  return (
    <Acts>
      <a href={`${base}.pdf?${query}`} target="_blank" rel="noreferrer">
        Print it (PDF)
      </a>
      <FileButton onChange={(f) => f && takeCard(query, f)} accept="image/*">
        {(props) => (
          <button type="button" className="act" {...props}>
            Read its photo
          </button>
        )}
      </FileButton>
      {simulates && <Act onDo={simulated}>Photograph it, simulated</Act>}
    </Acts>
  );
}
