import type { ReactNode } from "react";
import { Alert, Descriptions } from "antd";
import { Link, useNavigate } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { useMay } from "@/entities/account/queries";
import { NamePicker } from "@/entities/thing/NamePicker";
import { whenDone } from "@/shared/lib/whenDone";
import { count, dateOf } from "@/shared/lib/words";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { seatsInWords, useAccountSummary, useHandOver } from "../summary";
import { AccountFields } from "./AccountFields";

type Summary = Schemas["AccountSummary"];

const person = (it: { key: string; name: string }) => (
  <Link to={`/people/${encodeURIComponent(it.key)}`}>{it.name}</Link>
);

function listed(all: ReactNode[]): ReactNode {
  return (
    <span>
      {all.filter(Boolean).map((it, at) => (
        <span key={at}>
          {at > 0 && " · "}
          {it}
        </span>
      ))}
    </span>
  );
}

/** Who belongs to an account: people, guests, invitations, services, seats of roles, owners. */
export function AccountPeople({ account, name }: { account: string; name: string }) {
  const summary = useAccountSummary(account);
  if (summary.isPending) return <Loading what="who belongs to it" rows={2} />;
  if (summary.isError) {
    return <ProblemAlert problem={summary.error} onRetry={() => void summary.refetch()} />;
  }
  return <People account={account} name={name} of={summary.data} />;
}

function People({ account, name, of }: { account: string; name: string; of: Summary }) {
  const people = (filter: string, text: string) => (
    <Link to={`/people?in=${encodeURIComponent(account)}${filter}`}>{text}</Link>
  );
  const invitations = [
    ...of.invited.map((it) => (
      <>
        {person(it)}
        {it.since !== undefined && ` since ${dateOf(it.since)}`}
      </>
    )),
    of.waiting > of.invited.length &&
      people("&state=invited", `all ${of.waiting.toLocaleString("en")}`),
  ];
  const items = [
    {
      key: "people",
      label: "People",
      children: listed([
        people("&state=active&kind=person", `${of.active.toLocaleString("en")} active`),
        of.suspended > 0 &&
          people("&state=suspended", `${of.suspended.toLocaleString("en")} suspended`),
      ]),
    },
    {
      key: "guests",
      label: "Guests",
      children:
        of.guests === 0
          ? "none that you can see"
          : listed([
              people("&kind=guest", count(of.guests, "guest")),
              of.guestsEnding > 0 && `${of.guestsEnding} ending within 30 days`,
              of.guestsWithoutEnd > 0 && `${of.guestsWithoutEnd} without an end`,
            ]),
    },
    {
      key: "services",
      label: "Services",
      children:
        of.services === 0
          ? "none"
          : listed([
              people("&kind=service", count(of.services, "service")),
              of.servicesWithoutSponsor > 0 &&
                `${of.servicesWithoutSponsor} for which nobody answers`,
            ]),
    },
    {
      key: "invited",
      label: "Invitations waiting",
      children: of.waiting === 0 ? "none" : listed(invitations),
    },
    {
      key: "seats",
      label: "Seats of limited roles",
      children:
        of.seats.length === 0
          ? "no role has a limit of holders"
          : listed(
              of.seats.map((it) => (
                <>
                  <Link to={`/rights/roles/${encodeURIComponent(it.key)}`}>{it.name}</Link>:{" "}
                  {seatsInWords(it)}
                </>
              )),
            ),
    },
    {
      key: "fields",
      label: "Fields asked",
      children: <AccountFields account={account} name={name} />,
    },
    {
      key: "owners",
      label: "Owners",
      children: <Owners account={account} of={of} />,
    },
  ];
  return (
    <section aria-label="Who belongs to it">
      <h2 className="part">Who belongs to it</h2>
      <Descriptions size="small" column={1} items={items} />
    </section>
  );
}

/** Who owns the account, and how ownership passes on; one owner alone is warned about. */
function Owners({ account, of }: { account: string; of: Summary }) {
  const navigate = useNavigate();
  const handOver = useHandOver(account);
  const assigns = useMay("mandala.access.assign", account);
  if (of.owners.length === 0) {
    return of.hiddenOwners ? "You can't see who owns it." : "Nobody. Assign the role Owner.";
  }
  return (
    <div>
      {listed(
        of.owners.map((owner) => (
          <>
            {person(owner)}{" "}
            {assigns && (
              <InlinePicker
                label={`Hand over from ${owner.name}`}
                look="link"
                value="hand over"
                picker={(close) => (
                  <NamePicker
                    label="New owner"
                    kinds={["principals"]}
                    onChoose={(it) => {
                      close();
                      void whenDone(
                        handOver.mutateAsync({ from: owner.key, to: it.key }),
                        ({ draft }) => void navigate(`/drafts/${draft}`),
                      );
                    }}
                  />
                )}
              />
            )}
          </>
        )),
      )}
      {of.hiddenOwners && " · and others whom you can't see"}
      {of.owners.length === 1 && !of.hiddenOwners && (
        <Alert
          type="warning"
          showIcon
          title="It has one owner only. When they can't come, nobody can act for the account: give the role Owner to a second person."
          style={{ marginTop: 8 }}
        />
      )}
      {handOver.isError && <ProblemAlert problem={handOver.error} />}
    </div>
  );
}
