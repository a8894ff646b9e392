import { useState, type FormEvent } from "react";
import { Button, Input } from "antd";
import { ProblemNote } from "../../../components/ProblemNote";
import { useDemoPeople, useSignIn } from "../queries";

interface Props {
  demo: boolean;
  name?: string;
  onDone?: () => void;
}

/** Name, password and code; in the demo its people can be chosen by a click. */
export function SignInForm({ demo, name: known = "", onDone }: Props) {
  const [name, setName] = useState(known);
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const signIn = useSignIn();
  const people = useDemoPeople(demo);

  function submit(event: FormEvent) {
    event.preventDefault();
    signIn.mutate(
      { name, password, ...(code.trim() && { code: code.trim() }) },
      { onSuccess: onDone },
    );
  }

  return (
    <div className="sign-in">
      <form onSubmit={submit} aria-label="Sign in">
        <label>
          Name or e-mail address
          <Input
            value={name}
            onChange={(event) => setName(event.target.value)}
            autoComplete="username"
            autoFocus
            required
          />
        </label>
        <label>
          Password
          <Input.Password
            value={password}
            onChange={(event) => setPassword(event.target.value)}
            autoComplete="current-password"
            required
          />
        </label>
        <label>
          Code of your second factor <small>if you are enrolled; you may add it later</small>
          <Input
            value={code}
            onChange={(event) => setCode(event.target.value)}
            inputMode="numeric"
            autoComplete="one-time-code"
            maxLength={8}
          />
        </label>
        {signIn.isError && <ProblemNote problem={signIn.error} />}
        <Button type="primary" htmlType="submit" loading={signIn.isPending} block>
          Sign in
        </Button>
      </form>
      {demo && (
        <section className="demo-people" aria-label="Demo people">
          <h2>This is the demo. Choose somebody:</h2>
          {people.isError && <ProblemNote problem={people.error} />}
          <ul>
            {people.data?.map((person) => (
              <li key={person.key}>
                <button
                  type="button"
                  onClick={() => {
                    setName(person.key);
                    setPassword(person.password);
                    setCode(person.code ?? "");
                  }}
                >
                  <strong>{person.name}</strong> <span>{person.title}</span>
                  <small>{person.about}</small>
                  {person.code && <code aria-label="current code">{person.code}</code>}
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}
