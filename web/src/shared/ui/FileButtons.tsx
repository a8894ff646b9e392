import { Button } from "antd";

interface Props {
  /** Where the file is, without its format. */
  address: string;
  /** What the list is narrowed to. */
  query?: Record<string, string | undefined>;
}

/** Saves a whole list as a file, also what is not loaded. */
export function FileButtons({ address, query = {} }: Props) {
  const to = (format: string) => {
    const all = new URLSearchParams({ format });
    for (const [name, value] of Object.entries(query)) if (value) all.set(name, value);
    return `${address}?${all.toString()}`;
  };
  return (
    <>
      <Button type="text" size="small" href={to("csv")} download>
        Export as CSV
      </Button>
      <Button type="text" size="small" href={to("xlsx")} download>
        XLSX
      </Button>
    </>
  );
}
