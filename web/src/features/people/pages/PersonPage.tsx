import { lazy, Suspense, type ComponentType } from "react";
import { Tabs } from "antd";
import { Link, useParams } from "react-router";
import { questionAbout } from "@/entities/access/model";
import { useExcess } from "@/entities/access/excess";
import { useAccess } from "@/entities/access/queries";
import { usePersonPage } from "@/entities/thing/queries";
import type { Schemas } from "@/shared/api/client";
import { useAddress } from "@/shared/lib/useAddress";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { PersonHead } from "../components/PersonHead";
import { PlannedActs } from "../components/PlannedActs";
import { SignInFacts } from "../components/SignInFacts";

const HeldAccess = lazy(async () => ({
  default: (await import("../components/HeldAccess")).HeldAccess,
}));

const UseOfAccess = lazy(async () => ({
  default: (await import("../components/UseOfAccess")).UseOfAccess,
}));

interface Props {
  /** What one person can do; shown in the first tab. */
  access: ComponentType<{ who: string; home: string; waits: boolean; drafted: boolean }>;
  /** What the trail says of one person. */
  history: ComponentType<{ who: string }>;
}

/** A person or service: the mandala and the facts, then what they can do, hold and did. */
export function PersonPage(props: Props) {
  const { key = "" } = useParams();
  const page = usePersonPage(key);
  if (page.isPending) return <Loading what="the person" rows={10} />;
  if (page.isError) {
    return <ProblemAlert problem={page.error} onRetry={() => void page.refetch()} />;
  }
  return <Whole key={key} page={page.data} {...props} />;
}

function Whole({
  page,
  access: Access,
  history: History,
}: Props & { page: Schemas["PersonPage"] }) {
  const [params, set] = useAddress();
  const key = page.person.key ?? "";
  const home = page.account?.key ?? "";
  const asks = page.cannot.ask === undefined;
  const figure = useAccess(questionAbout(key, { in: home, doors: home !== "", factor: true }), asks)
    .data?.figure;
  const excess = useExcess(
    { principal: key },
    { in: home, doors: home !== "" },
    asks && page.state === "active",
  ).data;
  const counted = (label: string, many: number) => (
    <>
      {label} <small>{many}</small>
    </>
  );
  return (
    <>
      <PersonHead page={page} figure={figure} excess={excess} />
      {page.cannot.edit === undefined && <PlannedActs of={key} />}
      <Tabs
        activeKey={params.get("tab") ?? "access"}
        destroyOnHidden
        onChange={(tab) => set({ tab: tab === "access" ? "" : tab, routes: "", trim: "" })}
        items={[
          {
            key: "access",
            label: "Access",
            children: asks ? (
              <Access
                who={key}
                home={home}
                waits={["invited", "not yet"].includes(page.state)}
                drafted={page.person.mark === "adds"}
              />
            ) : (
              <EmptyState title="You can't ask about their access">{page.cannot.ask}</EmptyState>
            ),
          },
          {
            key: "use",
            label: "Use",
            children: asks ? (
              <Suspense fallback={<Loading what="what they use" rows={8} />}>
                <UseOfAccess page={page} />
              </Suspense>
            ) : (
              <EmptyState title="You can't ask about their access">{page.cannot.ask}</EmptyState>
            ),
          },
          {
            key: "holds",
            label: counted("Groups and assignments", page.groups.length + page.assignments.length),
            children: (
              <Suspense fallback={<Loading what="groups and assignments" rows={6} />}>
                <HeldAccess page={page} />
              </Suspense>
            ),
          },
          {
            key: "reports",
            label: counted("Reports", page.reports.length),
            children: <Reports page={page} />,
          },
          {
            key: "sign-in",
            label: "Sessions and sign-in",
            children: <SignInFacts page={page} />,
          },
          { key: "history", label: "History", children: <History who={key} /> },
        ]}
      />
    </>
  );
}

function Reports({ page }: { page: Schemas["PersonPage"] }) {
  if (page.reports.length === 0) {
    return (
      <EmptyState>
        No one that you can see reports to {page.person.name}. A person's manager is one of their
        details.
      </EmptyState>
    );
  }
  return (
    <ul className="plain-list" aria-label={`Reports to ${page.person.name}`}>
      {page.reports.map((it) => (
        <li key={it.key}>
          <Link to={`/people/${encodeURIComponent(it.key)}`}>{it.name}</Link>
        </li>
      ))}
    </ul>
  );
}
