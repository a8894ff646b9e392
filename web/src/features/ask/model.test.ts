import { describe, expect, it } from "vitest";
import { carriedTo } from "./model";

function carried(to: string, from: string, search: string): string {
  return decodeURIComponent(carriedTo(to, from, new URLSearchParams(search)));
}

describe("the forms of question", () => {
  it("begin with what the last one was about", () => {
    const about =
      "who=noor&in=q&permission=loan.draft&on=q-loan-1&at=2026-05-01T00:00:00Z&factor=1";
    expect(carried("/ask/why", "/ask", about)).toBe(
      "?who=noor&permission=loan.draft&on=q-loan-1&at=2026-05-01T00:00:00Z&in=q&factor=1",
    );
    expect(carried("/ask/differ", "/ask", "who=noor&in=q")).toBe("?one=noor&in=q");
    expect(carried("/side", "/ask", "who=noor")).toBe("?left=noor");
  });

  it("take the person back from a comparison, but no role or pattern", () => {
    expect(carried("/ask", "/ask/differ", "one=noor&other=petra")).toBe("?who=noor");
    expect(carried("/ask", "/ask/differ", "one=role:clerk&other=petra")).toBe("");
    expect(carried("/ask", "/side", "left=noor&right=petra")).toBe("?who=noor");
  });

  it("say the second factor in each form's own way", () => {
    expect(carried("/ask/who", "/ask", "who=noor&factor=1")).toBe("?who=noor");
    expect(carried("/ask", "/ask/who", "permission=p&below=hall")).toBe(
      "?permission=p&on=hall&factor=1",
    );
    expect(carried("/ask", "/ask/who", "permission=p&factor=0")).toBe("?permission=p");
  });

  it("begin empty where nothing was asked", () => {
    expect(carried("/ask/why", "/ask", "")).toBe("");
  });
});
