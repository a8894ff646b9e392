import { describe, expect, it } from "vitest";
import { questionIn, meant, pageOf } from "./questionParser";

describe("a typed question", () => {
  it.each([
    ["What can Noor Haddad do?", { form: "access", who: "noor haddad", where: "" }],
    [
      "what can noor haddad do in quillhaven sea museum",
      { form: "access", who: "noor haddad", where: "quillhaven sea museum" },
    ],
    [
      "Who can approve loans on Loan 114?",
      { form: "who", what: "approve loans", where: "loan 114" },
    ],
    ["How does Noor differ from Pia?", { form: "differ", one: "noor", other: "pia" }],
    [
      "Why can’t Noor Haddad edit objects on Figurehead?",
      { form: "why", who: "noor haddad", what: "edit objects", where: "figurehead" },
    ],
    [
      "why can Noor do edit objects on Figurehead",
      { form: "why", who: "noor", what: "edit objects", where: "figurehead" },
    ],
    [
      "how could Marten come to approve loans on loan 103",
      { form: "chains", who: "marten", what: "approve loans", where: "loan 103" },
    ],
  ])("%s", (typed, asked) => {
    expect(questionIn(typed)).toEqual(asked);
  });

  it.each(["noor", "what can noor", "who can approve", "whose", ""])("is none: %s", (typed) => {
    expect(questionIn(typed)).toBeUndefined();
  });

  it("means the thing of that name before any other that was found", () => {
    const found = [
      { key: "l-1140", name: "Loan 1140" },
      { key: "l-114", name: "Loan 114" },
    ];
    expect(meant("loan 114", found)?.key).toBe("l-114");
    expect(meant("l-1140", found)?.key).toBe("l-1140");
    expect(meant("loan", found)?.key).toBe("l-1140");
    expect(meant("loan", [])).toBeUndefined();
  });

  it("leads to its page, or says which name is not known", () => {
    expect(pageOf({ form: "access", who: "n", where: "" }, { who: "noor" })).toEqual({
      page: "/ask?who=noor&factor=1",
    });
    expect(pageOf({ form: "access", who: "n", where: "q" }, { who: "noor" })).toEqual({
      unknown: "q",
    });
    expect(
      pageOf({ form: "who", what: "a", where: "l" }, { what: "loan.approve", where: "l-1" }),
    ).toEqual({ page: "/ask/who?permission=loan.approve&on=l-1" });
    expect(pageOf({ form: "differ", one: "a", other: "b" }, { who: "a" })).toEqual({
      unknown: "b",
    });
    const three = { who: "noor", what: "object.edit", where: "o-1" };
    expect(pageOf({ form: "why", who: "n", what: "e", where: "f" }, three)).toEqual({
      page: "/ask/why?who=noor&permission=object.edit&on=o-1&factor=1",
    });
    expect(pageOf({ form: "chains", who: "n", what: "e", where: "f" }, three)).toEqual({
      page: "/ask/chains?who=noor&permission=object.edit&on=o-1",
    });
    expect(pageOf({ form: "why", who: "n", what: "e", where: "f" }, { who: "noor" })).toEqual({
      unknown: "e",
    });
  });
});
