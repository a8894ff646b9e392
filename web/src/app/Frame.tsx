import { useState, type ReactNode } from "react";
import { Modal, Popover } from "antd";
import { NavLink, useLocation, useNavigate } from "react-router";
import { Choose } from "../components/Choose";
import { Field } from "../components/Field";
import { DraftPill } from "../features/draft/components/DraftPill";
import { SeenFrame } from "../features/look/components/SeenFrame";
import { SecondFactor, SignInAgain, useSignOut, type Who } from "../features/session";
import { pathOf, useAccount, useAccounts } from "./account";
import { useLook } from "./look";
import { Search } from "./Search";
import { useShortcuts } from "./useShortcuts";

interface Props {
  who: Who;
  /** Who really looks, in an impersonated view. */
  by: Who | undefined;
  children: ReactNode;
}

/** What stands on every page: the rail, the account one works in, the search, who one is. */
export function Frame({ who, by, children }: Props) {
  const accounts = useAccounts();
  const [help, setHelp] = useState(false);
  useShortcuts("/you", () => setHelp(true));
  const { search, pathname } = useLocation();
  const inPeople = pathname.startsWith("/people") || pathname.startsWith("/groups");
  const own = new URLSearchParams(search).get("who") === who.key;
  return (
    <div className={by ? "frame seen" : "frame"}>
      {by && <SeenFrame who={who} by={by} />}
      <nav className="rail" aria-label="Main">
        <NavLink to="/ask" className="mark-link" aria-label="Mandala">
          <img src="/mark.svg" alt="" width="34" height="34" />
        </NavLink>
        {accounts.data?.people && (
          <>
            <NavLink to="/people" className={inPeople ? "active" : ""}>
              People
            </NavLink>
            <NavLink to="/rights">Rights</NavLink>
            <NavLink to="/places">Places</NavLink>
          </>
        )}
        <NavLink to="/ask" className={({ isActive }) => (isActive && !own ? "active" : "")}>
          Ask
        </NavLink>
        {accounts.data?.people && <NavLink to="/checks">Checks</NavLink>}
        <NavLink to="/trail">Trail</NavLink>
        <span className="rail-room" />
        {accounts.data?.people && <NavLink to="/settings">Settings</NavLink>}
        <NavLink to="/you">You</NavLink>
      </nav>
      <header className="top">
        <AccountPath />
        <Search />
        {accounts.data?.people && !by && <DraftPill />}
        {!by && <Self who={who} onHelp={() => setHelp(true)} />}
      </header>
      <main className="page">{children}</main>
      <SignInAgain who={who} />
      <Modal open={help} onCancel={() => setHelp(false)} footer={null} title="Keyboard" width={420}>
        <dl className="keys">
          <dt>/</dt>
          <dd>search</dd>
          <dt>g p</dt>
          <dd>go to People</dd>
          <dt>g r</dt>
          <dd>go to Rights</dd>
          <dt>g l</dt>
          <dd>go to Places</dd>
          <dt>g c</dt>
          <dd>go to the Checks</dd>
          <dt>g t</dt>
          <dd>go to the Trail</dd>
          <dt>g d</dt>
          <dd>go to your open draft</dd>
          <dt>g a</dt>
          <dd>go to Ask</dd>
          <dt>g y</dt>
          <dd>go to your own access</dd>
          <dt>?</dt>
          <dd>show this</dd>
          <dt>Esc</dt>
          <dd>close what is open</dd>
        </dl>
      </Modal>
    </div>
  );
}

function AccountPath() {
  const accounts = useAccounts();
  const [account, choose] = useAccount();
  const navigate = useNavigate();
  const location = useLocation();
  if (!account) return <span className="account-path" />;
  const all = accounts.data?.accounts ?? [];
  const asked = new URLSearchParams(location.search).get("in") ?? account.key;
  const path = pathOf(all, all.some((it) => it.key === asked) ? asked : account.key);
  function pick(key: string) {
    choose(key);
    const params = new URLSearchParams(location.search);
    if (params.has("in")) {
      params.set("in", key);
      params.delete("area");
      void navigate({ search: params.toString() });
    }
  }
  return (
    <Field
      label="Account to work in"
      className="account-path"
      value={path.map((it, i) => (
        <span key={it.key}>
          {i > 0 && " / "}
          {i === path.length - 1 ? <strong>{it.name}</strong> : it.name}
        </span>
      ))}
      picker={(close) => (
        <Choose
          label="Account to work in"
          value={account.key}
          options={all.map((it) => ({
            value: it.key,
            label: it.name,
            depth: it.depth,
            note: it.suspended ? "suspended" : it.sealed ? "sealed" : undefined,
          }))}
          onChoose={(key) => {
            pick(key);
            close();
          }}
        />
      )}
    />
  );
}

function Self({ who, onHelp }: { who: Who; onHelp: () => void }) {
  const [open, setOpen] = useState(false);
  const signOut = useSignOut();
  const look = useLook();
  return (
    <div className="self">
      {who.enrolled && !who.secondFactor && (
        <Popover
          open={open}
          onOpenChange={setOpen}
          trigger="click"
          arrow={false}
          placement="bottomRight"
          destroyOnHidden
          content={<SecondFactor onDone={() => setOpen(false)} />}
        >
          <button type="button" className="pill">
            Show your second factor
          </button>
        </Popover>
      )}
      <Popover
        trigger="click"
        arrow={false}
        placement="bottomRight"
        content={
          <div className="self-menu">
            <p>
              {who.title ?? who.key}
              <br />
              <small>signed in {who.secondFactor ? "with" : "without"} a second factor</small>
            </p>
            <fieldset>
              <legend>Look</legend>
              {(["light", "dark", "system"] as const).map((choice) => (
                <label key={choice}>
                  <input
                    type="radio"
                    name="look"
                    checked={look.choice === choice}
                    onChange={() => look.choose(choice)}
                  />{" "}
                  {choice === "system" ? "as the system" : choice}
                </label>
              ))}
            </fieldset>
            <button type="button" className="link" onClick={onHelp}>
              Keyboard
            </button>
            <button type="button" className="link" onClick={() => signOut.mutate()}>
              Sign out
            </button>
          </div>
        }
      >
        <button type="button" className="who" aria-label={`${who.name}, you`}>
          {who.name}
        </button>
      </Popover>
    </div>
  );
}
