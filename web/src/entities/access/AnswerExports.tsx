import { Button, Space } from "antd";

/** Downloads of the whole answer. */
export function AnswerExports({ address }: { address: string }) {
  const file = address.includes("?")
    ? `${address.replace("?", "/export?")}&`
    : `${address}/export?`;
  return (
    <Space size="small" wrap style={{ marginBlock: 12 }} className="no-print">
      <span className="note">Export the whole answer:</span>
      <Button size="small" href={`${file}format=csv`} download>
        CSV
      </Button>
      <Button size="small" href={`${file}format=xlsx`} download>
        XLSX
      </Button>
      <Button size="small" href={address} download="answer.json">
        JSON
      </Button>
    </Space>
  );
}
