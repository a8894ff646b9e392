import { describe, expect, it } from "vitest";
import { mayBeQuestion, pageOf, sentenceOf, type Typed } from "./questionParser";

const noor = { key: "noor", name: "Noor Haddad", note: "" };
const pia = { key: "pia", name: "Pia Lund", note: "" };
const approve = { key: "loan.approve", name: "Approve loans", note: "" };
const loan = { key: "l-114", name: "Loan 114", note: "Quillhaven" };
const quill = { key: "account:quillhaven", name: "Quillhaven", note: "" };

function typed(form: string, more: Partial<Typed>): Typed {
  return { form, asked: true, unknown: [], ...more };
}

describe("a typed question", () => {
  it.each(["what can noor do", "omar: rights", "approve loans, who", "noor versus pia"])(
    "may be one: %s",
    (text) => expect(mayBeQuestion(text)).toBe(true),
  );

  it.each(["noor", "who", "Loan 114", ""])("is none: %s", (text) =>
    expect(mayBeQuestion(text)).toBe(false),
  );

  it.each([
    [typed("access", { person: noor }), "What can Noor Haddad do?", "/ask?who=noor&factor=1"],
    [
      typed("access", { person: noor, place: quill }),
      "What can Noor Haddad do in Quillhaven?",
      "/ask?who=noor&in=quillhaven&factor=1",
    ],
    [
      typed("who", { permission: approve, place: loan }),
      "Who can use “Approve loans” on Loan 114?",
      "/ask/who?permission=loan.approve&on=l-114",
    ],
    [
      typed("why", { person: noor, permission: approve }),
      "Why can, or can’t, Noor Haddad use “Approve loans” on …?",
      "/ask/why?who=noor&permission=loan.approve&factor=1",
    ],
    [
      typed("escalation", { person: noor, permission: approve, place: loan }),
      "How could Noor Haddad get “Approve loans” on Loan 114?",
      "/ask/escalation?who=noor&permission=loan.approve&on=l-114",
    ],
    [
      typed("difference", { person: noor, other: pia }),
      "How do Noor Haddad and Pia Lund differ?",
      "/ask/differ?one=noor&other=pia",
    ],
    [typed("side-by-side", { person: noor }), "Noor Haddad and …, side by side", "/side?left=noor"],
  ])("is told back, and leads to its page (%#)", (it, sentence, page) => {
    expect(sentenceOf(it)).toBe(sentence);
    expect(pageOf(it)).toBe(page);
  });
});
