import { render } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { VerdictMark } from "./VerdictMark";

describe("verdicts differ by shape", () => {
  it.each(["allowed", "blocked", "denied", "none"] as const)("%s", (verdict) => {
    const { container } = render(<VerdictMark verdict={verdict} accessClass="view" risk="high" />);
    const shapes = { allowed: "path", blocked: "path", denied: "path,path", none: "circle" };
    expect([...container.querySelectorAll("svg *")].map((it) => it.tagName).join()).toBe(
      shapes[verdict],
    );
    expect(container.querySelector("path")?.getAttribute("fill") ?? "").toBe(
      { allowed: "var(--view-high)", blocked: "none", denied: "var(--view-low)", none: "" }[
        verdict
      ],
    );
  });
});
