import { fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { Problem } from "../api/client";
import { Choose } from "./Choose";
import { ProblemNote } from "./ProblemNote";
import { VerdictMark } from "./VerdictMark";

const options = [
  { value: "q", label: "Quillhaven" },
  { value: "f", label: "Fernwick", note: "sealed" },
];

describe("choosing from a list", () => {
  it("filters by typing and chooses by arrows and Enter", async () => {
    const choose = vi.fn();
    render(<Choose label="Account" options={options} onChoose={choose} />);
    await userEvent.keyboard("{ArrowDown}{Enter}");
    expect(choose).toHaveBeenLastCalledWith("f");
    await userEvent.type(screen.getByRole("combobox"), "quill{Enter}");
    expect(choose).toHaveBeenLastCalledWith("q");
    expect(screen.getAllByRole("option")).toHaveLength(1);
  });

  it("chooses by the press: the button may come up elsewhere while the list still moves", () => {
    const choose = vi.fn();
    render(<Choose label="Account" options={options} onChoose={choose} />);
    const option = screen.getByText("Fernwick");
    fireEvent.mouseDown(option, { button: 2 });
    expect(choose).not.toHaveBeenCalled();
    fireEvent.mouseDown(option, { button: 0 });
    fireEvent.mouseUp(screen.getByText("Quillhaven"));
    expect(choose).toHaveBeenCalledExactlyOnceWith("f");
  });

  it("chooses once by a whole click, and by one without a press", async () => {
    const choose = vi.fn();
    render(<Choose label="Account" options={options} onChoose={choose} />);
    await userEvent.click(screen.getByText("Fernwick"));
    expect(choose).toHaveBeenCalledExactlyOnceWith("f");
    fireEvent.click(screen.getByText("Quillhaven"), { detail: 0 });
    expect(choose).toHaveBeenCalledTimes(2);
    expect(choose).toHaveBeenLastCalledWith("q");
  });

  it("says where nothing fits", async () => {
    render(<Choose label="Account" options={options} onChoose={vi.fn()} />);
    await userEvent.type(screen.getByRole("combobox"), "zzz");
    expect(screen.getByText("Nothing fits what you typed.")).toBeTruthy();
  });
});

describe("a problem", () => {
  it("says what, where and what to do", async () => {
    const retry = vi.fn();
    const problem = new Problem(422, "The document has a fault", "Mend it.", [
      { path: "$.units[0].account", what: "there is no account 'x'", next: "Name one" },
    ]);
    render(<ProblemNote problem={problem} onRetry={retry} />);
    expect(screen.getByRole("alert").textContent).toContain(
      "$.units[0].account there is no account 'x'. Name one.",
    );
    await userEvent.click(screen.getByText("Try again"));
    expect(retry).toHaveBeenCalledOnce();
  });
});

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
