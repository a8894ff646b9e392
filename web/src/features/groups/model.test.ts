import { expect, it } from "vitest";
import { ruleOf, written } from "./model";

it("a rule is written as it was read, unfinished tests left out", () => {
  const rule = { any: [{ attribute: "title", op: "in", value: ["Guard", "Porter"] }] };
  const read = ruleOf({ rule });
  expect(read?.match).toBe("any");
  expect(written(read ?? { match: "all", tests: [] })).toEqual(rule);
  expect(written({ match: "all", tests: [{ attribute: "title", op: "is", value: "" }] })).toBe(
    undefined,
  );
  expect(
    written({
      match: "all",
      tests: [
        { attribute: "unit", op: "present", value: "left over" },
        { attribute: "title", op: "in", value: "Guard, Porter ," },
        { attribute: "", op: "is", value: "x" },
      ],
    }),
  ).toEqual({
    all: [
      { attribute: "unit", op: "present" },
      { attribute: "title", op: "in", value: ["Guard", "Porter"] },
    ],
  });
  expect(ruleOf({})).toBeUndefined();
});
