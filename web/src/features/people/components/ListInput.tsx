import { Button, Input, Upload } from "antd";
import { LinkButton } from "@/shared/ui/LinkButton";

interface Props {
  label: string;
  placeholder: string;
  list: string;
  onChange: (list: string) => void;
}

/** A list that is pasted or chosen as a file. */
export function ListInput({ label, placeholder, list, onChange }: Props) {
  return (
    <>
      <Input.TextArea
        aria-label={label}
        value={list}
        autoSize={{ minRows: 5, maxRows: 12 }}
        placeholder={placeholder}
        onChange={(event) => onChange(event.target.value)}
      />
      <div className="acts">
        <Upload
          accept=".csv,.tsv,.txt,text/csv"
          showUploadList={false}
          beforeUpload={(file) => {
            void file.text().then(onChange);
            return false;
          }}
        >
          <Button size="small">Choose a file</Button>
        </Upload>
        {list !== "" && <LinkButton onClick={() => onChange("")}>Clear</LinkButton>}
      </div>
    </>
  );
}
