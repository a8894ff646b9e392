import { useState } from "react";
import { Button } from "antd";
import { useNavigate } from "react-router";
import { LazyThingForm } from "@/entities/form/LazyThingForm";
import { useMayMake } from "@/entities/form/useMayMake";

/** Makes a person or a service in an account; its page opens under the key that it got. */
export function NewPerson({ account }: { account: string }) {
  const [kind, setKind] = useState<"person" | "service">();
  const navigate = useNavigate();
  const may = useMayMake("principals", account || undefined);
  if (!may) return null;
  return (
    <div className="acts" style={{ margin: 0 }}>
      <Button size="small" onClick={() => setKind("person")}>
        New person
      </Button>
      <Button size="small" onClick={() => setKind("service")}>
        New service
      </Button>
      <Button size="small" onClick={() => void navigate("/bring-in")}>
        Bring in many
      </Button>
      <Button size="small" onClick={() => void navigate("/watch-rules")}>
        Rules
      </Button>
      <Button size="small" onClick={() => void navigate("/personnel")}>
        Personnel lists
      </Button>
      {kind && (
        <LazyThingForm
          key={kind}
          kind="principals"
          one={kind}
          decided={["kind"]}
          given={{
            kind,
            ...(account && { account }),
            ...(kind === "person" && { status: "invited" }),
          }}
          onClose={() => setKind(undefined)}
          onMade={(key) => void navigate(`/people/${encodeURIComponent(key)}`)}
        />
      )}
    </div>
  );
}
