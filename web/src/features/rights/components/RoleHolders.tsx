import { InputNumber } from "antd";
import { Link } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { thingFrom } from "@/shared/lib/thing";
import { count, listed } from "@/shared/lib/words";

interface Props {
  page: Schemas["RolePage"];
  onSet: (fields: Record<string, unknown>) => void;
}

/** Who holds a role and through what, and how many holders it may have. */
export function RoleHolders({ page, onSet }: Props) {
  const { role, holders } = page;
  const thing = thingFrom(role.thing);
  const locked = role.supplied || role.cannot !== undefined;
  const limits = thing["minHolders"] !== undefined || thing["maxHolders"] !== undefined;
  const shown = limits || !locked;
  return (
    <section aria-label="Holders">
      <h2 className="part">
        {count(page.active, "active holder")}
        {page.holding > page.active && `, ${page.holding - page.active} not active`}
      </h2>
      {shown && (
        <div className="note">
          At least{" "}
          <Limit
            label="Least number of holders"
            value={thing["minHolders"]}
            locked={locked}
            onChange={(minHolders) => onSet({ minHolders })}
          />{" "}
          and at most{" "}
          <Limit
            label="Greatest number of holders"
            value={thing["maxHolders"]}
            locked={locked}
            onChange={(maxHolders) => onSet({ maxHolders })}
          />{" "}
          holders
        </div>
      )}
      {holders.length === 0 ? (
        <p className="note">No holders.</p>
      ) : (
        <ul className="plain-list">
          {holders.map((it) => (
            <li key={it.key} className={it.active ? undefined : "quiet"}>
              <Link to={`/people/${it.key}`}>{it.name}</Link>{" "}
              <small>
                {[it.title, !it.active && "not active", `through ${listed(it.by)}`]
                  .filter(Boolean)
                  .join(" · ")}
              </small>
            </li>
          ))}
        </ul>
      )}
      {page.holding > holders.length && (
        <p className="note">and {page.holding - holders.length} more</p>
      )}
    </section>
  );
}

interface LimitProps {
  label: string;
  value: unknown;
  locked: boolean;
  onChange: (value: number | null) => void;
}

function Limit({ label, value, locked, onChange }: LimitProps) {
  const shown = typeof value === "number" ? value : null;
  if (locked) return <>{shown ?? "any number of"}</>;
  return (
    <InputNumber<number>
      key={shown}
      size="small"
      style={{ width: 64 }}
      min={0}
      precision={0}
      aria-label={label}
      placeholder="any"
      {...(shown !== null && { defaultValue: shown })}
      changeOnWheel={false}
      onBlur={(event) => {
        const typed = event.target.value.trim();
        const next = typed === "" ? null : Number(typed);
        if (next !== shown && !Number.isNaN(next)) onChange(next);
      }}
    />
  );
}
