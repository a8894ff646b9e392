import { useState } from "react";
import { Button, Popconfirm, Table } from "antd";
import { useAccountNames, useMay } from "@/entities/account/queries";
import type { Schemas } from "@/shared/api/client";
import { dateOf, dayOf, listed } from "@/shared/lib/words";
import { LinkButton } from "@/shared/ui/LinkButton";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useRevokeToken, useTokens } from "../queries";
import { purposeOf, STATE, type Token } from "../tokens";
import { NewTokenModal } from "./NewTokenModal";
import { TokenForm } from "./TokenForm";
import styles from "../pages/SettingsPage.module.css";

/** Tokens with which programs read: made here, shown once, revoked. */
export function TokenList() {
  const manages = useMay("mandala.settings.manage");
  const tokens = useTokens(manages);
  const revoke = useRevokeToken();
  const nameOf = useAccountNames();
  const [making, setMaking] = useState(false);
  const [made, setMade] = useState<Schemas["NewToken"]>();
  if (!manages) return null;
  const makeable = tokens.data?.accounts ?? [];
  return (
    <>
      <h1 className={styles["title"]}>Tokens</h1>
      <section className={styles["wide"]} aria-label="Tokens">
        <p>
          A program reads with a token what the person or service whose rights it has may read, in
          the accounts you choose, or reports use. A token can change nothing else.
        </p>
        {tokens.isError && (
          <ProblemAlert problem={tokens.error} onRetry={() => void tokens.refetch()} />
        )}
        {revoke.isError && <ProblemAlert problem={revoke.error} />}
        <Button
          style={{ marginBottom: 12 }}
          disabled={makeable.length === 0}
          onClick={() => setMaking(true)}
        >
          New token
        </Button>
        <Table<Token>
          size="small"
          rowKey="id"
          loading={tokens.isPending}
          dataSource={tokens.data?.tokens ?? []}
          pagination={{ pageSize: 10, hideOnSinglePage: true }}
          locale={{
            emptyText: "No tokens yet. Make one for each program that reads from Mandala.",
          }}
          columns={[
            {
              title: "Name",
              render: (_, it) => (
                <>
                  {it.name}
                  <p className="note">{it.principalName ?? "someone you can't see"}</p>
                </>
              ),
            },
            {
              title: "For",
              render: (_, it) => (
                <>
                  {listed(it.purposes.map(purposeOf))}
                  <p className="note">
                    {listed([...it.accounts.map(nameOf), ...(it.more ? ["others"] : [])])}
                  </p>
                </>
              ),
            },
            {
              title: "Made",
              render: (_, it) => (
                <>
                  {dayOf(it.made)}
                  {it.madeByName && <p className="note">by {it.madeByName}</p>}
                </>
              ),
            },
            {
              title: "Last used",
              render: (_, it) =>
                it.used ? (
                  <>
                    {dateOf(it.used)}
                    {it.from && <p className="note">from {it.from}</p>}
                  </>
                ) : (
                  "never yet"
                ),
            },
            {
              title: "State",
              render: (_, it) => (
                <>
                  {STATE[it.state]}
                  {it.state === "active" && <p className="note">until {dayOf(it.ends)}</p>}
                </>
              ),
            },
            {
              title: "Actions",
              align: "end",
              render: (_, it) =>
                (it.state === "active" || it.state === "resting") && (
                  <Popconfirm
                    title={`Revoke “${it.name}”?`}
                    description="Programs that use it stop at once. It can't be undone."
                    okText="Revoke"
                    cancelText="Keep it"
                    onConfirm={() => revoke.mutate(it.id)}
                  >
                    <LinkButton aria-label={`Revoke ${it.name}`}>Revoke</LinkButton>
                  </Popconfirm>
                ),
            },
          ]}
        />
        {making && (
          <TokenForm
            makeable={makeable}
            onClose={() => setMaking(false)}
            onMade={(token) => {
              setMaking(false);
              setMade(token);
            }}
          />
        )}
        {made && <NewTokenModal made={made} onClose={() => setMade(undefined)} />}
      </section>
    </>
  );
}
