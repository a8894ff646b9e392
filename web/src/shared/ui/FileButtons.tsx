import { Button } from "antd";

/** Saves a whole list as a file, also what is not loaded; takes where each format is. */
export function FileButtons({ of }: { of: (format: "csv" | "xlsx") => string }) {
  return (
    <>
      <Button type="text" size="small" href={of("csv")} download>
        Export as CSV
      </Button>
      <Button type="text" size="small" href={of("xlsx")} download>
        XLSX
      </Button>
    </>
  );
}
