import { useState } from "react";
import { Segmented } from "antd";
import { Link } from "react-router";
import { STEP } from "../model";
import { useTrail } from "../queries";
import { TrailLines } from "./TrailLines";

/** The trail of one person: what was done to them, or what they did. */
export function PersonHistory({ who }: { who: string }) {
  const [side, setSide] = useState("about");
  const [limit, setLimit] = useState(STEP);
  const filter: Record<string, string> =
    side === "by" ? { who } : { kind: "principals", thing: who };
  const trail = useTrail(filter, limit);
  const whole = new URLSearchParams(filter).toString();
  return (
    <section aria-label="History">
      <div className="acts">
        <Segmented
          aria-label="Records"
          value={side}
          options={[
            { value: "about", label: "Changes to them" },
            { value: "by", label: "What they did" },
          ]}
          onChange={(it) => setSide(it)}
        />
        <Link to={`/trail?${whole}`}>Open in the trail</Link>
      </div>
      <TrailLines
        trail={trail}
        what="the history"
        none={side === "by" ? "They did nothing that you can see." : "No change that you can see."}
        onMore={() => setLimit(limit + 4 * STEP)}
      />
    </section>
  );
}
