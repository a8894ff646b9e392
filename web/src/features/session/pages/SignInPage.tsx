import { SignInForm } from "../components/SignInForm";

/** Where everybody begins. */
export function SignInPage({ demo }: { demo: boolean }) {
  return (
    <main className="sign-in-page">
      <header>
        <img src="/mark.svg" alt="" width="72" height="72" />
        <div>
          <h1>Mandala</h1>
          <p>Who may do what, and why.</p>
        </div>
      </header>
      <SignInForm demo={demo} />
    </main>
  );
}
