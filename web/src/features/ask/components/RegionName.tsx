import { DownOutlined, MinusOutlined, PlusOutlined, RightOutlined } from "@ant-design/icons";
import type { TableRow } from "@/entities/access/model";
import styles from "./RegionName.module.css";

interface Props {
  row: TableRow;
  /** Whether the names of its permissions are shown. */
  named: boolean;
  onToggle: () => void;
}

/** A region by name; it folds, or shows the names of its permissions where there is nothing below. */
export function RegionName({ row, named, onToggle }: Props) {
  const { region, folds } = row;
  const open = folds ? row.open : named;
  const Icon = folds ? (open ? DownOutlined : RightOutlined) : open ? MinusOutlined : PlusOutlined;
  const apart = region.shape === "account" || region.door;
  return (
    <button
      type="button"
      className={styles["region"]}
      style={{ paddingInlineStart: row.depth * 18 }}
      aria-expanded={open}
      onClick={onToggle}
    >
      <Icon
        className={`${styles["fold"] ?? ""} ${folds ? "" : (styles["leaf"] ?? "")}`}
        aria-hidden
      />
      <span className={apart ? styles["apart"] : styles["name"]}>{region.name}</span>{" "}
      <small>
        {region.sealed ? "sealed · " : ""}
        {region.note}
      </small>
    </button>
  );
}
