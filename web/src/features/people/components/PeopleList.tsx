import { useEffect, useRef, useState, type UIEvent } from "react";
import { ConfigProvider, Table } from "antd";
import type { ListView } from "@/shared/ui/useListView";
import { useNarrow } from "@/shared/ui/useNarrow";
import {
  pagesOf,
  ROW_HEIGHT,
  rowsBetween,
  rowsFrom,
  rowsInSight,
  type Filter,
  type Selected,
  type Slot,
} from "../model";
import { usePeoplePages, type Row } from "../queries";
import styles from "./PeopleList.module.css";
import { columnsOf } from "./columns";
import { PersonCard } from "./PersonCard";

interface Props {
  filter: Filter;
  total: number;
  /** The selected people, by key. */
  chosen: Map<string, Selected>;
  onChoose: (rows: Row[], chosen: boolean) => void;
  view: ListView;
}

/** The table takes a row's height for twice this padding, a line of 19 px and a hairline: 58 px. */
const ROWS = { token: { paddingXS: (ROW_HEIGHT - 20) / 2 } };

/** Height of the table's head. */
const HEAD = 30;

/** The list of people; it draws and loads only the rows in sight, so that length does not matter. */
export function PeopleList({ filter, total, chosen, onChoose, view }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const narrow = useNarrow();
  const [height, setHeight] = useState(600);
  const [top, setTop] = useState(0);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const measure = () => setHeight(Math.max(200, element.clientHeight - HEAD));
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const [first, last] = rowsInSight(top, height, total);
  const pages = pagesOf(first, last);
  const slots = rowsFrom(total, pages, usePeoplePages(filter, pages));
  const [anchor, setAnchor] = useState<number>();

  /** Chooses a row; with Shift all from the one chosen before. */
  function choose(slot: Slot, is: boolean, shift: boolean) {
    setAnchor(slot.at);
    if (shift && anchor !== undefined) onChoose(rowsBetween(slots, anchor, slot.at), is);
    else if (slot.row) onChoose([slot.row], is);
  }

  const columns = columnsOf(chosen, choose, new Date(), view);
  const scroll = (event: UIEvent<HTMLElement>) => setTop(event.currentTarget.scrollTop);
  return (
    <div className={styles["people"]} ref={box}>
      {narrow ? (
        <div className={styles["cards"]} onScroll={scroll}>
          <ul aria-label="People" style={{ height: total * ROW_HEIGHT }}>
            {slots.slice(first, last).map((slot) => (
              <li
                key={slot.at}
                style={{ transform: `translateY(${slot.at * ROW_HEIGHT}px)`, height: ROW_HEIGHT }}
              >
                {slot.row && (
                  <PersonCard
                    row={slot.row}
                    chosen={chosen.has(slot.row.key)}
                    onChoose={(row, is) => onChoose([row], is)}
                  />
                )}
              </li>
            ))}
          </ul>
        </div>
      ) : (
        <ConfigProvider theme={ROWS}>
          <Table<Slot>
            virtual
            aria-label="People"
            size="small"
            className={styles["table"] ?? ""}
            rowKey={(it) => it.at}
            dataSource={slots}
            columns={columns}
            pagination={false}
            scroll={{ x: 1120, y: height }}
            onScroll={scroll}
            onChange={(_, __, sorter) => {
              if (!Array.isArray(sorter)) view.setSort(sorter);
            }}
          />
        </ConfigProvider>
      )}
    </div>
  );
}
