import { lazy, Suspense, useState } from "react";
import { useDeclaredFields } from "@/entities/form/fieldQueries";
import { LinkButton } from "@/shared/ui/LinkButton";

const FieldsDialog = lazy(() =>
  import("./FieldsDialog").then((it) => ({ default: it.FieldsDialog })),
);

/** The fields that an account asks of its people, and the way to declare them. */
export function AccountFields({ account, name }: { account: string; name: string }) {
  const [edited, setEdited] = useState(false);
  const declared = useDeclaredFields(account);
  const fields = declared.data?.fields ?? [];
  return (
    <span>
      {fields.length === 0
        ? "none besides those of every person"
        : fields
            .map((it) => (it.own ? it.field.label : `${it.field.label} (from above)`))
            .join(" · ")}{" "}
      {declared.data?.mine && <LinkButton onClick={() => setEdited(true)}>edit fields</LinkButton>}
      {edited && (
        <Suspense>
          <FieldsDialog
            account={account}
            name={name}
            fields={fields.filter((it) => it.own).map((it) => it.field)}
            onClose={() => setEdited(false)}
          />
        </Suspense>
      )}
    </span>
  );
}
