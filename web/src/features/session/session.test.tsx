import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { Refusal, serve, show } from "@/shared/testing/served";
import { SecondFactor } from "./components/SecondFactor";
import { SignInPage } from "./pages/SignInPage";
import { WelcomePage } from "./pages/WelcomePage";

const people = [
  {
    key: "ilse",
    name: "Ilse Varga",
    title: "Security",
    about: "owns it",
    password: "larkmoor",
    code: "123456",
  },
  { key: "noor", name: "Noor Haddad", title: "Loans", about: "drafts loans", password: "larkmoor" },
];

describe("signing in", () => {
  it("fills in a person of the demo, with the current code", async () => {
    const calls = serve({
      "/api/demo/people": people,
      "POST /api/session": { demo: true, who: { key: "ilse", name: "Ilse Varga" } },
    });
    show(<SignInPage demo />);
    await userEvent.click(await screen.findByText("Ilse Varga"));
    await userEvent.click(screen.getByRole("button", { name: "Sign in" }));
    await waitFor(() =>
      expect(calls.find((it) => it.method === "POST")?.body).toEqual({
        name: "ilse",
        password: "larkmoor",
        code: "123456",
      }),
    );
  });

  it("names what is missing, and sends nothing", async () => {
    const calls = serve({});
    show(<SignInPage demo={false} />);
    await userEvent.click(screen.getByRole("button", { name: "Sign in" }));
    expect(await screen.findByText("Enter your name or e-mail address.")).toBeDefined();
    expect(screen.getByText("Enter your password.")).toBeDefined();
    expect(calls).toHaveLength(0);
    expect(screen.queryByText(/This is the demo/)).toBeNull();
  });

  it("keeps the name where the password is wrong", async () => {
    serve({
      "POST /api/session": new Refusal(401, {
        title: "You are not signed in",
        detail: "The name or the password is wrong.",
      }),
    });
    show(<SignInPage demo={false} />);
    await userEvent.type(screen.getByLabelText("Name or e-mail address"), "pia");
    await userEvent.type(screen.getByLabelText("Password"), "guess{Enter}");
    expect(await screen.findByText("The name or the password is wrong.")).toBeDefined();
    expect(screen.getByDisplayValue("pia")).toBeDefined();
  });
});

describe("the second factor", () => {
  it("is taken later in a session", async () => {
    const done = vi.fn();
    const calls = serve({ "POST /api/session/second-factor": { demo: false } });
    show(<SecondFactor onDone={done} />);
    await userEvent.click(screen.getByRole("button", { name: "Confirm" }));
    expect(await screen.findByText(/Enter the code/)).toBeDefined();
    await userEvent.type(screen.getByLabelText("Code of your second factor"), "123456{Enter}");
    await waitFor(() => expect(done).toHaveBeenCalledOnce());
    expect(calls[0]?.body).toEqual({ code: "123456" });
  });
});

describe("the first owner", () => {
  it("fills in every field, with the secret of the link", async () => {
    const calls = serve({
      "/api/welcome": { secret: "ABCDEF", address: "otpauth://x" },
      "/api/session": { demo: false },
      "POST /api/welcome": new Refusal(422, {
        title: "The code is wrong",
        detail: "Try the next.",
      }),
    });
    show(<WelcomePage />, "/welcome?token=t1");
    await userEvent.type(await screen.findByLabelText("Name of the account"), "Harbour");
    await userEvent.type(screen.getByLabelText("Key of the account"), "Harbour!");
    await userEvent.click(screen.getByRole("button", { name: "Create owner" }));
    expect((await screen.findAllByText(/Use small letters/)).length).toBeGreaterThan(0);
    await userEvent.clear(screen.getByLabelText("Key of the account"));
    await userEvent.type(screen.getByLabelText("Key of the account"), "harbour");
    await userEvent.type(screen.getByLabelText("Your name"), "Ola Nordmann");
    await userEvent.type(screen.getByLabelText("Your key"), "ola");
    await userEvent.type(screen.getByLabelText("Password"), "a long password");
    await userEvent.type(screen.getByLabelText("Code that the app shows now"), "123456");
    await userEvent.click(screen.getByRole("button", { name: "Create owner" }));
    expect(await screen.findByText("The code is wrong")).toBeDefined();
    expect(calls.find((it) => it.method === "POST")?.body).toEqual({
      token: "t1",
      secret: "ABCDEF",
      accountName: "Harbour",
      accountKey: "harbour",
      name: "Ola Nordmann",
      key: "ola",
      password: "a long password",
      code: "123456",
    });
  });

  it("says where the link has expired", async () => {
    serve({
      "/api/welcome": new Refusal(404, { title: "Not found", detail: "This link has expired." }),
    });
    show(<WelcomePage />, "/welcome?token=old");
    expect(await screen.findByText("This link has expired.")).toBeDefined();
  });
});
