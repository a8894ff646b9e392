import { Button, type ButtonProps } from "antd";
import styles from "./LinkButton.module.css";

/** A button that reads as a link inside text. */
export function LinkButton(props: Omit<ButtonProps, "type" | "size">) {
  return <Button {...props} type="link" size="small" className={styles["link"] ?? ""} />;
}
