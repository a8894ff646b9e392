import { Modal, Typography } from "antd";
import type { Schemas } from "@/shared/api/client";

interface Props {
  made: Schemas["NewToken"];
  onClose: () => void;
}

/** Shows a new token's secret, the only time. */
export function NewTokenModal({ made, onClose }: Props) {
  return (
    <Modal
      open
      closable={false}
      mask={{ closable: false }}
      keyboard={false}
      title={`Copy “${made.token.name}” now`}
      okText="I have copied it"
      cancelButtonProps={{ style: { display: "none" } }}
      onOk={onClose}
    >
      <p>
        It is shown once. Keep it where your program keeps secrets; if it is lost, revoke it and
        make another.
      </p>
      <Typography.Paragraph code copyable={{ text: made.secret }} aria-label="Token">
        {made.secret}
      </Typography.Paragraph>
      <p>A program sends it with each call:</p>
      <Typography.Paragraph code style={{ overflowWrap: "anywhere" }}>
        Authorization: Bearer {made.secret.slice(0, 12)}…
      </Typography.Paragraph>
    </Modal>
  );
}
