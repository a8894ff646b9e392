import type { Schemas } from "@/shared/api/client";
import { ago, dateOf } from "@/shared/lib/words";
import { DataTable } from "@/shared/ui/DataTable";
import { EmptyState } from "@/shared/ui/EmptyState";
import { SignInHelp } from "./SignInHelp";

/** How somebody signs in, and where they are signed in now. */
export function SignInFacts({ page }: { page: Schemas["PersonPage"] }) {
  const { signIn } = page;
  const seen = page.lastSeen;
  if (!signIn) {
    return (
      <EmptyState title="You can't see how they sign in">
        {page.cannot.edit} Last seen: {ago(seen, new Date())}.
      </EmptyState>
    );
  }
  return (
    <section aria-label="Sessions and sign-in">
      <p>
        {signIn.password
          ? "Signs in with a password"
          : "Has no password here, so they can't sign in yet"}
        {signIn.password &&
          (signIn.secondFactor ? " and a second factor" : ", without a second factor")}
        . {seen ? `Last seen ${dateOf(seen)}.` : "Never seen."}
      </p>
      <SignInHelp page={page} />
      <h2 className="part">Open sessions</h2>
      {signIn.sessions.length === 0 ? (
        <p className="note">Not signed in now.</p>
      ) : (
        <DataTable
          label="Open sessions"
          rows={signIn.sessions}
          rowKey={(it) => it.since + it.lastUsed}
          columns={[
            { key: "since", title: "Signed in", card: "title", render: (it) => dateOf(it.since) },
            { key: "used", title: "Last used", render: (it) => dateOf(it.lastUsed) },
          ]}
        />
      )}
    </section>
  );
}
