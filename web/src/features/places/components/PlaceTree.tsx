import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from "react";
import { DraftMark } from "../../../components/DraftMark";
import { leftOut, rowsOf } from "../model";
import { useBelow } from "../queries";

const ROW = 26;

interface Props {
  root: string;
  path: string[];
  chosen: string;
  onChoose: (place: string) => void;
}

/** The resource tree, read level by level; only what is in sight is drawn. */
export function PlaceTree({ root, path, chosen, onChoose }: Props) {
  const [unfolded, setUnfolded] = useState<Set<string>>(() => new Set(path));
  const trodden = path.join(" ");
  const [followed, setFollowed] = useState(trodden);
  if (followed !== trodden) {
    // another place was gone to: what it lies in is unfolded
    setFollowed(trodden);
    setUnfolded(new Set([...unfolded, ...path]));
  }
  const [view, setView] = useState({ top: 0, height: 600 });
  const box = useRef<HTMLDivElement>(null);
  const levels = useBelow([root, ...unfolded]);
  const rows = useMemo(() => rowsOf(root, levels, unfolded), [root, levels, unfolded]);
  const at = rows.findIndex((it) => it.place.key === chosen);

  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const look = () => setView({ top: element.scrollTop, height: element.clientHeight });
    look();
    element.addEventListener("scroll", look, { passive: true });
    return () => element.removeEventListener("scroll", look);
  }, []);

  function toggle(key: string, open?: boolean) {
    const next = new Set(unfolded);
    if (open ?? !next.has(key)) next.add(key);
    else next.delete(key);
    setUnfolded(next);
  }

  function press(event: KeyboardEvent) {
    const row = rows[at];
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step !== undefined) {
      event.preventDefault();
      const next = rows[Math.max(0, Math.min(rows.length - 1, at + step))];
      if (next) {
        onChoose(next.place.key);
        const y = rows.indexOf(next) * ROW;
        const element = box.current;
        if (element && (y < element.scrollTop || y > element.scrollTop + view.height - ROW)) {
          element.scrollTop = y - view.height / 2;
        }
      }
    }
    if (row && event.key === "ArrowRight") toggle(row.place.key, true);
    if (row && event.key === "ArrowLeft") toggle(row.place.key, false);
  }

  const first = Math.max(0, Math.floor(view.top / ROW) - 10);
  const last = Math.min(rows.length, Math.ceil((view.top + view.height) / ROW) + 10);
  return (
    <div
      className="tree"
      role="tree"
      aria-label="Places"
      tabIndex={0}
      aria-activedescendant={at >= 0 ? `place-${at}` : undefined}
      ref={box}
      onKeyDown={press}
    >
      {leftOut(levels) > 0 && (
        <p className="note">{leftOut(levels)} more: find them by name above</p>
      )}
      <div style={{ height: rows.length * ROW, position: "relative" }}>
        {rows.slice(first, last).map(({ place, depth, open }, i) => (
          <div
            key={place.key}
            id={`place-${first + i}`}
            role="treeitem"
            aria-level={depth + 1}
            aria-expanded={place.children > 0 ? open : undefined}
            aria-selected={place.key === chosen}
            className={`tree-row ${place.mark ?? ""}`}
            style={{ top: (first + i) * ROW, paddingInlineStart: 4 + depth * 15 }}
            onClick={() => onChoose(place.key)}
          >
            <span
              className="fold"
              aria-hidden="true"
              onClick={(event) => {
                event.stopPropagation();
                if (place.children > 0) toggle(place.key);
              }}
            >
              {place.children > 0 ? (open ? "▾" : "▸") : ""}
            </span>
            <span className={place.type === "account" ? "apart" : undefined}>{place.name}</span>
            <small>
              {(place.type === "unit" || place.type === "group") && place.type + " "}
              {place.sealed && "sealed "}
              {place.children > 0 && place.children}
            </small>
            <DraftMark mark={place.mark} />
          </div>
        ))}
      </div>
    </div>
  );
}
