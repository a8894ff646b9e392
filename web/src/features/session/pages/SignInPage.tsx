import { Cover } from "../components/Cover";
import { SignInForm } from "../components/SignInForm";

/** The sign-in page. */
export function SignInPage({ demo }: { demo: boolean }) {
  return (
    <Cover title="Mandala" subtitle="Who can do what, and why.">
      <SignInForm demo={demo} />
    </Cover>
  );
}
