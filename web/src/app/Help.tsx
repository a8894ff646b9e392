import { Drawer, Tabs } from "antd";
import { Link } from "react-router";
import { GLOSSARY } from "@/shared/lib/glossary";
import { KEYS, QUESTIONS } from "@/shared/lib/help";
import styles from "./Help.module.css";

/** Help: which question to ask, Mandala's own words, and the keys. */
export function Help({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Drawer open={open} onClose={onClose} title="Help" size={440} destroyOnHidden>
      <Tabs
        items={[
          {
            key: "questions",
            label: "Which question do I ask?",
            children: (
              <dl className={styles["list"]}>
                {QUESTIONS.map((it) => (
                  <div key={it.to}>
                    <dt>
                      <Link to={it.to} onClick={onClose}>
                        {it.ask}
                      </Link>
                    </dt>
                    <dd>{it.when}</dd>
                  </div>
                ))}
              </dl>
            ),
          },
          {
            key: "words",
            label: "Words",
            children: (
              <dl className={styles["list"]}>
                {Object.entries(GLOSSARY).map(([word, sentence]) => (
                  <div key={word}>
                    <dt>{word}</dt>
                    <dd>{sentence}</dd>
                  </div>
                ))}
              </dl>
            ),
          },
          {
            key: "keys",
            label: "Keys",
            children: (
              <dl className={styles["keys"]}>
                {KEYS.map(([keys, does]) => (
                  <div key={keys}>
                    <dt>
                      <kbd>{keys}</kbd>
                    </dt>
                    <dd>{does}</dd>
                  </div>
                ))}
              </dl>
            ),
          },
        ]}
      />
    </Drawer>
  );
}
