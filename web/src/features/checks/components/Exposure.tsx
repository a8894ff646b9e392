import { lazy, Suspense } from "react";
import { Link, useNavigate } from "react-router";
import { useAccount } from "@/entities/account/queries";
import { Problem } from "@/shared/api/client";
import { dateOf } from "@/shared/lib/words";
import { DataTable } from "@/shared/ui/DataTable";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { NoAccess } from "@/shared/ui/NoAccess";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { shareOf, STAND_OUT, type ExposedPerson } from "../exposure";
import { useExposedPeople } from "../queries";
import styles from "./Exposure.module.css";

const ExposureScatter = lazy(() => import("./ExposureScatter"));

const pageOfTheirUse = (key: string) => `/people/${encodeURIComponent(key)}?tab=use`;

const placeOf = (it: ExposedPerson) => ({
  key: it.key,
  name: it.name,
  exposure: it.exposure,
  share: Math.round(1000 * shareOf(it)) / 10,
});

/** People by exposure and by how much of it they don't use; those who stand out come first. */
export function Exposure() {
  const [account] = useAccount();
  const exposed = useExposedPeople(account?.key ?? "");
  const go = useNavigate();
  if (exposed.isPending) return <Loading what="the exposure" />;
  if (exposed.isError && exposed.error instanceof Problem && exposed.error.status === 403) {
    return <NoAccess what="exposure">Exposure adds up what people can do, by risk.</NoAccess>;
  }
  if (exposed.isError) {
    return <ProblemAlert problem={exposed.error} onRetry={() => void exposed.refetch()} />;
  }
  const { people, total, countedAt } = exposed.data;
  if (people.length === 0) {
    return (
      <EmptyState>
        {countedAt
          ? "No one here has any exposure. Choose another account at the top."
          : "Exposure is being counted. It appears within a few minutes."}
      </EmptyState>
    );
  }
  const first = people.slice(0, STAND_OUT);
  return (
    <section aria-label="Exposure" className={styles["exposure"]}>
      <div>
        <Suspense fallback={<Loading what="the chart" />}>
          <ExposureScatter
            people={people.map(placeOf)}
            first={first.length}
            onOpen={(key) => void go(pageOfTheirUse(key))}
          />
        </Suspense>
        <p className="note">
          {total > people.length
            ? `The ${people.length} with the most unused exposure, of ${total.toLocaleString("en")}.`
            : `${total.toLocaleString("en")} people and services with exposure.`}{" "}
          Filled: the {first.length} with the most unused exposure.
          {countedAt && ` Counted ${dateOf(countedAt)}.`}
        </p>
      </div>
      <DataTable
        label="Most unused exposure"
        rows={first}
        rowKey={(it) => it.key}
        columns={[
          {
            key: "name",
            title: "Most unused exposure",
            card: "title",
            render: (it) => <Link to={pageOfTheirUse(it.key)}>{it.name}</Link>,
          },
          { key: "account", title: "Account", quiet: true, render: (it) => it.account },
          {
            key: "unused",
            title: "Unused",
            numeric: true,
            render: (it) => it.unused.toLocaleString("en"),
          },
          {
            key: "share",
            title: "Share",
            numeric: true,
            render: (it) => `${Math.round(100 * shareOf(it))} %`,
          },
        ]}
      />
    </section>
  );
}
