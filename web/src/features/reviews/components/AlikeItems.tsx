import { Button } from "antd";
import { isLeft } from "@/entities/decision/model";
import { useKeepAlike, type Item } from "@/entities/decision/queries";
import { count, listed } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";

interface Props {
  round: number;
  items: Item[];
  like: Item;
}

const isCalm = (it: Item) =>
  isLeft(it) &&
  (it.risk ?? "low") === "low" &&
  (it.recommended === undefined || it.recommended === "keep");

/** Keeps items of low risk that are alike at once, and says what they have in common. */
export function AlikeItems({ round, items, like }: Props) {
  const keep = useKeepAlike(round);
  const alike = items.filter((it) => it.alike === like.alike && isCalm(it));
  if (!isCalm(like) || alike.length < 2) return null;
  const names = alike.map((it) => it.aboutName);
  return (
    <section aria-label="Items that are alike">
      <p className="note">
        {count(alike.length, "item")} of low risk are alike: {like.said}, for{" "}
        {listed(names.length > 4 ? [...names.slice(0, 3), `${names.length - 3} more`] : names)}.
        None of them is recommended to remove.{" "}
        <Button
          size="small"
          loading={keep.isPending}
          onClick={() => keep.mutate({ items: alike.map((it) => it.number) })}
        >
          Keep these {alike.length}
        </Button>
      </p>
      {keep.isError && <ProblemAlert problem={keep.error} />}
    </section>
  );
}
