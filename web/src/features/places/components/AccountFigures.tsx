import { lazy, Suspense, useState } from "react";
import { Table } from "antd";
import { Link } from "react-router";
import { pageOfUse } from "@/entities/access/excess";
import { useAsks, useFigures } from "@/entities/account/queries";
import { dayOf } from "@/shared/lib/words";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { change, FIGURES, series, type Day } from "../figures";
import styles from "./AccountFigures.module.css";

const LineFigure = lazy(() => import("@/shared/ui/LineFigure"));

/** What an account had on each day of the last month: as lines, and as numbers. */
export function AccountFigures({ account }: { account: string }) {
  const figures = useFigures(account);
  const [numbers, setNumbers] = useState(false);
  const asks = useAsks();
  if (figures.isPending) return <Loading what="the last month" rows={2} />;
  if (figures.isError) {
    return <ProblemAlert problem={figures.error} onRetry={() => void figures.refetch()} />;
  }
  const days = figures.data.days;
  const told = FIGURES.filter((it) => series(days, it.figure).length > 0);
  if (told.length === 0) {
    return (
      <p className="note">
        {days.length === 0
          ? "Nothing is counted yet. People, guests, services and findings are counted every hour."
          : "Only people who can read the whole account can see its figures."}
      </p>
    );
  }
  return (
    <>
      <dl className={styles["figures"]} aria-label="The last month">
        {told.map(({ figure, label, counts }) => {
          const values = series(days, figure);
          return (
            <div key={figure}>
              <dt title={counts}>{label}</dt>
              <dd>
                <span className={styles["now"]}>{values.at(-1)?.value.toLocaleString("en")}</span>{" "}
                <span className="note">{change(values)}</span>
                <Suspense fallback={<div className={styles["line"]} />}>
                  <LineFigure label={label} days={values} />
                </Suspense>
              </dd>
            </div>
          );
        })}
      </dl>
      <p className="note">
        {asks && (
          <>
            <Link to={pageOfUse(`account:${account}`)}>What its people use</Link> ·{" "}
          </>
        )}
        Since {dayOf(days.at(0)?.day ?? "")}.{" "}
        <LinkButton onClick={() => setNumbers(!numbers)}>
          {numbers ? "Hide numbers" : "Show numbers"}
        </LinkButton>
      </p>
      {numbers && (
        <Table<Day>
          size="small"
          rowKey="day"
          dataSource={[...days].reverse()}
          pagination={{ pageSize: 10, hideOnSinglePage: true }}
          columns={[
            { title: "Day", render: (_, it) => dayOf(it.day) },
            ...told.map(({ figure, label }) => ({
              title: label,
              dataIndex: figure,
              align: "end" as const,
            })),
          ]}
        />
      )}
    </>
  );
}
