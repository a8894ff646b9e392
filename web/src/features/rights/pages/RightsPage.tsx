import { lazy, Suspense } from "react";
import { Input } from "antd";
import { useParams } from "react-router";
import { useAccount } from "@/entities/account/queries";
import { specOf, ThingList } from "@/entities/form";
import { useThings } from "@/entities/thing/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { NoAccess } from "@/shared/ui/NoAccess";
import { PageTabs } from "@/shared/ui/PageTabs";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { PermissionTable } from "../components/PermissionTable";
import { RoleTable } from "../components/RoleTable";
import { SetTable } from "../components/SetTable";

// with it comes the form of an assignment, which no other tab needs
const PatternTable = lazy(async () => ({
  default: (await import("../components/PatternTable")).PatternTable,
}));

const Tidy = lazy(() => import("../components/Tidy"));

const TIDY = "tidy";

const PARTS = [
  { key: "roles", kind: "roles", label: "Roles" },
  { key: "sets", kind: "permissionSets", label: "Permission sets" },
  { key: "permissions", kind: "permissions", label: "Permissions" },
  { key: "types", kind: "resourceTypes", label: "Types", list: true },
  { key: "patterns", kind: "patterns", label: "Patterns" },
  { key: "bridges", kind: "bridges", label: "Bridges", list: true },
  { key: "delegations", kind: "delegations", label: "Delegations", list: true },
];

/** Roles, permission sets, permissions, and what else rights are made of. */
export function RightsPage() {
  const { part = "roles" } = useParams();
  const [params, set] = useAddress();
  const text = params.get("text") ?? "";
  const found = PARTS.find((it) => it.key === part);
  const kind = found?.kind ?? "roles";
  const list = found?.list ?? false;
  const [account] = useAccount();
  return (
    <>
      <PageTabs
        label="Rights"
        titled
        active={`/rights/${part}`}
        tabs={[
          ...PARTS.map((it) => ({ to: `/rights/${it.key}`, label: it.label })),
          { to: `/rights/${TIDY}`, label: "Tidy" },
        ]}
        extra={
          part !== TIDY && (
            <Input
              allowClear
              variant="underlined"
              aria-label="Part of the name"
              placeholder="Filter by name"
              value={text}
              onChange={(event) => set({ text: event.target.value }, { replace: true })}
            />
          )
        }
      />
      {part === TIDY ? (
        <Suspense fallback={<Loading what="proposals" />}>
          <Tidy />
        </Suspense>
      ) : list ? (
        <ThingList
          key={kind}
          kind={kind}
          text={text}
          given={kind === "delegations" || !account ? {} : { account: account.key }}
        />
      ) : (
        <Part key={kind} part={part} kind={kind} text={text} />
      )}
    </>
  );
}

function Part({ part, kind, text }: { part: string; kind: string; text: string }) {
  const things = useThings(kind, { text, limit: 1000 });
  if (things.isPending) return <Loading what="rights" />;
  if (things.isError) {
    return <ProblemAlert problem={things.error} onRetry={() => void things.refetch()} />;
  }
  if (things.data.total === 0) {
    const { many, about } = specOf(kind);
    return text ? (
      <EmptyState>No matches. Change or clear the filter.</EmptyState>
    ) : (
      <NoAccess what={many.toLowerCase()}>{about}</NoAccess>
    );
  }
  if (part === "sets") return <SetTable sets={things.data.things} />;
  if (part === "patterns") {
    return (
      <Suspense fallback={<Loading what="patterns" />}>
        <PatternTable patterns={things.data.things} />
      </Suspense>
    );
  }
  if (part === "permissions") return <PermissionTable permissions={things.data.things} />;
  return <RoleTable roles={things.data.things} />;
}
