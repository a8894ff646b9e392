import { Checkbox } from "antd";
import { Link } from "react-router";
import { personPage } from "../model";
import type { Row } from "../queries";
import { Thumbprint } from "./columns";
import styles from "./PeopleList.module.css";

interface Props {
  row: Row;
  chosen: boolean;
  onChoose: (row: Row, chosen: boolean) => void;
}

/** A person on a narrow screen: name, job, state and number of rights. */
export function PersonCard({ row, chosen, onChoose }: Props) {
  return (
    <div className={styles["card"]}>
      <Checkbox
        aria-label={`Select ${row.name}`}
        checked={chosen}
        onChange={(event) => onChoose(row, event.target.checked)}
      />
      <span>
        <Thumbprint row={row} />
      </span>
      <span>
        <Link to={personPage(row)}>{row.name}</Link>
        <small>
          {[row.kind === "service" ? "service" : row.title, row.state].filter(Boolean).join(" · ")}
        </small>
      </span>
      <span className="quiet">{row.figure?.rights.toLocaleString("en")}</span>
    </div>
  );
}
