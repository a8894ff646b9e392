import { useState } from "react";
import { DownOutlined } from "@ant-design/icons";
import { Badge, Button, Dropdown, type MenuProps } from "antd";
import { Link, useNavigate } from "react-router";
import { nameOf } from "@/entities/draft/names";
import { useDrafts, useHandleAny, useNewDraft, useOpenDraft } from "@/entities/draft/queries";
import { count } from "@/shared/lib/words";
import styles from "./DraftStatus.module.css";

/** The active draft, in sight on every page, and the way to another one. */
export function DraftStatus() {
  const open = useOpenDraft();
  const draft = open.data?.draft;
  const errors = (open.data?.faults ?? 0) + (open.data?.clashes ?? 0);
  const toApprove = open.data?.toApprove ?? 0;
  return (
    <div className={styles["status"]}>
      {draft ? (
        <Link
          to={`/drafts/${draft.id}`}
          className={styles["draft"]}
          data-draft="open"
          title={open.data?.impact}
        >
          <span>
            <strong>{nameOf(draft)}</strong>
            {draft.size > 0 && ` · ${count(draft.size, "change")}`}
          </span>
          <small>
            {errors > 0
              ? `${count(errors, "error")} to fix`
              : draft.size === 0
                ? "empty"
                : (open.data?.impact ?? "computing its impact…")}
          </small>
        </Link>
      ) : (
        <Link to="/drafts" className={styles["none"]} data-draft="none">
          No draft
        </Link>
      )}
      <OtherDrafts />
      {toApprove > 0 && (
        <Link to="/drafts" title={`${count(toApprove, "draft")} sent to you for approval`}>
          <Badge count={toApprove} size="small" title="" />
          <span className={styles["words"]}> to approve</span>
        </Link>
      )}
    </div>
  );
}

/** One's own open drafts: choosing one makes it the active one. */
function OtherDrafts() {
  const [open, setOpen] = useState(false);
  const drafts = useDrafts(open);
  const handle = useHandleAny();
  const begin = useNewDraft();
  const navigate = useNavigate();
  const others = (drafts.data?.mine ?? []).filter((it) => it.state === "aside");
  const items: MenuProps["items"] = [
    ...(others.length > 0
      ? [
          {
            type: "group" as const,
            label: "Make active",
            children: others.slice(0, 12).map((it) => ({
              key: it.id,
              label: `${nameOf(it)} · ${count(it.size, "change")}`,
              onClick: () => handle.mutate({ id: it.id, state: "open" }),
            })),
          },
          { type: "divider" as const },
        ]
      : []),
    {
      key: "new",
      label: "New draft",
      onClick: () =>
        begin.mutate("", { onSuccess: (it) => void navigate(`/drafts/${it.draft?.id ?? ""}`) }),
    },
    { key: "all", label: "All drafts", onClick: () => void navigate("/drafts") },
  ];
  return (
    <Dropdown menu={{ items }} trigger={["click"]} open={open} onOpenChange={setOpen}>
      <Button
        type="text"
        size="small"
        aria-label="Choose a draft"
        loading={handle.isPending || begin.isPending}
        icon={<DownOutlined />}
      />
    </Dropdown>
  );
}
