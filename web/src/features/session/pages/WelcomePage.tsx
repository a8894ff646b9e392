import { useState, type FormEvent } from "react";
import { Button, Input } from "antd";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { answerOf, api } from "../../../api/client";
import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";

const FIELDS = [
  { name: "accountName", label: "Name of the account", hint: "your organisation" },
  { name: "accountKey", label: "Key of the account", hint: "small letters, digits, - . _" },
  { name: "name", label: "Your name", hint: "" },
  { name: "key", label: "Your key", hint: "you sign in with it" },
  { name: "email", label: "Your e-mail address", hint: "may be left empty" },
  { name: "password", label: "Password", hint: "10 characters or more" },
] as const;

type Name = (typeof FIELDS)[number]["name"];

/** Creates the first owner, by the link that an empty start prints. */
export function WelcomePage() {
  const [params] = useSearchParams();
  const token = params.get("token") ?? "";
  const [values, setValues] = useState<Partial<Record<Name | "code", string>>>({});
  const enrolment = useQuery({
    queryKey: ["welcome", token],
    queryFn: () => answerOf(api.GET("/api/welcome", { params: { query: { token } } })),
    staleTime: Infinity,
    retry: false,
  });
  const create = useMutation({
    mutationFn: async () => {
      await answerOf(api.GET("/api/session"));
      await answerOf(
        api.POST("/api/welcome", {
          body: {
            token,
            accountKey: values.accountKey ?? "",
            accountName: values.accountName ?? "",
            key: values.key ?? "",
            name: values.name ?? "",
            ...(values.email && { email: values.email }),
            password: values.password ?? "",
            secret: enrolment.data?.secret ?? "",
            code: values.code ?? "",
          },
        }),
      );
    },
    onSuccess: () => window.location.assign("/"),
  });
  if (enrolment.isPending) return <Waiting what="the welcome" />;
  if (enrolment.isError) {
    return (
      <main className="sign-in-page">
        <ProblemNote problem={enrolment.error} />
      </main>
    );
  }
  const qr = enrolment.data.qr;
  function submit(event: FormEvent) {
    event.preventDefault();
    create.mutate();
  }
  return (
    <main className="sign-in-page">
      <header>
        <img src="/mark.svg" alt="" width="72" height="72" />
        <div>
          <h1>Welcome to Mandala</h1>
          <p>Create the first account and its owner. This link works once.</p>
        </div>
      </header>
      <form className="welcome" onSubmit={submit}>
        {FIELDS.map((field) => (
          <label key={field.name}>
            {field.label} <small>{field.hint}</small>
            <Input
              type={field.name === "password" ? "password" : "text"}
              value={values[field.name] ?? ""}
              required={field.name !== "email"}
              minLength={field.name === "password" ? 10 : undefined}
              onChange={(event) => setValues({ ...values, [field.name]: event.target.value })}
            />
          </label>
        ))}
        <fieldset>
          <legend>Second factor: an owner needs one</legend>
          {qr && (
            <svg viewBox={`0 0 ${qr.size} ${qr.size}`} width="168" height="168" role="img">
              <title>QR code for your authenticator</title>
              <rect width={qr.size} height={qr.size} fill="#fff" />
              <path d={qr.path} fill="#000" />
            </svg>
          )}
          <p>
            Read the code with an authenticator, or type <code>{enrolment.data.secret}</code> there.
          </p>
          <label>
            Code that it shows now
            <Input
              value={values.code ?? ""}
              inputMode="numeric"
              maxLength={8}
              required
              onChange={(event) => setValues({ ...values, code: event.target.value })}
            />
          </label>
        </fieldset>
        {create.isError && <ProblemNote problem={create.error} />}
        <Button type="primary" htmlType="submit" loading={create.isPending}>
          Create the owner
        </Button>
      </form>
    </main>
  );
}
