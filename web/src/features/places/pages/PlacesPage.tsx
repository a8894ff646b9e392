import type { Schemas } from "@/shared/api/client";
import { useAccount } from "@/entities/account/queries";
import { DraftMark } from "@/entities/draft/DraftMark";
import { useEdit } from "@/entities/draft/queries";
import { PlaceField } from "@/entities/place/PlaceField";
import { usePlace } from "@/entities/place/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { count } from "@/shared/lib/words";
import { EditableTitle } from "@/shared/ui/EditableTitle";
import { Loading } from "@/shared/ui/Loading";
import { NoAccess } from "@/shared/ui/NoAccess";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Term } from "@/shared/ui/Term";
import { AccountExposure } from "../components/AccountExposure";
import { AccountFigures } from "../components/AccountFigures";
import { AccountPeople } from "../components/AccountPeople";
import { Matrix } from "../components/Matrix";
import { PlaceActions } from "../components/PlaceActions";
import { PlaceFacts } from "../components/PlaceFacts";
import { PlaceTree } from "../components/PlaceTree";
import { isSuspended } from "../model";
import styles from "./PlacesPage.module.css";

const ACCOUNT = "account:";

/** The resource tree, and who can do what on the chosen place. */
export function PlacesPage() {
  const [account] = useAccount();
  const [params, set] = useAddress();
  const root = account ? `account:${account.key}` : "";
  const at = params.get("at") ?? root;
  const page = usePlace(at);
  const go = (key: string) => set({ at: key });
  if (!account) return <Loading what="places" />;
  if (!account.readable) {
    return (
      <NoAccess what={`the places of ${account.name}`}>
        A place is what access is granted on, such as a room or a ledger.
      </NoAccess>
    );
  }
  const path = page.data?.path.map((it) => it.key) ?? [];
  const inside = path.includes(root) || at === root;
  return (
    <div className={styles["places"]}>
      <div className={styles["side"]}>
        <PlaceField
          label="Places"
          look="button"
          value="Find a place"
          search="Find a place"
          onChoose={(key) => go(key)}
        />
        {page.data && (
          <PlaceTree
            key={root + (inside ? "" : at)}
            root={root}
            path={[...path, root]}
            chosen={at}
            onChoose={go}
          />
        )}
      </div>
      <section aria-label="Place" className={page.isPlaceholderData ? "stale" : undefined}>
        {page.isError ? (
          <ProblemAlert problem={page.error} onRetry={() => void page.refetch()} />
        ) : page.data ? (
          <Place key={page.data.place.key} page={page.data} onGo={go} />
        ) : (
          <Loading what="the place" />
        )}
      </section>
    </div>
  );
}

function Place({ page, onGo }: { page: Schemas["PlacePage"]; onGo: (key: string) => void }) {
  const { place, thing } = page;
  const edit = useEdit();
  const listed = thing?.kind === "resources";
  const editable = listed && !thing.cannot;
  const set = (fields: Record<string, unknown>) =>
    thing && edit.mutate([{ kind: thing.kind, key: thing.key ?? "", set: fields }]);
  return (
    <>
      <PageHead
        path={page.path.map((it) => ({
          name: it.name,
          to: `/places?at=${encodeURIComponent(it.key)}`,
        }))}
        title={
          <>
            {editable ? (
              <EditableTitle
                key={place.name}
                label="Name of the place"
                name={place.name}
                onName={(name) => set({ name })}
              />
            ) : (
              place.name
            )}{" "}
            <DraftMark mark={thing?.mark} />
          </>
        }
        facts={[
          place.typeName,
          isSuspended(thing) && "suspended: people at home here or below have no access",
          `${count(place.children, "place")} directly below`,
          place.sealedBy && (
            <>
              behind the <Term word="seal" /> of {place.sealedBy}
            </>
          ),
        ]}
        actions={
          <PlaceActions
            page={page}
            onSet={set}
            onGo={onGo}
            onEdit={(it, then) => edit.mutate([it], { onSuccess: () => then && onGo(then) })}
          />
        }
      >
        <PlaceFacts
          page={page}
          listed={listed}
          editable={editable}
          onSet={set}
          onEdit={(it) => edit.mutate([it])}
        />
        {edit.isError && <ProblemAlert problem={edit.error} />}
      </PageHead>
      {place.key.startsWith(ACCOUNT) && (
        <>
          <AccountPeople account={place.key.slice(ACCOUNT.length)} name={place.name} />
          <h2 className="part">The last month</h2>
          <AccountFigures account={place.key.slice(ACCOUNT.length)} />
          <AccountExposure account={place.key.slice(ACCOUNT.length)} />
        </>
      )}
      <h2 className="part">Access matrix</h2>
      <Matrix place={place} />
    </>
  );
}
