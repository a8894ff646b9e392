import { useState } from "react";
import { Drawer, Select } from "antd";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useLetters } from "../queries";
import styles from "../pages/SettingsPage.module.css";

interface Props {
  open: boolean;
  onClose: () => void;
}

/** How mail about each kind of notice reads, as an example to oneself. */
export function Letters({ open, onClose }: Props) {
  const letters = useLetters(open);
  const [kind, setKind] = useState<string>();
  const all = letters.data?.letters ?? [];
  const shown = all.find((it) => it.kind === kind) ?? all[0];
  return (
    <Drawer open={open} onClose={onClose} title="How mail reads" size={520}>
      <p className="note">An example, as it would come to you.</p>
      {letters.isPending && <Loading what="the examples" rows={4} />}
      {letters.isError && (
        <ProblemAlert problem={letters.error} onRetry={() => void letters.refetch()} />
      )}
      {shown && (
        <>
          <Select
            aria-label="Kind of mail"
            value={shown.kind}
            popupMatchSelectWidth={false}
            options={all.map((it) => ({ value: it.kind, label: it.subject }))}
            onChange={setKind}
          />
          <pre className={styles["letter"]}>{shown.body}</pre>
        </>
      )}
    </Drawer>
  );
}
