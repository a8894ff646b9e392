import { useState } from "react";
import { DeleteOutlined } from "@ant-design/icons";
import { App, Button, Form, Input, Modal, Popover } from "antd";
import { Link, useLocation } from "react-router";
import { impersonation } from "@/shared/lib/impersonation";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import styles from "./SavedViews.module.css";
import { useForgetView, useSavedViews, useSaveView } from "./queries";

/** Views of this page's list that the person keeps: open one, save this one, or copy its link. */
export function SavedViews() {
  const [open, setOpen] = useState(false);
  const [saving, setSaving] = useState(false);
  const { pathname } = useLocation();
  const { message } = App.useApp();
  const views = useSavedViews(open);
  const readOnly = impersonation() !== undefined;
  const forget = useForgetView();
  const mine = (views.data ?? []).filter((it) => it.page === pathname);
  return (
    <>
      <Popover
        trigger="click"
        placement="bottomRight"
        open={open}
        onOpenChange={setOpen}
        content={
          <div className={styles["views"]}>
            {views.isError && <ProblemAlert problem={views.error} />}
            {forget.isError && <ProblemAlert problem={forget.error} />}
            {views.isSuccess && mine.length === 0 && <p className="note">No saved views yet.</p>}
            <ul aria-label="Saved views">
              {mine.map((it) => (
                <li key={it.name}>
                  <Link to={`${it.page}?${it.query}`} onClick={() => setOpen(false)}>
                    {it.name}
                  </Link>
                  {!readOnly && (
                    <Button
                      type="text"
                      size="small"
                      aria-label={`Remove view ${it.name}`}
                      icon={<DeleteOutlined />}
                      onClick={() => forget.mutate(it)}
                    />
                  )}
                </li>
              ))}
            </ul>
            {!readOnly && (
              <Button
                size="small"
                onClick={() => {
                  setOpen(false);
                  setSaving(true);
                }}
              >
                Save this view
              </Button>
            )}
            <Button
              size="small"
              onClick={() =>
                void navigator.clipboard
                  .writeText(window.location.href)
                  .then(() => message.success("Link copied"))
              }
            >
              Copy link
            </Button>
          </div>
        }
      >
        <Button type="text" size="small">
          Views
        </Button>
      </Popover>
      {saving && <Save onClose={() => setSaving(false)} />}
    </>
  );
}

function Save({ onClose }: { onClose: () => void }) {
  const { pathname, search } = useLocation();
  const { message } = App.useApp();
  const save = useSaveView();
  const [form] = Form.useForm<{ name: string }>();
  return (
    <Modal
      open
      width={420}
      title="Save this view"
      okText="Save view"
      confirmLoading={save.isPending}
      onOk={() => form.submit()}
      onCancel={onClose}
    >
      <Form
        form={form}
        layout="vertical"
        requiredMark={false}
        onFinish={({ name }) =>
          save.mutate(
            { page: pathname, name: name.trim(), query: search.slice(1) },
            {
              onSuccess: () => {
                void message.success("View saved");
                onClose();
              },
            },
          )
        }
      >
        <Form.Item
          name="name"
          label="Name"
          rules={[{ required: true, whitespace: true, message: "Enter a name." }]}
          extra="Keeps filters, order and columns. A view of the same name is replaced."
        >
          <Input autoFocus maxLength={80} />
        </Form.Item>
      </Form>
      {save.isError && <ProblemAlert problem={save.error} />}
    </Modal>
  );
}
