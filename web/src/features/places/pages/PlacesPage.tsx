import { useState } from "react";
import { Button } from "antd";
import { useSearchParams } from "react-router";
import { useAccount } from "../../../app/account";
import { DraftMark } from "../../../components/DraftMark";
import { Field } from "../../../components/Field";
import { ProblemNote } from "../../../components/ProblemNote";
import { ThingPicker } from "../../../components/ThingPicker";
import { Waiting } from "../../../components/Waiting";
import type { Schemas } from "../../../api/client";
import { count } from "../../../lib/words";
import { Composer } from "../../assign/components/Composer";
import { useEdit } from "../../draft/queries";
import { ThingForm } from "../../model";
import { Matrix } from "../components/Matrix";
import { PlacePicker } from "../components/PlacePicker";
import { PlaceTree } from "../components/PlaceTree";
import { usePlace } from "../queries";

/** The resource tree, and for the chosen place who may do what there. */
export function PlacesPage() {
  const [account] = useAccount();
  const [params, setParams] = useSearchParams();
  const root = account ? `account:${account.key}` : "";
  const at = params.get("at") ?? root;
  const page = usePlace(at);
  if (!account) return <Waiting what="the places" />;
  if (!account.readable) {
    return (
      <div className="empty">
        <h1>Your access does not cover the places of {account.name}</h1>
        <p>Choose another account above, or ask a security administrator for more.</p>
      </div>
    );
  }
  const path = page.data?.path.map((it) => it.key) ?? [];
  return (
    <div className="places">
      <div className="tree-side">
        <Field
          label="Find a place"
          className="link"
          value="find a place"
          picker={(close) => (
            <PlacePicker
              label="Find a place"
              onChoose={(key) => {
                setParams({ at: key });
                close();
              }}
            />
          )}
        />
        {page.data && (
          <PlaceTree
            key={root + (params.has("at") && !path.includes(root) ? at : "")}
            root={root}
            path={[...path, root]}
            chosen={at}
            onChoose={(key) => setParams({ at: key })}
          />
        )}
      </div>
      <section aria-label="Place" className={page.isPlaceholderData ? "stale" : undefined}>
        {page.isError ? (
          <ProblemNote problem={page.error} onRetry={() => void page.refetch()} />
        ) : page.data ? (
          <Place
            key={page.data.place.key}
            page={page.data}
            onGo={(key) => setParams({ at: key })}
          />
        ) : (
          <Waiting what="the place" />
        )}
      </section>
    </div>
  );
}

function Place({ page, onGo }: { page: Schemas["PlacePage"]; onGo: (key: string) => void }) {
  const { place, thing } = page;
  const edit = useEdit();
  const [assigning, setAssigning] = useState(false);
  const [form, setForm] = useState<"change" | "new">();
  const listed = thing?.kind === "resources";
  const key = thing?.key ?? "";
  const set = (fields: Record<string, unknown>) =>
    thing && edit.mutate([{ kind: thing.kind, key, set: fields }]);
  const sealable = listed || thing?.kind === "accounts";
  const labels = Object.entries(place.labels);
  return (
    <>
      <header className="page-head">
        <p className="note">
          {page.path.map((it) => (
            <span key={it.key}>
              <button type="button" className="link" onClick={() => onGo(it.key)}>
                {it.name}
              </button>{" "}
              /{" "}
            </span>
          ))}
        </p>
        <h1>
          {listed ? (
            <input
              key={place.name}
              className="field-input name"
              aria-label="Name of the place"
              defaultValue={place.name}
              maxLength={200}
              onBlur={(event) =>
                event.target.value.trim() !== "" &&
                event.target.value !== place.name &&
                set({ name: event.target.value.trim() })
              }
              onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
            />
          ) : (
            place.name
          )}{" "}
          <DraftMark mark={thing?.mark} />
        </h1>
        <p className="note">
          {[
            place.typeName,
            count(place.children, "place") + " directly below",
            place.sealedBy && `behind the seal of ${place.sealedBy}`,
          ]
            .filter(Boolean)
            .join(" · ")}
        </p>
        <p className="acts facts">
          {listed && (
            <>
              <span>
                owner{" "}
                <Field
                  label="Owner"
                  className="link"
                  value={place.ownerName ?? "nobody"}
                  picker={(close) => (
                    <ThingPicker
                      kind="principals"
                      label="Owner"
                      onChoose={(owner) => {
                        set({ owner });
                        close();
                      }}
                    />
                  )}
                />
              </span>
              <span>
                unit{" "}
                <Field
                  label="Unit"
                  className="link"
                  value={place.unitName ?? "none"}
                  picker={(close) => (
                    <ThingPicker
                      kind="units"
                      label="Unit"
                      onChoose={(unit) => {
                        set({ unit });
                        close();
                      }}
                    />
                  )}
                />
              </span>
              <span>
                labels{" "}
                <Field
                  label="Labels"
                  className="link"
                  value={
                    labels.length === 0 ? "none" : labels.map(([n, v]) => `${n} ${v}`).join(", ")
                  }
                  picker={(close) => (
                    <LabelForm
                      labels={labels}
                      onPut={(next) => {
                        set({ labels: Object.keys(next).length > 0 ? next : null });
                        close();
                      }}
                    />
                  )}
                />
              </span>
            </>
          )}
        </p>
        <p className="acts facts">
          <span>
            in collections{" "}
            {page.collections.map((it) => (
              <span key={it.key}>
                {it.name}{" "}
                <button
                  type="button"
                  className="link"
                  aria-label={`Take it out of ${it.name}`}
                  onClick={() =>
                    edit.mutate([
                      { kind: "collections", key: it.key, drop: { members: [place.key] } },
                    ])
                  }
                >
                  take out
                </button>{" "}
              </span>
            ))}
            <Field
              label="Put into a collection"
              className="link"
              value={page.collections.length === 0 ? "none; put into one" : "put into another"}
              picker={(close) => (
                <ThingPicker
                  kind="collections"
                  label="Collection"
                  without={page.collections.map((it) => it.key)}
                  onChoose={(it) => {
                    edit.mutate([{ kind: "collections", key: it, add: { members: [place.key] } }]);
                    close();
                  }}
                />
              )}
            />{" "}
            <Field
              label="A new collection with it"
              className="link"
              value="a new one"
              picker={(close) => (
                <NameForm
                  onName={(name) => {
                    const after = { name, account: place.account, members: [place.key] };
                    edit.mutate([{ kind: "collections", after }]);
                    close();
                  }}
                />
              )}
            />
          </span>
        </p>
        <p className="acts">
          <Button size="small" type="primary" onClick={() => setAssigning(true)}>
            Assign here
          </Button>
          {sealable && (
            <Button size="small" onClick={() => set({ sealed: place.sealed ? null : true })}>
              {place.sealed ? "Break the seal" : "Seal"}
            </Button>
          )}
          {thing?.kind === "accounts" && (
            <>
              <Button size="small" onClick={() => setForm("change")}>
                Change the account
              </Button>
              <Button size="small" onClick={() => setForm("new")}>
                New account below
              </Button>
            </>
          )}
          {thing && form && (
            <ThingForm
              kind="accounts"
              {...(form === "change" ? { existing: thing } : { given: { parent: key } })}
              onClose={() => setForm(undefined)}
            />
          )}
          {thing?.kind === "accounts" && (
            <Field
              label="A new place below"
              className="link"
              value="new place below"
              picker={(close) => (
                <NewPlace
                  onMake={(type, name) => {
                    const after = { name, type, account: place.account };
                    edit.mutate([{ kind: "resources", after }]);
                    close();
                  }}
                />
              )}
            />
          )}
          {(thing?.kind === "accounts" || thing?.kind === "units") && (
            <Field
              label="A new unit below"
              className="link"
              value="new unit below"
              picker={(close) => (
                <NameForm
                  onName={(name) => {
                    const parent = thing.kind === "units" ? { parent: key } : {};
                    const after = { name, account: place.account, ...parent };
                    edit.mutate([{ kind: "units", after }]);
                    close();
                  }}
                />
              )}
            />
          )}
          {listed && (
            <>
              <Field
                label="Move below"
                className="link"
                value="move"
                picker={(close) => (
                  <PlacePicker
                    label="Move below"
                    onChoose={(parent) => {
                      set({ parent: parent.startsWith("account:") ? null : parent });
                      close();
                    }}
                  />
                )}
              />
              <Field
                label="A new place below"
                className="link"
                value="new place below"
                picker={(close) => (
                  <NewPlace
                    onMake={(type, name) => {
                      edit.mutate([
                        {
                          kind: "resources",
                          after: { name, type, account: place.account, parent: place.key },
                        },
                      ]);
                      close();
                    }}
                  />
                )}
              />
              <Field
                label="Merge into"
                className="link"
                value="merge into"
                picker={(close) => (
                  <PlacePicker
                    label="Merge into"
                    onChoose={(mergeInto) => {
                      edit.mutate([{ kind: "resources", key, mergeInto }], {
                        onSuccess: () => onGo(mergeInto),
                      });
                      close();
                    }}
                  />
                )}
              />
              <button
                type="button"
                className="link"
                onClick={() => edit.mutate([{ kind: "resources", key, remove: true }])}
              >
                remove
              </button>
            </>
          )}
        </p>
        {edit.isError && <ProblemNote problem={edit.error} />}
      </header>
      <h2 className="part">Access matrix</h2>
      <Matrix place={place} />
      {assigning && (
        <Composer open scope={[{ tree: place.key }]} onClose={() => setAssigning(false)} />
      )}
    </>
  );
}

interface LabelProps {
  labels: [string, string][];
  onPut: (labels: Record<string, string>) => void;
}

function LabelForm({ labels, onPut }: LabelProps) {
  const [text, setText] = useState(labels.map(([name, it]) => `${name}=${it}`).join("\n"));
  return (
    <form
      className="label-form"
      onSubmit={(event) => {
        event.preventDefault();
        onPut(
          Object.fromEntries(
            text
              .split("\n")
              .map((line) => line.split("=").map((it) => it.trim()))
              .flatMap(([name, it]) => (name && it ? [[name, it]] : [])),
          ) as Record<string, string>,
        );
      }}
    >
      <label>
        one a line, as in floor=2
        <textarea
          className="plain-input"
          rows={4}
          autoFocus
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <button type="submit" className="link">
        into the draft
      </button>
    </form>
  );
}

function NewPlace({ onMake }: { onMake: (type: string, name: string) => void }) {
  const [type, setType] = useState("");
  if (!type) return <ThingPicker kind="resourceTypes" label="Of which type" onChoose={setType} />;
  return <NameForm onName={(name) => onMake(type, name)} />;
}

function NameForm({ onName }: { onName: (name: string) => void }) {
  const [name, setName] = useState("");
  return (
    <form
      className="label-form"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) onName(name.trim());
      }}
    >
      <label>
        its name
        <input
          className="plain-input"
          autoFocus
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <button type="submit" className="link">
        into the draft
      </button>
    </form>
  );
}
