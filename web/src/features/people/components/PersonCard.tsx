import { Link } from "react-router";
import { questionPage } from "../model";
import type { Row } from "../queries";
import { Thumbprint } from "./columns";
import styles from "./PeopleList.module.css";

/** A person on a narrow screen: name, job, state and number of rights. */
export function PersonCard({ row, account }: { row: Row; account: string }) {
  return (
    <div className={styles["card"]}>
      <span>
        <Thumbprint row={row} />
      </span>
      <span>
        <Link to={questionPage(row, account)}>{row.name}</Link>
        <small>
          {[row.kind === "service" ? "service" : row.title, row.state].filter(Boolean).join(" · ")}
        </small>
      </span>
      <span className="quiet">{row.figure?.rights.toLocaleString("en")}</span>
    </div>
  );
}
