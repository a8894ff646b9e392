import { Button, Space } from "antd";
import dayjs from "dayjs";
import { ReviewedTable } from "@/entities/decision/ReviewedTable";
import { NamePicker } from "@/entities/thing/NamePicker";
import { useThingName } from "@/entities/thing/ThingName";
import { useAddress } from "@/shared/lib/useAddress";
import { count, dayOf } from "@/shared/lib/words";
import { DateField } from "@/shared/ui/DateField";
import { EmptyState } from "@/shared/ui/EmptyState";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { useReviewed } from "../queries";

/** Whether somebody's access was reviewed, by whom, and what was done. */
export function ReviewedPage() {
  const [params, set] = useAddress();
  const person = params.get("person") ?? "";
  const since = params.get("since") ?? dayjs().subtract(3, "month").format("YYYY-MM-DD");
  const name = useThingName("principals", person);
  const found = useReviewed(person, since);
  const rows = found.data?.rows ?? [];
  return (
    <>
      <PageHead
        path={[{ name: "Reviews", to: "/reviews" }, { name: "Was somebody reviewed?" }]}
        title="Was somebody reviewed?"
      />
      <Sentence>
        What was decided about{" "}
        <Keep>
          <InlinePicker
            label="Whose access"
            value={person === "" ? "a person" : name}
            picker={(close) => (
              <NamePicker
                label="Whose access"
                kinds={["principals"]}
                value={person === "" ? undefined : person}
                onChoose={(it) => {
                  set({ person: it.key });
                  close();
                }}
              />
            )}
          />
        </Keep>{" "}
        since{" "}
        <Keep>
          <InlinePicker
            label="Since"
            value={dayOf(since)}
            picker={(close) => (
              <Space>
                <DateField
                  label="Since"
                  value={since}
                  onChange={(day) => day && set({ since: day })}
                />
                <Button onClick={close}>Done</Button>
              </Space>
            )}
          />
          ?
        </Keep>
      </Sentence>
      {person === "" && (
        <p className="note">Choose a person. You see what rounds asked and decided.</p>
      )}
      {person !== "" && found.isPending && <Loading what="the reviews" rows={4} />}
      {found.isError && <ProblemAlert problem={found.error} />}
      {found.data && rows.length === 0 && (
        <EmptyState title={`Nothing of ${found.data.about} was reviewed since ${dayOf(since)}`}>
          No round that you may read asked about it. Make one under Reviews.
        </EmptyState>
      )}
      {found.data && rows.length > 0 && (
        <>
          <p role="status">
            {count(rows.filter((it) => it.at).length, "decision")} about {found.data.about} since{" "}
            {dayOf(since)}.
          </p>
          <ReviewedTable rows={rows} />
        </>
      )}
    </>
  );
}
