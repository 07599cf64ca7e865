import { useBench } from "../../../bench/context";
import { Acts } from "../../../kit/Section";
import styles from "../Brief.module.css";
import { Length } from "../Length";
import { useWall } from "./useWall";
import { useWallTool } from "./useWallTool";

/** The known length in the photo, or four corners with the sizes between them. What was measured stays editable. */
export function KnownLength() {
  const { view } = useBench();
  const { wall, set } = useWall();
  const tool = useWallTool();
  const { units } = view.piece.intent;
  const measure = wall?.measure;
  const line = measure?.by === "line" ? measure : null;
  const corners = measure?.by === "corners" ? measure : null;
  const keepLength = (length: number) => {
    tool.setLength(length);
    if (line) set({ measure: { ...line, length } });
  };
  const keepCorners = (change: { width?: number; height?: number }) => {
    if (change.width) tool.setWidth(change.width);
    if (change.height) tool.setHeight(change.height);
    if (corners) set({ measure: { ...corners, ...change } });
  };
  const setting = tool.now === "corners";
  return (
    <>
      <h3>A known length</h3>
      <Length
        label="Length of the line"
        mm={line?.length ?? tool.length}
        units={units}
        least={1}
        most={100000}
        onKeep={keepLength}
      />
      <Acts>
        <button
          type="button"
          className={`act${measure ? "" : " main"}`}
          aria-pressed={tool.now === "line"}
          onClick={() => {
            if (line) tool.setLength(line.length);
            tool.take(tool.now === "line" ? null : "line");
          }}
        >
          {tool.now === "line" ? "Drag along it now" : "Drag a line along it"}
        </button>
        <button
          type="button"
          className="act"
          aria-pressed={setting}
          onClick={() => {
            if (corners) keepCorners({ width: corners.width, height: corners.height });
            tool.take(setting ? null : "corners");
          }}
        >
          {setting ? `Set corner ${tool.corners.length + 1} of 4` : "or four corners"}
        </button>
      </Acts>
      {(setting || corners) && (
        <div className={styles.pair}>
          <Length
            label="Wide"
            mm={(!setting && corners?.width) || tool.width}
            units={units}
            least={1}
            most={100000}
            onKeep={(width) => keepCorners({ width })}
          />
          <Length
            label="High"
            mm={(!setting && corners?.height) || tool.height}
            units={units}
            least={1}
            most={100000}
            onKeep={(height) => keepCorners({ height })}
          />
        </div>
      )}
    </>
  );
}
