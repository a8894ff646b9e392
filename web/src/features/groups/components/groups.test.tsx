import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { Refusal, serve, show } from "@/shared/testing/served";
import { RuleBuilder } from "./RuleBuilder";

const takes = { count: 14, of: 94, first: [{ key: "a", name: "Ada Finch" }] };

describe("the rule builder", () => {
  it("counts who matches as the rule is built, and adds it to the draft", async () => {
    const put = vi.fn();
    const calls = serve({ "POST /api/places/rule": takes });
    show(<RuleBuilder account="q" rule={undefined} onPut={put} />);
    expect(screen.getByText("No one matches yet. Finish a test.")).toBeDefined();
    const add = screen.getByRole("button", { name: "Add rule to draft" });
    expect(add).toHaveProperty("disabled", true);
    await userEvent.type(screen.getByRole("combobox", { name: "Attribute of test 1" }), "title");
    await userEvent.type(screen.getByRole("textbox", { name: "Value of test 1" }), "Guard");
    expect(await screen.findByText("14 people of 94 match now: Ada Finch…")).toBeDefined();
    expect(calls.at(-1)?.body).toMatchObject({
      account: "q",
      rule: { all: [{ attribute: "title", op: "is", value: "Guard" }] },
    });
    await userEvent.click(add);
    expect(put).toHaveBeenCalledWith({ all: [{ attribute: "title", op: "is", value: "Guard" }] });
  });

  it("adds and removes tests, and removes the rule", async () => {
    const put = vi.fn();
    serve({ "POST /api/places/rule": takes });
    const rule = { match: "any" as const, tests: [{ attribute: "unit", op: "present" }] };
    show(<RuleBuilder account="q" rule={rule} onPut={put} />);
    expect(screen.queryByRole("textbox", { name: "Value of test 1" })).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "Add a test" }));
    expect(screen.getByRole("textbox", { name: "Value of test 2" })).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Remove test 2" }));
    expect(screen.queryByRole("textbox", { name: "Value of test 2" })).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "Remove rule" }));
    expect(put).toHaveBeenCalledWith(null);
  });

  it("says why nobody can be counted", async () => {
    serve({
      "POST /api/places/rule": new Refusal(422, { title: "Unknown attribute", detail: "Fix it." }),
    });
    const rule = { match: "all" as const, tests: [{ attribute: "x", op: "present" }] };
    show(<RuleBuilder account="q" rule={rule} onPut={vi.fn()} />);
    await waitFor(() =>
      expect(screen.getByText(/can't be counted: Unknown attribute/)).toBeDefined(),
    );
  });
});
