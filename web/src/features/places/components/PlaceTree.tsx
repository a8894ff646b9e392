import { useEffect, useMemo, useRef, useState, type ComponentRef } from "react";
import { Tree } from "antd";
import { DraftMark } from "@/entities/draft/DraftMark";
import { useBelow, type PlaceView } from "@/entities/place/queries";
import { leftOut, nodesOf, type PlaceNode } from "../model";
import styles from "./PlaceTree.module.css";

interface Props {
  root: string;
  /** The places that the chosen one lies in; they are unfolded. */
  path: string[];
  chosen: string;
  onChoose: (place: string) => void;
}

/** The resource tree, loaded level by level; only the rows in sight are drawn. */
export function PlaceTree({ root, path, chosen, onChoose }: Props) {
  const [unfolded, setUnfolded] = useState<string[]>(path);
  const trodden = path.join(" ");
  const [followed, setFollowed] = useState(trodden);
  if (followed !== trodden) {
    setFollowed(trodden);
    setUnfolded([...new Set([...unfolded, ...path])]);
  }
  const box = useRef<HTMLDivElement>(null);
  const tree = useRef<ComponentRef<typeof Tree>>(null);
  const [height, setHeight] = useState(500);
  const levels = useBelow([...new Set([root, ...unfolded])]);
  const nodes = useMemo(() => nodesOf(root, levels, new Set(unfolded)), [root, levels, unfolded]);
  const missing = leftOut(levels);

  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const measure = () => setHeight(Math.max(180, element.clientHeight));
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);

  const present = [...levels.values()].some((it) => it.places.some(({ key }) => key === chosen));
  useEffect(() => {
    if (present) tree.current?.scrollTo({ key: chosen, align: "auto" });
  }, [chosen, present]);

  return (
    <>
      {missing > 0 && (
        <p className="note">
          {missing.toLocaleString("en")} more are not listed. Find them by name.
        </p>
      )}
      <div className={styles["tree"]} ref={box}>
        <Tree<PlaceNode>
          ref={tree}
          aria-label="Places"
          height={height}
          itemHeight={30}
          blockNode
          defaultExpandParent={false} // it would forget the places that are not loaded yet
          treeData={nodes}
          selectedKeys={[chosen]}
          expandedKeys={unfolded}
          titleRender={(node) => <PlaceName place={node.place} />}
          onExpand={(keys) => setUnfolded(keys.map(String))}
          onSelect={(_, { node }) => onChoose(node.key)}
        />
      </div>
    </>
  );
}

function PlaceName({ place }: { place: PlaceView }) {
  const kind = place.type === "unit" || place.type === "group" ? place.type : "";
  return (
    <span className={styles["place"]} data-place={place.key}>
      <span className={place.type === "account" ? styles["apart"] : undefined}>{place.name}</span>{" "}
      <small>
        {[kind, place.sealed && "sealed", place.children > 0 && place.children.toLocaleString("en")]
          .filter(Boolean)
          .join(" · ")}
      </small>
      <DraftMark mark={place.mark} />
    </span>
  );
}
