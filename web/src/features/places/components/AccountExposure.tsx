import { lazy, Suspense, useState } from "react";
import { Table } from "antd";
import { useAccountExposure } from "@/entities/account/queries";
import { percent } from "@/entities/access/excess";
import { dayOf } from "@/shared/lib/words";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import type { ExposureDay } from "../figures";

const ExposureLines = lazy(() => import("./ExposureLines"));

const number = (it: number) => it.toLocaleString("en");

/** How exposed those at home in an account were over time: as lines, and as numbers. */
export function AccountExposure({ account }: { account: string }) {
  const exposure = useAccountExposure(account);
  const [numbers, setNumbers] = useState(false);
  if (exposure.isPending) return <Loading what="the exposure" rows={2} />;
  if (exposure.isError) {
    return <ProblemAlert problem={exposure.error} onRetry={() => void exposure.refetch()} />;
  }
  const { days } = exposure.data;
  const last = days.at(-1);
  if (!last) return null;
  const counted = days.find((it) => it.unused !== undefined);
  return (
    <>
      <h2 className="part">Exposure over time</h2>
      <Suspense fallback={<Loading what="the chart" rows={3} />}>
        <ExposureLines days={days} />
      </Suspense>
      <p className="note">
        {counted && "Solid: exposure. Dashed: the part of it that is not used. "}
        Exposure adds up what its people and services can do, by risk: now {number(last.exposure)}
        {last.unused !== undefined &&
          `, of which ${number(last.unused)} (${percent(last.unused, last.exposure)}) is not used`}
        .{counted && ` Use is counted since ${dayOf(counted.day)}.`}{" "}
        <LinkButton onClick={() => setNumbers(!numbers)}>
          {numbers ? "Hide numbers" : "Show numbers"}
        </LinkButton>
      </p>
      {numbers && (
        <Table<ExposureDay>
          size="small"
          rowKey="day"
          dataSource={[...days].reverse()}
          pagination={{ pageSize: 10, hideOnSinglePage: true }}
          columns={[
            { title: "Since", render: (_, it) => dayOf(it.day) },
            { title: "Exposure", align: "end", render: (_, it) => number(it.exposure) },
            {
              title: "Not used",
              align: "end",
              render: (_, it) => (it.unused === undefined ? "—" : number(it.unused)),
            },
            {
              title: "Share not used",
              align: "end",
              render: (_, it) => (it.unused === undefined ? "—" : percent(it.unused, it.exposure)),
            },
          ]}
        />
      )}
    </>
  );
}
