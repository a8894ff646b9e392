import { useState } from "react";
import { Button, Checkbox } from "antd";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { useAccountNames } from "@/entities/account/queries";
import type { Schemas } from "@/shared/api/client";
import { usePersonPage } from "@/entities/thing/queries";
import { textOf, thingFrom } from "@/shared/lib/thing";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { BecomesChoice } from "../components/BecomesChoice";
import { MoveSentence, type Post } from "../components/MoveSentence";
import { TieTable } from "../components/TieTable";
import { fatesOf, instantOf, isComplete, shareInWords } from "../lifecycle";
import { useMove, useTies } from "../lifecycleQueries";

/** Moves somebody to another post: what they keep, lose, hand over and join. */
export function MovePage() {
  const { key = "" } = useParams();
  const page = usePersonPage(key);
  if (page.isPending) return <Loading what="the person" rows={8} />;
  if (page.isError) return <ProblemAlert problem={page.error} />;
  return <Move key={key} page={page.data} />;
}

function Move({ page }: { page: Schemas["PersonPage"] }) {
  const key = page.person.key ?? "";
  const navigate = useNavigate();
  // a guest is taken on where they are one
  const to = useSearchParams()[0].get("account");
  const accountName = useAccountNames();
  const stays = to === null || to === page.account?.key;
  const [post, setPost] = useState<Post>({
    account: (stays ? page.account?.key : to) ?? "",
    accountName: (stays ? page.account?.name : accountName(to)) ?? "",
    unit: (stays && page.unit?.key) || "",
    unitName: (stays && page.unit?.name) || "",
    title: textOf(thingFrom(page.person.thing)["attributes"], "title"),
    manager: (stays && page.manager?.key) || "",
    at: "",
    grace: "",
  });
  const [chosen, setChosen] = useState<Record<string, Schemas["FateOrder"]>>({});
  const [joins, setJoins] = useState<string[]>();
  const ties = useTies(key, {
    act: "move",
    account: post.account,
    unit: post.unit,
    title: post.title,
    grace: post.grace !== "",
  });
  const move = useMove(key);
  const fates = fatesOf(ties.data?.ties ?? [], chosen);
  const groups = ties.data?.groups ?? [];
  const joined = joins ?? groups.map((it) => it.key);
  const at = instantOf(post.at);
  const grace = instantOf(post.grace);
  return (
    <>
      <PageHead
        path={[
          { name: "People", to: "/people" },
          { name: page.person.name, to: `/people/${encodeURIComponent(key)}` },
        ]}
        title={`Move ${page.person.name}`}
      />
      <MoveSentence name={page.person.name} self={key} post={post} onChange={setPost} />
      {ties.isError && <ProblemAlert problem={ties.error} />}
      {ties.isPending && <Loading what="what they have" rows={6} />}
      {ties.isSuccess && (
        <>
          {groups.length > 0 && (
            <section aria-label="Groups to join">
              <h2 className="part">Groups that most new colleagues are in</h2>
              <Checkbox.Group
                value={joined}
                onChange={setJoins}
                options={groups.map((it) => ({
                  value: it.key,
                  label: `${it.name} (${shareInWords(it.colleagues)})`,
                }))}
              />
            </section>
          )}
          <h2 className="part">What they have now</h2>
          <TieTable
            label="What happens to what they have"
            ties={ties.data.ties}
            colleagues="after"
            becomes={(tie) => (
              <BecomesChoice
                tie={tie}
                grace={post.grace !== ""}
                not={key}
                fate={fates[tie.id] ?? { becomes: "keep" }}
                onChange={(fate) => setChosen({ ...chosen, [tie.id]: fate })}
              />
            )}
          />
          <p className="note">
            What they have by job, unit or account changes by itself.
            {ties.data.elsewhere && " They have more in accounts that you can't see."}
          </p>
          <div className="acts">
            <Button
              type="primary"
              disabled={!isComplete(fates)}
              loading={move.isPending}
              onClick={() =>
                move.mutate(
                  {
                    account: post.account,
                    ...(post.unit !== "" && { unit: post.unit }),
                    ...(post.manager !== "" && { manager: post.manager }),
                    ...(post.title.trim() !== "" && { title: post.title.trim() }),
                    ...(at !== undefined && { at }),
                    ...(grace !== undefined && { grace }),
                    fates,
                    joins: joined,
                  },
                  {
                    onSuccess: (it) =>
                      void navigate(it.draft ? `/drafts/${it.draft}` : `/people/${key}`),
                  },
                )
              }
            >
              {at === undefined ? "Add to draft" : "Plan move"}
            </Button>
            {!isComplete(fates) && (
              <span className="quiet">Choose who takes over what is handed over.</span>
            )}
          </div>
          {move.isError && <ProblemAlert problem={move.error} />}
        </>
      )}
    </>
  );
}
