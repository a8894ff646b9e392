import { Suspense } from "react";
import { Button } from "antd";
import { useLocation, useRoutes } from "react-router";
import { useSession, WhoContext } from "@/entities/session";
import { SignInPage } from "@/features/session";
import { impersonation, leave } from "@/shared/lib/impersonation";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Frame } from "./Frame";
import { JoinPage, ROUTES, StartViewPage, WelcomePage } from "./routes";

/** The whole application: sign-in, or the frame with the page of the address. */
export function Application() {
  const session = useSession();
  const { pathname } = useLocation();
  const page = useRoutes(ROUTES);
  if (pathname === "/welcome" || pathname === "/join") {
    return (
      <Suspense fallback={<Loading what="the page" />}>
        {pathname === "/join" ? <JoinPage /> : <WelcomePage />}
      </Suspense>
    );
  }
  if (session.isPending) return <Loading what="Mandala" />;
  if (session.isError) {
    return (
      <main style={{ padding: 24 }}>
        <ProblemAlert problem={session.error} onRetry={() => void session.refetch()} />
        {impersonation() && <Button onClick={() => leave("/")}>Leave this view</Button>}
      </main>
    );
  }
  const who = session.data.who;
  if (!who) return <SignInPage demo={session.data.demo} />;
  return (
    <WhoContext value={who}>
      {pathname === "/look" ? (
        <Suspense fallback={<Loading what="the view" />}>
          <StartViewPage />
        </Suspense>
      ) : (
        <Frame by={session.data.seenBy}>
          <Suspense fallback={<Loading what="the page" rows={10} />}>{page}</Suspense>
        </Frame>
      )}
    </WhoContext>
  );
}
