import type { ReactNode } from "react";
import { Link } from "react-router";
import { EmptyState } from "./EmptyState";

interface Props {
  /** What the page shows to those who may see it, in the plural. */
  what: string;
  /** What these are, in one sentence. */
  children: ReactNode;
}

/** A page of which the viewer may see nothing: what it is, and whom to ask. */
export function NoAccess({ what, children }: Props) {
  return (
    <EmptyState title={`You can't see ${what}`}>
      {children} Your own access is under <Link to="/you">You</Link>. Ask a security administrator
      if you need more.
    </EmptyState>
  );
}
