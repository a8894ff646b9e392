import { useState } from "react";
import { Alert, Button, Input, Popconfirm, Space } from "antd";
import { useNavigate, useParams } from "react-router";
import { useAccount, useAccounts } from "@/entities/account/queries";
import { whenDone } from "@/shared/lib/whenDone";
import { Loading } from "@/shared/ui/Loading";
import { NoAccess } from "@/shared/ui/NoAccess";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { GiveList } from "../components/GiveList";
import { PersonnelSentence } from "../components/PersonnelSentence";
import { PersonnelTakenList } from "../components/PersonnelTaken";
import {
  newPersonnelList,
  useEndPersonnelList,
  useKeepPersonnelList,
  useLookForFile,
  usePersonnelLists,
  withFile,
  type PersonnelOrder,
  type PersonnelSource,
} from "../personnel";

/** Sets up a personnel list, shows what one does, and what was taken. */
export function PersonnelPage() {
  const number = useParams()["list"] ?? "new";
  const lists = usePersonnelLists();
  const accounts = useAccounts();
  const [account] = useAccount();
  if (lists.isPending || accounts.isPending) return <Loading what="the personnel list" />;
  if (lists.isError) {
    return <ProblemAlert problem={lists.error} onRetry={() => void lists.refetch()} />;
  }
  const kept = lists.data.lists.find((it) => String(it.number) === number);
  const managed = (accounts.data?.accounts ?? []).filter((it) =>
    it.may.includes("mandala.people.manage"),
  );
  const home = managed.find((it) => it.key === account?.key) ?? managed[0];
  if (!home || (number !== "new" && kept === undefined)) {
    return (
      <NoAccess what={number === "new" ? "new personnel lists" : "this personnel list"}>
        Whoever may manage the people of an account sets up its lists. One that has ended is not
        shown.
      </NoAccess>
    );
  }
  return <PersonnelSheet kept={kept} account={home.key} />;
}

function PersonnelSheet({ kept, account }: { kept: PersonnelSource | undefined; account: string }) {
  const navigate = useNavigate();
  const [order, setOrder] = useState<PersonnelOrder>(
    () => kept?.order ?? newPersonnelList(account),
  );
  const keep = useKeepPersonnelList(kept?.number);
  const end = useEndPersonnelList();
  const look = useLookForFile();
  const title = kept ? kept.order.title : "New personnel list";
  const back = () => void navigate("/personnel");
  const change = (some: Partial<PersonnelOrder>) => setOrder((before) => ({ ...before, ...some }));
  return (
    <>
      <PageHead
        path={[
          { name: "People", to: "/people" },
          { name: "Personnel lists", to: "/personnel" },
          { name: title },
        ]}
        title={title}
        facts={
          kept
            ? [
                kept.folder && `looked for in ${kept.folder} every ten minutes`,
                kept.folder && `with the rights of ${kept.ownerName}`,
              ]
            : []
        }
        actions={
          kept && (
            <Space>
              {kept.folder !== undefined && (
                <Button loading={look.isPending} onClick={() => look.mutate(kept.number)}>
                  Look for a new file
                </Button>
              )}
              <Popconfirm
                placement="bottomLeft"
                title="End this list?"
                description="Whom it brought in stay as they are."
                okText="End list"
                cancelText="Back"
                onConfirm={() => whenDone(end.mutateAsync(kept.number), back)}
              >
                <Button loading={end.isPending}>End list</Button>
              </Popconfirm>
            </Space>
          )
        }
      />
      {kept && !kept.ownerIsActive && (
        <Alert
          type="warning"
          showIcon
          title={`${kept.ownerName} is not active, so no file is taken. Save the list to own it.`}
          style={{ marginBottom: 12 }}
        />
      )}
      <Input
        aria-label="Title"
        value={order.title}
        maxLength={100}
        style={{ maxWidth: 420, marginBottom: 12 }}
        onChange={(event) => change({ title: event.target.value })}
      />
      <PersonnelSentence
        order={order}
        onChange={change}
        onFile={(file) => setOrder((before) => withFile(before, file))}
      />
      <Space>
        <Button
          type="primary"
          disabled={order.title.trim() === ""}
          loading={keep.isPending}
          onClick={() =>
            void whenDone(keep.mutateAsync(order), (made) => {
              void navigate(`/personnel/${made.number}`);
            })
          }
        >
          Save list
        </Button>
        <Button onClick={back}>Cancel</Button>
      </Space>
      {[keep, end, look].map((it, i) => it.isError && <ProblemAlert key={i} problem={it.error} />)}
      <GiveList
        order={order}
        onColumns={(columns) => change({ columns })}
        onKeep={keep.mutateAsync}
      />
      {kept && <PersonnelTakenList source={kept} />}
    </>
  );
}
