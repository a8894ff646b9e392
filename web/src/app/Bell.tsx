import { useState } from "react";
import { BellOutlined } from "@ant-design/icons";
import { Badge, Button, Popover, Space } from "antd";
import { Link } from "react-router";
import { isOver, useJobs } from "@/entities/job/queries";
import { NoticeList } from "@/entities/notice/NoticeList";
import { useNotices, useReadNotices } from "@/entities/notice/queries";
import { count } from "@/shared/lib/words";

const SHOWN = 6;

/** What came since one looked, and the long work that runs. */
export function Bell() {
  const [open, setOpen] = useState(false);
  const notices = useNotices();
  const jobs = useJobs(open);
  const read = useReadNotices();
  const all = notices.data?.notices ?? [];
  const unread = notices.data?.unread ?? 0;
  const running = jobs.data?.jobs.filter((it) => !isOver(it)) ?? [];
  const close = () => setOpen(false);
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      trigger="click"
      arrow={false}
      placement="bottomRight"
      title="Notices"
      content={
        <div style={{ width: "min(360px, 80vw)" }}>
          {all.length === 0 && (
            <p className="note">Nothing yet. What concerns you is listed here.</p>
          )}
          <NoticeList notices={all.slice(0, SHOWN)} onOpen={close} />
          {running.length > 0 && (
            <p role="status">
              <Link to="/you/work" onClick={close}>
                {count(running.length, "job")} running
              </Link>
            </p>
          )}
          <Space>
            <Link to="/you/notices" onClick={close}>
              All notices
            </Link>
            {unread > 0 && all[0] && (
              <Button
                size="small"
                type="link"
                loading={read.isPending}
                onClick={() => read.mutate({ id: all[0]?.id ?? 0, andOlder: true })}
              >
                Mark all as read
              </Button>
            )}
          </Space>
        </div>
      }
    >
      <Badge count={unread} size="small" overflowCount={99} offset={[-9, 7]}>
        <Button
          type="text"
          icon={<BellOutlined />}
          aria-label={unread === 0 ? "Notices" : `Notices: ${unread} unread`}
        />
      </Badge>
    </Popover>
  );
}
