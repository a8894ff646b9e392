import { useState } from "react";
import { Checkbox } from "antd";
import { Link } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { refOf } from "@/entities/subject/model";
import { SubjectPicker } from "@/entities/subject/SubjectPicker";
import { listOf } from "@/shared/lib/thing";
import { count } from "@/shared/lib/words";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { LinkButton } from "@/shared/ui/LinkButton";
import { ruleOf } from "../model";

interface Props {
  page: Schemas["GroupPage"];
  onAdd: (member: string) => void;
  onRemove: (members: string[]) => void;
}

/** Who is in a group and how; listed members can be removed. */
export function Members({ page, onAdd, onRemove }: Props) {
  const [chosen, setChosen] = useState<string[]>([]);
  const mayEdit = !page.group.cannot;
  const how = (it: Schemas["MemberView"]) =>
    it.listed ? undefined : ruleOf(page.group.thing) ? "by rule" : "through a nested group";
  return (
    <section aria-label="Members">
      <h2 className="part">{count(page.size, "member")}</h2>
      {mayEdit && (
        <div className="acts">
          <InlinePicker
            label="Members"
            look="button"
            value="Add a member"
            picker={(close) => (
              <SubjectPicker
                members
                without={listOf(page.group.thing, "members")}
                onChoose={(it) => {
                  onAdd(it.ref);
                  close();
                }}
              />
            )}
          />
          {chosen.length > 0 && (
            <LinkButton
              onClick={() => {
                onRemove(chosen);
                setChosen([]);
              }}
            >
              Remove {chosen.length} from group
            </LinkButton>
          )}
        </div>
      )}
      {page.members.length === 0 && <p className="note">No members that you can see.</p>}
      <ul className="plain-list">
        {page.members.map((it) => {
          const ref = refOf(it);
          return (
            <li key={it.key} className={it.active ? undefined : "quiet"}>
              {it.listed && mayEdit && (
                <Checkbox
                  aria-label={`Select ${it.name}`}
                  checked={chosen.includes(ref)}
                  onChange={(event) =>
                    setChosen(
                      event.target.checked
                        ? [...chosen, ref]
                        : chosen.filter((each) => each !== ref),
                    )
                  }
                />
              )}{" "}
              <Link to={`/people/${it.key}`}>{it.name}</Link>{" "}
              <small>
                {[it.title, it.account, !it.active && "not active", how(it)]
                  .filter(Boolean)
                  .join(" · ")}
              </small>
            </li>
          );
        })}
      </ul>
      {page.elsewhere && <p className="note">It also has members you can't see.</p>}
      {page.size > page.members.length && (
        <p className="note">and {page.size - page.members.length} more</p>
      )}
    </section>
  );
}
